export * from './suggested.ts';
