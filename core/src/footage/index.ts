export * from './bounces.ts';
export * from './time.ts';
export * from './traced.ts';
