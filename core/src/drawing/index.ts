export * from './outline.ts';
export * from './points.ts';
