export * from './lineProtocol.ts';
export * from './csv.ts';
export * from './teamNames.ts';
export * from './readingsCsv.ts';
export * from './courseSvg.ts';
export * from './runLog.ts';
export * from './lessonFile.ts';
export * from './lessonMarkdown.ts';
