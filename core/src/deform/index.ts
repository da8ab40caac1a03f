export { PARAMETERS } from './define.ts';
export { type DeformerKind, deformerKinds, deformers } from './kinds.ts';
