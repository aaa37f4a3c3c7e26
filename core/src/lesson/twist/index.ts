export * from './twist.ts';
export * from './arithmetic.ts';
export * from './draw.ts';
export * from './variant.ts';
export { writtenBack } from './writtenBack.ts';
export { loneNumbers, textsFollow, type LoneNumber } from './followTexts.ts';
export { withCourse } from './withCourse.ts';
