import {
  addMember,
  bringRig,
  type Curve,
  changeChannels,
  emptyShot,
  type NewMember,
  newMember,
  newRigMembers,
  type Shot,
  Table,
} from '@varrup/core';
import { actedCurves, type Beat } from '../acting.ts';
import { harbourRigs } from '../rigs/index.ts';
import { gloveSigns } from '../rigs/poses/glove.ts';
import type { Said } from '../rigs/poses/pose.ts';
import { bollard } from '../set-pieces.ts';

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  { kind: 'plane', id: 'floor', name: 'Landing', parent: 'set', shape: { width: 12, depth: 8 }, colour: '#e4dccb' },
  {
    kind: 'cylinder',
    id: 'post',
    name: 'Post',
    parent: 'set',
    shape: { radius: 0.13, height: 0.5 },
    colour: '#8a6f4d',
  },
  {
    kind: 'cylinder',
    id: 'post-cap',
    name: 'Post cap',
    parent: 'set',
    shape: { radius: 0.155, height: 0.05 },
    values: { 'move.y': 0.5 },
    colour: '#4c5a66',
  },
  ...bollard('set', [-0.86, 0, -0.8]),
  {
    kind: 'camera',
    id: 'camera',
    name: 'Front camera',
    values: { 'move.x': 0.32, 'move.y': 0.92, 'move.z': 2.15, 'turn.x': -0.065, 'turn.y': 0.148, view: 0.41 },
  },
];

/** What the arm and the palm do under each sign: the words of the hand are in its fingers, its mood is in these. */
const low: Said = {
  'arm.turn.x': 12,
  'arm.turn.y': 14,
  'arm.turn.z': 7,
  'arm.move.y': -0.012,
  'palm.turn.x': 42,
  'palm.turn.z': -9,
  'palm.turn.y': -14,
};
const up: Said = {
  'arm.turn.x': -7,
  'arm.turn.y': 0,
  'arm.turn.z': 0,
  'arm.move.y': 0.03,
  'palm.turn.x': -16,
  'palm.turn.z': 0,
  'palm.turn.y': 0,
};
/** Leaning to a side, the hand against the arm, so that the line through both is bent. */
const tell = (z: number, y: number): Said => ({
  'arm.turn.x': -4,
  'arm.turn.y': y * 0.6,
  'arm.turn.z': z,
  'arm.move.y': 0.016,
  'palm.turn.x': -9,
  'palm.turn.z': -z * 1.3,
  'palm.turn.y': y,
});
/** Drawn back before a number is thrown: low in the arm, the wrist broken forward. */
const drawn = (z: number): Said => ({
  'arm.turn.x': 7,
  'arm.turn.z': z,
  'arm.move.y': -0.014,
  'palm.turn.x': 27,
  'palm.turn.z': z * 0.6,
});
const beat = (at: number, pose: Said, move = 4, settle = 0): Beat => ({ at, move, gather: 0, beyond: 0, settle, pose });
/** The fingers drum: one beat for all, and the lag of each makes the wave from the index to the little one. */
const curled = (by: number): Said =>
  Object.fromEntries(['index', 'middle', 'ring', 'little'].map((f) => [`${f}.curl`, by]));

