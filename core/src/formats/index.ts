export * from './lineProtocol.ts';
export * from './csv.ts';
export * from './readingsCsv.ts';
