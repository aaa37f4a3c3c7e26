export * from './formula.ts';
export { robustness } from './robustness.ts';
export * from './derived.ts';
export * from './expectation.ts';
export * from './wilson.ts';
export * from './proof.ts';
export * from './formulaText.ts';
export { happeningFormula, happeningWords } from './templates.ts';
export * from './builder.ts';
