export * from './colours.ts';
