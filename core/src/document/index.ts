export * from './channels.ts';
export * from './hierarchy.ts';
export * from './ids.ts';
export { type Bounds, type KindName, kindNames, kinds } from './kinds/index.ts';
export * from './member.ts';
export { migrate } from './migrate.ts';
export * from './numbers.ts';
export * from './parse.ts';
export * from './shot.ts';
