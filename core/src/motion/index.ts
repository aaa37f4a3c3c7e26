export * from './arc.ts';
export * from './lag.ts';
export * from './wheels.ts';
export * from './stopping.ts';
export * from './stopGap.ts';
export * from './turning.ts';
export * from './sound.ts';
export * from './fitBraking.ts';
