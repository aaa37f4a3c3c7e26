export * from './student.ts';
export * from './welch.ts';
export * from './wilson.ts';
