export * from './skills.ts';
export * from './evidence.ts';
export * from './shown.ts';
