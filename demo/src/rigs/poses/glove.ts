import type { NewPose } from '@varrup/core';
import { over, pose, type Said } from './pose.ts';

const fingers = ['index', 'middle', 'ring', 'little'];

const open: Said = {
  'fingers.fist': 0.04,
  'fingers.spread': 0,
  'fingers.fan': 0,
  ...Object.fromEntries(fingers.flatMap((f) => ['curl', 'side', 'tip'].map((d) => [`${f}.${d}`, 0]))),
  'thumb.across': 0,
  'thumb.curl': 0.05,
};

/** What the glove says with its fingers alone: the arm is left to whoever acts with it. */
export const gloveSigns = {
  rest: over(open, { 'fingers.fist': 0.26, 'fingers.fan': 0.6, 'thumb.across': 0.5, 'thumb.curl': 0.4 }),
  stop: over(open, { 'fingers.fist': -0.06, 'fingers.spread': 0.55, 'thumb.curl': -0.2 }),
  fist: over(open, { 'fingers.fist': 0.98, 'thumb.across': 0.95, 'thumb.curl': 0.75 }),
  one: over(open, {
    'middle.curl': 0.95,
    'ring.curl': 0.95,
    'little.curl': 0.92,
    'thumb.across': 0.95,
    'thumb.curl': 0.7,
    'index.side': 0.1,
  }),
  two: over(open, {
    'index.side': 0.55,
    'middle.side': -0.45,
    'ring.curl': 0.95,
    'little.curl': 0.93,
    'thumb.across': 1,
    'thumb.curl': 0.8,
  }),
  three: over(open, {
    'index.side': 0.6,
    'ring.side': -0.6,
    'little.curl': 0.94,
    'thumb.across': 1,
    'thumb.curl': 0.95,
    'fingers.fan': 0.1,
  }),
  good: over(open, { 'fingers.fist': 0.98, 'thumb.across': -0.1, 'thumb.curl': -0.4 }),
  beckon: over(open, {
    'index.curl': 0.3,
    'middle.curl': 0.4,
    'ring.curl': 0.5,
    'little.curl': 0.55,
    'thumb.across': 0.3,
  }),
} as const satisfies Record<string, Said>;

/** The poses the glove's book begins with. */
export const glovePoses = (): NewPose[] => [
  pose('At rest', ['rest'], gloveSigns.rest),
  pose('Stop', ['sign'], gloveSigns.stop),
  pose('Fist', ['sign'], gloveSigns.fist),
  pose('One', ['count'], gloveSigns.one),
  pose('Two', ['count'], gloveSigns.two),
  pose('Three', ['count'], gloveSigns.three),
  pose('Good', ['sign'], gloveSigns.good),
  pose('Come here', ['sign'], gloveSigns.beckon),
];
