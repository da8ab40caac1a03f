export { type Anatomy, anatomyOf } from './anatomy.ts';
export { characters, fourLegs, type Gait, patterns, plainWalk } from './dials.ts';
export { type Walked, walked } from './gait.ts';
