export * from './doors.ts';
export * from './standing.ts';
export * from './known.ts';
export * from './stages.ts';
export { readAtTruths } from './reading.ts';
export * from './help.ts';
export * from './thresholdTable.ts';
export * from './hour.ts';
export * from './misreads.ts';
