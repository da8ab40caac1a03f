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
  ...bollard('set', [-1.1, 0, -0.7]),
  {
    kind: 'camera',
    id: 'camera',
    name: 'Front camera',
    values: { 'move.x': 0.32, 'move.y': 0.92, 'move.z': 2.15, 'turn.x': -0.065, 'turn.y': 0.148, view: 0.5 },
  },
];

/** What the arm and the palm do under each sign: the words of the hand are in its fingers, its mood is in these. */
const low: Said = {
  'arm.turn.x': 16,
  'arm.turn.z': 6,
  'arm.move.y': -0.03,
  'palm.turn.x': 26,
  'palm.turn.z': -5,
  'palm.turn.y': -12,
};
const up: Said = {
  'arm.turn.x': -4,
  'arm.turn.z': 0,
  'arm.move.y': 0.02,
  'palm.turn.x': -12,
  'palm.turn.z': 0,
  'palm.turn.y': 0,
};
const tell = (z: number, y: number): Said => ({
  'arm.turn.x': -2,
  'arm.turn.z': z,
  'arm.move.y': 0.015,
  'palm.turn.x': -3,
  'palm.turn.z': z * 0.8,
  'palm.turn.y': y,
});

const beats: readonly Beat[] = [
  { at: 1, move: 0, pose: { ...gloveSigns.rest, ...low } },
  // It wakes, and stops whoever is coming.
  { at: 26, move: 5, gather: 7, beyond: 0.14, pose: { ...gloveSigns.stop, ...up } },
  // It counts them aboard.
  { at: 60, move: 6, gather: 5, pose: { ...gloveSigns.fist, ...tell(4, 10) } },
  { at: 74, move: 4, gather: 3, pose: { ...gloveSigns.one, ...tell(-5, -6) } },
  { at: 100, move: 4, gather: 4, pose: { ...gloveSigns.two, ...tell(3, 4) } },
  { at: 126, move: 4, gather: 4, pose: { ...gloveSigns.three, ...tell(-3, -3) } },
  // All there: good.
  {
    at: 158,
    move: 5,
    gather: 7,
    beyond: 0.12,
    pose: {
      ...gloveSigns.good,
      'arm.turn.x': 2,
      'arm.turn.z': 12,
      'arm.move.y': 0.03,
      'palm.turn.x': 4,
      'palm.turn.z': 32,
      'palm.turn.y': 34,
    },
  },
  { at: 200, move: 9, gather: 5, beyond: 0.05, pose: { ...gloveSigns.rest, ...low } },
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
