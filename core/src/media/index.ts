export { MediaHashSchema } from '../schema/media-hash.ts';
export * from './kinds.ts';
export * from './media.ts';
export * from './used.ts';
