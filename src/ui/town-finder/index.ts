export { TownFinder } from './TownFinder';
