export { Pennant } from './Pennant';
