export { RecordScreen } from './RecordScreen';
export type { SaveAnswer } from './record-screen-props';
