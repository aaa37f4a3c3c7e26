export * from './standing.ts';
export * from './stages.ts';
export * from './help.ts';
export * from './thresholdTable.ts';
