export { DateField } from './DateField';
export { TodayProvider } from './Today';
