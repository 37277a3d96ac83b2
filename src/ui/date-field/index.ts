export { DateField } from './DateField';
