export * from './strip.ts';
export * from './plan.ts';
export * from './visits.ts';
export * from './learn.ts';
export * from './queue.ts';
export * from './pace.ts';
export * from './outlook.ts';
