export * from './kinds.ts';
export * from './media.ts';
export * from './used.ts';
