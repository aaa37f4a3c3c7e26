export { isKeyword } from './keywords.ts';
export { depthOf, partsOf, readNotation, type Failure, type Notation } from './read.ts';
