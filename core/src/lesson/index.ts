export * from './lesson.ts';
export * from './rehearsal.ts';
export * from './simRobot.ts';
export * from './strength.ts';
export { courseFacts } from './courseFacts.ts';
export * from './smallestChange.ts';
export * from './measures.ts';
