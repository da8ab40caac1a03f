export * from './build.ts';
export { dressed } from './dressed.ts';
export * from './joints.ts';
export * from './outfit.ts';
export * from './shell.ts';
export * from './through.ts';
export { TriangleTree } from './triangle-tree.ts';
export * from './weights.ts';
