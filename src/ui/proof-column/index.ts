export { ProofColumn } from './ProofColumn';
