import { addClip, addMember, emptyShot, type NewMember, newClip, newMember, type Shot, takeUpClip } from '@varrup/core';
import { harbourRigs } from '../rigs/index.ts';
import { gaitSettings, withGait, withRig } from '../walking.ts';

const LAST = 112;
/** How high the wall is, metres. */
const WALL = 0.62;

/** What a trot has more of than a walk. */
const lively = { cadence: 10, stride: 68, bob: 4.4, spring: 50, lift: 17, tail: 16 };

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  {
    kind: 'plane',
    id: 'quay',
    name: 'Quay',
    parent: 'set',
    shape: { width: 20, depth: 6 },
    values: { 'move.x': 3 },
    colour: '#e2d9c6',
  },
  {
    kind: 'box',
    id: 'wall',
    name: 'Wall',
    parent: 'set',
    shape: { width: 16, height: 0.55, depth: 0.66 },
    values: { 'move.x': 3 },
    colour: '#a9a193',
  },
  {
    kind: 'box',
    id: 'coping',
    name: 'Coping',
    parent: 'set',
    shape: { width: 16.1, height: WALL - 0.55, depth: 0.78 },
    values: { 'move.x': 3, 'move.y': 0.55 },
    colour: '#c9c1b1',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Side camera',
    values: { 'move.x': -0.05, 'move.y': 1.12, 'move.z': 4.1, 'turn.x': -0.05, view: 0.56 },
  },
];

/** A goat on the harbour wall: a walk, a trot and a bound, each a clip of its own. */
export function goatOnTheWall(): Shot {
  let shot: Shot = {
    ...emptyShot('goat-on-the-wall', '03 Goat on the wall', harbourRigs()),
    range: { first: 1, last: LAST },
    play: { first: 1, last: LAST },
  };
  for (const wanted of set) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  shot = withRig(shot, { rig: 'goat', version: 1, id: 'goat', name: 'Goat', at: [-1.25, WALL, 0], facing: 90 });
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
