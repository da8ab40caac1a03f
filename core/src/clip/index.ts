export { CompiledWay } from '../evaluate/way.ts';
export * from './at-work.ts';
export { phaseOf } from './circle.ts';
export { opposite } from './halves.ts';
export { poseLabels } from './labels.ts';
export { lackingOf } from './lacking.ts';
export { lengthFor } from './resized.ts';
export { heldChannels } from './stances.ts';
export type { Variation } from './varied.ts';
