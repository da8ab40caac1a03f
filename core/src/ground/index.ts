export * from './ground.ts';
export { type Box, snapAlong, toStep } from './snap.ts';
export * from './way-over.ts';
export * from './way-through.ts';
