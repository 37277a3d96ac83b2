export { SeasonList } from './SeasonList';
