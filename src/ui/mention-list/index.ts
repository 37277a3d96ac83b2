export { MentionList } from './MentionList';
