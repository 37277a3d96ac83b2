export { DateBlock } from './DateBlock';
