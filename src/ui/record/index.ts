export { RecordScreen, type SaveAnswer } from './RecordScreen';
