export * from './surfaces.ts';
export * from './judgeThreshold.ts';
export { crossing, fewestByCounting } from './fewestMisreads.ts';
export * from './safeStretch.ts';
export * from './ways.ts';
