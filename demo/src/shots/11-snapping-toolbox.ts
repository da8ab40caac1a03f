import {
  addMember,
  bringRig,
  type Clip,
  type Curve,
  changeChannels,
  emptyShot,
  type Formula,
  fittedPeriod,
  type NewMember,
  newClip,
  newMember,
  newRigMembers,
  type Shot,
  Table,
} from '@varrup/core';
import { actedCurves, type Beat } from '../acting.ts';
import { onTrack } from '../called.ts';
import { harbourRigs } from '../rigs/index.ts';
import type { Said } from '../rigs/poses/pose.ts';

const LAST = 192;

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  { kind: 'plane', id: 'floor', name: 'Landing', parent: 'set', shape: { width: 12, depth: 8 }, colour: '#e4dccb' },
  {
    kind: 'box',
    id: 'crate',
    name: 'Crate',
    parent: 'set',
    shape: { width: 0.7, height: 0.5, depth: 0.5 },
    values: { 'move.x': 0.85, 'move.z': -1.05, 'turn.y': 0.4 },
    colour: '#b08a57',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Low camera',
    values: { 'move.x': -0.06, 'move.y': 0.62, 'move.z': 2.3, 'turn.x': -0.16, 'turn.y': 0, view: 0.5 },
  },
];

/** Asleep: sunk on its stubby legs, the lid shut. */
const asleep: Said = {
  'body.move.y': -0.03,
  'body.move.z': 0,
  'body.turn.x': 3,
  'body.turn.z': 0,
  'body.size.x': 1.015,
  'body.size.y': 0.97,
  'body.size.z': 1.015,
  'lid.open': 0,
  'lid.askew': 0,
};
/** How the body is drawn up or squashed: what it gains in height it loses round about. */
const tall = (by: number): Said => ({
  'body.size.y': by,
  'body.size.x': 1 / Math.sqrt(by),
  'body.size.z': 1 / Math.sqrt(by),
});
const peek: Said = {
  ...tall(1),
  'body.move.y': -0.005,
  'body.turn.x': -3,
  'body.turn.z': 2,
  'lid.open': 22,
  'lid.askew': 3,
};
const look: Said = {
  ...tall(1.03),
  'body.move.y': 0.004,
  'body.turn.x': -4,
  'body.turn.z': -2,
  'lid.open': 40,
  'lid.askew': -3,
};
const crouch: Said = {
  ...tall(0.93),
  'body.move.y': -0.026,
  'body.move.z': -0.035,
  'body.turn.x': -9,
  'body.turn.z': 0,
  'lid.open': 78,
  'lid.askew': 0,
};
const bite: Said = {
  ...tall(0.98),
  'body.move.y': -0.012,
  'body.move.z': 0.05,
  'body.turn.x': 8,
  'body.turn.z': 0,
  'lid.open': -1,
  'lid.askew': 0,
};
const content: Said = {
  ...tall(1),
  'body.move.y': -0.012,
  'body.move.z': 0,
  'body.turn.x': -2,
  'body.turn.z': 2,
  'lid.open': 8,
  'lid.askew': 2,
};

const beats: readonly Beat[] = [
  { at: 1, move: 0, pose: asleep },
  { at: 30, move: 9, gather: 5, beyond: 0.1, pose: peek },
  { at: 54, move: 7, gather: 5, beyond: 0.1, pose: look },
  // It draws back, and bites.
  { at: 82, move: 10, gather: 5, beyond: 0.05, pose: crouch },
  { at: 97, move: 4, gather: 3, beyond: 0.06, pose: bite },
  // And again, quicker.
  { at: 113, move: 6, gather: 3, beyond: 0.05, pose: crouch },
  { at: 126, move: 4, gather: 3, beyond: 0.06, pose: bite },
  // Nothing in it for a toolbox.
  { at: 150, move: 10, gather: 5, beyond: 0.08, pose: content },
  { at: 176, move: 14, gather: 4, beyond: 0.04, pose: asleep },
];

