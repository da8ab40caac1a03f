export * as affine from './affine.ts';
export * from './angles.ts';
export * from './quaternion.ts';
export * from './rotation-order.ts';
export type { Vector } from './vectors.ts';
