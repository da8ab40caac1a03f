export { channelValue } from './channel-value.ts';
export { Frame } from './frame.ts';
export type { Layout } from './layout.ts';
export { frameOf, Program } from './program.ts';
