export * from './outline.ts';
export * from './points.ts';
export * from './strokes.ts';
