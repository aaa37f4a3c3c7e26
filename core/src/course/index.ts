export * from './course.ts';
export * from './marks.ts';
export * from './footprint.ts';
export * from './lightField.ts';
export * from './stopLine.ts';
export * from './solids.ts';
export * from './families/index.ts';
