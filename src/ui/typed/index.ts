export { LeftNote } from './LeftNote';
export { useTyped } from './use-typed';
