export * from './camera.ts';
export * from './runs.ts';
export * from './shot-of.ts';
