export * from './compare.ts';
export * from './moved.ts';
export * from './suggested.ts';
