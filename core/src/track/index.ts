export { type Given, givenBy, tracksOf } from './arrangement.ts';
export { inStepWith } from './played.ts';
