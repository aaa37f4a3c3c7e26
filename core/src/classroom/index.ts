export * from './stages.ts';
export * from './help.ts';
