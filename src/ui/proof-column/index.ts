export { ProofColumn, type OnOverride } from './ProofColumn';
