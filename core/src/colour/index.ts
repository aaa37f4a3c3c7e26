export * from './colours.ts';
export { studyNames, type NamedSurface } from '../sensing/index.ts';
