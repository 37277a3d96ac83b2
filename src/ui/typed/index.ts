export { LeftNote } from './LeftNote';
export { useTyped, type Typed } from './use-typed';
