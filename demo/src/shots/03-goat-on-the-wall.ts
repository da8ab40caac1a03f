import { addClip, addMember, emptyShot, type NewMember, newClip, newMember, type Shot, takeUpClip } from '@varrup/core';
import { learnHarbour } from '../rigs/index.ts';
import { gaitSettings, withGait, withRig } from '../walking.ts';

const LAST = 112;

/** What a trot has more of than a walk. */
const lively = { cadence: 10, stride: 68, bob: 4.4, spring: 50, lift: 17, tail: 16 };

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  {
    kind: 'plane',
    id: 'quay',
    name: 'Quay',
    parent: 'set',
    shape: { width: 12, depth: 6 },
    colour: '#e2d9c6',
  },
  {
    kind: 'box',
    id: 'wall',
    name: 'Wall',
    parent: 'set',
    shape: { width: 9, height: 0.62, depth: 0.72 },
    colour: '#a9a193',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Side camera',
    values: { 'move.x': 0, 'move.y': 1.15, 'move.z': 5.2, 'turn.x': -0.05, view: 0.56 },
  },
];

/** A goat on the harbour wall: a walk, a trot and a bound, each a clip of its own. */
export function goatOnTheWall(): Shot {
  learnHarbour();
  let shot: Shot = {
    ...emptyShot('goat-on-the-wall', '03 Goat on the wall'),
    range: { first: 1, last: LAST },
    play: { first: 1, last: LAST },
  };
  for (const wanted of set) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  shot = withRig(shot, { rig: 'goat', version: 1, id: 'goat', name: 'Goat', at: [-2.2, 0.62, 0], facing: 90 });
  const gaits = [
    { id: 'bound', name: 'Bound', settings: gaitSettings(shot, 'goat', { pattern: 'bound' }) },
    { id: 'trot', name: 'Trot', settings: gaitSettings(shot, 'goat', { pattern: 'trot' }, lively) },
    { id: 'walk', name: 'Walk', settings: gaitSettings(shot, 'goat', { pattern: 'walk' }) },
  ];
  for (const { id, name, settings } of gaits) {
    shot = addClip.apply(shot, { clip: newClip(shot, 'goat', { id: `goat-${id}`, name }) });
    shot = withGait(shot, 'goat', { name, settings, travelling: true });
  }
  return takeUpClip.apply(shot, { id: 'goat-walk' });
}
