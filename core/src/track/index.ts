export { type Given, givenBy, tracksOf } from './arrangement.ts';
export * from './spans.ts';
