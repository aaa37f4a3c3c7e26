export * from './lesson.ts';
export * from './rehearsal.ts';
