export { DateField } from './DateField';
export { UnreadFields, useUnread, useUnreadFields } from './unread';
