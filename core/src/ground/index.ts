export * from './ground.ts';
