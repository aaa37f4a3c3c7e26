export * from './arc.ts';
export * from './lag.ts';
export * from './wheels.ts';
export * from './stopping.ts';
