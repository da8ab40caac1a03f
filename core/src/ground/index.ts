export * from './ground.ts';
export * from './way-over.ts';
