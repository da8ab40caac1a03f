export { changingPaths, type Given, givenBy, tracksOf } from './arrangement.ts';
export { spansMoving } from './says.ts';
export * from './spans.ts';
