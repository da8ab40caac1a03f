export * from './ground.ts';
export { type Box, snapAlong, snapSize, toStep } from './snap.ts';
export * from './way-over.ts';
export * from './way-through.ts';
