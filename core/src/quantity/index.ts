export * from './units.ts';
export * from './angles.ts';
export * from './format.ts';
export * from './outcome.ts';
export * from './sameMath.ts';
