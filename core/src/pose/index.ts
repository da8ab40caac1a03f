export * from './angles.ts';
export * from './quaternion.ts';
export * from './rotation-order.ts';