const beats: readonly Beat[] = [
  { at: 1, move: 0, pose: { ...gloveSigns.rest, ...low } },
  // It waits, and drums.
  beat(5, { ...curled(0.2), 'palm.turn.x': 45 }, 3),
  beat(8, { ...curled(0), 'palm.turn.x': 42 }, 3),
  beat(11, { ...curled(0.16), 'palm.turn.x': 44.5 }, 3),
  beat(14, { ...curled(0), 'palm.turn.x': 42 }, 3),
  // It wakes, and stops whoever is coming.
  { at: 27, move: 5, gather: 7, beyond: 0.14, settle: 8, pose: { ...gloveSigns.stop, ...up } },
  // Stop, it means: it draws back a little and pushes once more.
  beat(41, { 'arm.turn.x': -1, 'palm.turn.x': -4, 'arm.move.y': 0.02 }, 4),
  beat(45, { 'arm.turn.x': -10, 'palm.turn.x': -20, 'arm.move.y': 0.034 }, 3),
  beat(51, { 'arm.turn.x': -8, 'palm.turn.x': -15, 'arm.move.y': 0.028 }, 6, 6),
  // It counts them aboard, each number thrown from the wrist.
  { at: 63, move: 6, gather: 4, beyond: 0, settle: 0, pose: { ...gloveSigns.fist, ...tell(7, 12), ...drawn(9) } },
  { at: 74, move: 4, gather: 4, settle: 8, pose: { ...gloveSigns.one, ...tell(-7, -10) } },
  beat(94, drawn(-4), 5),
  { at: 101, move: 4, gather: 2, settle: 8, pose: { ...gloveSigns.two, ...tell(6, 10) } },
  beat(120, drawn(7), 5),
  { at: 127, move: 4, gather: 2, settle: 8, pose: { ...gloveSigns.three, ...tell(-7, -6) } },
  // All there: good.
  {
    at: 160,
    move: 5,
    gather: 7,
    beyond: 0.12,
    settle: 8,
    pose: {
      ...gloveSigns.good,
      'arm.turn.x': 2,
      'arm.turn.y': 12,
      'arm.turn.z': 14,
      'arm.move.y': 0.03,
      'palm.turn.x': 2,
      'palm.turn.z': 34,
      'palm.turn.y': 30,
    },
  },
  // Good, good: two nods of the thumb, the second smaller.
  beat(174, { 'arm.move.y': 0.014, 'palm.turn.z': 25, 'palm.turn.x': 7 }, 3),
  beat(177, { 'arm.move.y': 0.034, 'palm.turn.z': 38, 'palm.turn.x': 0 }, 3),
  beat(181, { 'arm.move.y': 0.02, 'palm.turn.z': 29, 'palm.turn.x': 5 }, 4),
  beat(185, { 'arm.move.y': 0.03, 'palm.turn.z': 34, 'palm.turn.x': 2 }, 4, 6),
  // Back to its rest, heavier than it went up; it breathes, and drums once.
  { at: 204, move: 8, gather: 5, beyond: 0.09, settle: 8, pose: { ...gloveSigns.rest, ...low } },
  beat(219, { ...curled(0.14), 'arm.move.y': -0.006, 'palm.turn.x': 40 }, 6),
  beat(227, { ...curled(0), 'arm.move.y': -0.012, 'palm.turn.x': 42.5 }, 8),
];

/** How far behind the arm each set of controls is: the palm follows it, the fingers follow the palm, the little one last. */
const parts = [
  { control: 'arm', lag: 0, gather: 0.16 },
  { control: 'palm', lag: 1, gather: 0.14 },
  { control: 'fingers', lag: 2, gather: 0.06 },
  { control: 'index', lag: 2, gather: 0.06 },
  { control: 'middle', lag: 3, gather: 0.06 },
  { control: 'ring', lag: 4, gather: 0.06 },
  { control: 'little', lag: 5, gather: 0.06 },
  { control: 'thumb', lag: 3, gather: 0.08 },
];

/** A gloved hand on a post lets the passengers aboard: stop; one, two, three; good. Poses and holds, keyed by control set. */
export function handSignals(): Shot {
  const empty = emptyShot('hand-signals', '10 Hand signals', harbourRigs());
  const long = { ...empty, range: { first: 1, last: 228 }, play: { first: 1, last: 228 } };
  const filled = set.reduce<Shot>((shot, wanted) => addMember.apply(shot, { member: newMember(shot, wanted) }), long);
  const shot = bringRig.apply(filled, newRigMembers(filled, { rig: 'glove', version: 1, id: 'glove' }));
  const placed = changeChannels.apply(shot, {
    frame: 1,
    values: { 'glove.move.y': 0.55, 'glove.size.x': 1.35, 'glove.size.y': 1.35, 'glove.size.z': 1.35 },
    autoKey: 'off',
  });
  const curves: Record<string, Curve> = Object.assign(
    {},
    ...parts.map((p) => actedCurves(placed, { rig: 'glove', ...p }, beats)),
  );
  return { ...placed, curves: Table.of(curves) };
}
