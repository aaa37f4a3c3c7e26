export * from './lineProtocol.ts';
