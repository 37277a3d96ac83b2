export { DateField } from './DateField';
export { UnreadFields, useUnreadFields } from './unread';
