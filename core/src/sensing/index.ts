export * from './kit.ts';
export * from './preflight.ts';
export * from './sampleSet.ts';
export * from './liveCheck.ts';
