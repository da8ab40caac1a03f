export { changingPaths, type Given, givenBy, riggedByTracks, silentRigs, tracksOf } from './arrangement.ts';
export { type Company, companyTracks, type Pressed } from './company.ts';
export { footfallsOf, pegsOf, placeInClip, posesOnTracks } from './marks.ts';
export { spansMoving } from './says.ts';
export * from './spans.ts';
