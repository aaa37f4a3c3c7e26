export * from './random.ts';
export * from './lightModel.ts';
export * from './trace.ts';
export * from './setup.ts';
export * from './conditions.ts';
export { Kernel, simulate, TRACE_MS, REST_MM_PER_S } from './kernel.ts';
