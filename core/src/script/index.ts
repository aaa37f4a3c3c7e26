export * from './ast.ts';
export * from './walk.ts';
export * from './findings.ts';
export { parseScript, canRun, SCRIPT_LIMIT } from './parse.ts';
export { kindOf, sensorKindWords, sensorItems, builtIns, colourWords } from './kinds.ts';
export { keywords } from './keywords.ts';
export { shapes } from './shapes.ts';
export { review, type ReviewContext } from './review.ts';
export { scriptLanguage } from './highlight.ts';
