export * from './ast.ts';
export * from './findings.ts';
export { parseScript, canRun, SCRIPT_LIMIT } from './parse.ts';
export { kindOf, sensorKindWords } from './lower.ts';
export { keywords } from './keywords.ts';
export { shapes } from './shapes.ts';
export { review, type ReviewContext } from './review.ts';
export { scriptLanguage } from './highlight.ts';
