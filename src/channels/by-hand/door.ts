export { handDoor as door } from '../kit/hand-door';
