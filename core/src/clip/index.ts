export * from './at-work.ts';
export { phaseOf } from './circle.ts';
export { opposite } from './halves.ts';
export { heldChannels } from './stances.ts';
