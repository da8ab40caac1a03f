export * from './balance.ts';
export * from './capsules.ts';
export * from './extent.ts';
export * from './idle.ts';
export * from './match.ts';
export { channelsAt } from './place-in.ts';
export * from './posing.ts';
export * from './skin.ts';
