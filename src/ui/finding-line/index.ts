export { FindingLine } from './FindingLine';
