export { channelValue } from './channel-value.ts';
export { Frame } from './frame.ts';
export type { Layout } from './layout.ts';
export * from './plot.ts';
export { posedAt } from './posed.ts';
export { frameOf, Program } from './program.ts';
export * from './shape.ts';
export { playedCurve } from './source.ts';