/** The act in pieces, each a clip that can be played by itself, on the frames it has in the act: the key wags along there. */
const pieces: readonly {
  readonly id: string;
  readonly name: string;
  readonly first: number;
  readonly length: number;
  readonly beats: readonly Beat[];
}[] = [
  { id: 'wake', name: 'Wake', first: 1, length: 69, beats: beats.slice(0, 3) },
  { id: 'bite', name: 'Bite', first: 70, length: 70, beats: [{ at: 70, move: 0, pose: look }, ...beats.slice(3, 7)] },
  {
    id: 'doze',
    name: 'Doze off',
    first: 138,
    length: 54,
    beats: [{ at: 138, move: 0, pose: bite }, ...beats.slice(7)],
  },
];

/** How much the key wags: not in its sleep, most while it looks about, hardly while it bites. */
const WAGS: readonly (readonly [frame: number, degrees: number])[] = [
  [1, 0],
  [26, 0],
  [46, 24],
  [78, 30],
  [90, 8],
  [130, 10],
  [150, 22],
  [168, 12],
  [186, 0],
];

/** A tin chest wakes, wags its key, bites twice and goes back to sleep. */
export function snappingToolbox(): Shot {
  const empty = emptyShot('snapping-toolbox', '11 Snapping toolbox', harbourRigs());
  const long = { ...empty, range: { first: 1, last: LAST }, play: { first: 1, last: LAST } };
  const filled = set.reduce<Shot>((shot, wanted) => addMember.apply(shot, { member: newMember(shot, wanted) }), long);
  const brought = bringRig.apply(filled, newRigMembers(filled, { rig: 'toolbox', version: 1, id: 'toolbox' }));
  const shot = changeChannels.apply(brought, { frame: 1, values: { 'toolbox.turn.y': 0.85 }, autoKey: 'off' });
  const acted = (own: readonly Beat[]): Record<string, Curve> => ({
    ...actedCurves(shot, { rig: 'toolbox', control: 'body', gather: 0.08, drift: 0.03 }, own),
    ...actedCurves(shot, { rig: 'toolbox', control: 'lid', lag: 2, gather: 0.07, drift: 0.03 }, own),
  });
  const clip = { ...newClip(shot, 'toolbox', { length: LAST - 1 }), cycles: false, labels: [], first: 1 };
  const clips: Clip[] = [
    { ...clip, id: 'toolbox-act', name: 'Act', kept: { curves: acted(beats), recipes: {} } },
    ...pieces.map(({ id, beats: own, ...of }) => ({
      ...clip,
      ...of,
      id: `toolbox-${id}`,
      kept: { curves: acted(own), recipes: {} },
    })),
  ];
  // The wag is a wave that closes when the shot ends; how strong it is is keyed, as a channel of the rig's own.
  const strength = {
    type: 'number' as const,
    keys: WAGS.map(([frame, degrees]) => ({
      frame,
      value: degrees,
      in: { kind: 'smooth' as const },
      out: { kind: 'smooth' as const },
      joined: true,
      role: 'key' as const,
    })),
    before: 'hold' as const,
    after: 'hold' as const,
  };
  const period = fittedPeriod(13, LAST - 1);
  const wag = (by: number, shift: number): Formula => ({
    text: `wave(wag * ${by}, ${period.toFixed(4)}, ${shift})`,
    inputs: [{ name: 'wag', path: 'toolbox.custom.wag' }],
    mode: 'instead',
  });
  const toolbox = { ...shot.members.at('toolbox'), custom: [{ id: 'wag', name: 'wag', initial: 0 }] };
  const played: Shot = {
    ...shot,
    members: shot.members.with('toolbox', toolbox),
    curves: Table.of<Curve>({ 'toolbox.custom.wag': strength }),
    clips: Table.of(Object.fromEntries(clips.map((c) => [c.id, c]))),
    // The key is later than the chain it hangs on.
    formulas: Table.of({ 'toolbox-chain.turn.y': wag(1, 0), 'toolbox-chainTip.turn.y': wag(1.3, 2) }),
  };
  return onTrack(played, 'toolbox', { name: 'Act', rank: 1 }, [
    { clip: 'toolbox-wake', from: 1, length: 74 },
    { clip: 'toolbox-bite', from: 66, length: 74 },
    { clip: 'toolbox-doze', from: 132, length: 61 },
  ]);
}
