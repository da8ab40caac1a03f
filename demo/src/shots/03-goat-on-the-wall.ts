import { addMember, emptyShot, type NewMember, type NumberCurve, newMember, type Shot } from '@varrup/core';
import { laidBy, onTrack, withGaits } from '../called.ts';
import { harbourRigs } from '../rigs/index.ts';
import { withRig } from '../walking.ts';

const LAST = 192;
/** How high the wall is, metres. */
const WALL = 0.62;

/** From a walk to a trot, to a bound and back: each goes over into the next in step, where and for as long as is kindest to the feet. */
const along = [
  { clip: 'goat-walk', from: 1, length: 66 },
  { clip: 'goat-trot', from: 55, length: 42 },
  { clip: 'goat-bound', from: 91, length: 47 },
  { clip: 'goat-trot', from: 130, length: 24 },
  { clip: 'goat-walk', from: 142, length: 51 },
];

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
    values: { 'move.x': -0.32, 'move.y': 1.12, 'move.z': 4.1, 'turn.x': -0.05, view: 0.47 },
  },
];

/** The camera goes along beside it, a little ahead while it is slow, and lets it come up while it bounds. */
const beside: NumberCurve = {
  type: 'number',
  keys: [
    [1, -0.32],
    [54, 0.42],
    [90, 1.5],
    [130, 3.2],
    [160, 4.45],
    [LAST, 5.15],
  ].map(([frame, value]) => ({
    frame,
    value,
    in: { kind: 'smooth' as const },
    out: { kind: 'smooth' as const },
    joined: true,
    role: 'key' as const,
  })),
  before: 'hold',
  after: 'hold',
};

/** A goat on the harbour wall: a walk, a trot and a bound, each a clip of its own, and on a track from one to the next. */
export function goatOnTheWall(): Shot {
  let shot: Shot = {
    ...emptyShot('goat-on-the-wall', '03 Goat on the wall', harbourRigs()),
    range: { first: 1, last: LAST },
    play: { first: 1, last: LAST },
  };
  for (const wanted of set) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  shot = withRig(shot, { rig: 'goat', version: 1, id: 'goat', name: 'Goat', at: [-1.25, WALL, 0], facing: 90 });
  shot = laidBy(withGaits(shot, 'goat'), 'goat');
  shot = { ...shot, curves: shot.curves.with('camera.move.x', beside) };
  return onTrack(shot, 'goat', { name: 'Along the wall', rank: 1 }, along);
}
