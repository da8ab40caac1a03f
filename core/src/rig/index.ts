export { PartIdSchema } from '../schema/part-id.ts';
export { type CompiledRig, compileRig, isOpen } from './compiled.ts';
export * from './definition.ts';
export { softReach } from './limb.ts';
export * from './links.ts';
export type { PlacedRig } from './placed.ts';
export * from './pose-book.ts';
export * from './problems.ts';
export * from './rigs.ts';
