export { HaveFeeds, Subscribe } from './Subscribe';
export { FeedAddress } from './FeedAddress';
