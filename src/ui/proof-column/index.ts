export { ProofColumn } from './ProofColumn';
export type { OnOverride } from './slip-props';
