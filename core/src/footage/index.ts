export * from './bounces.ts';
export * from './rows.ts';
export * from './time.ts';
export * from './traced.ts';
