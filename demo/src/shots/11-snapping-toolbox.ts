import {
  addMember,
  bringRig,
  type Clip,
  type Curve,
  changeChannels,
  emptyShot,
  type Formula,
  fittedPeriod,
  frameOf,
  holdMembers,
  type Key,
  type NewMember,
  type NumberCurve,
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
import { bollard } from '../set-pieces.ts';

const LAST = 192;

/** Where the toolbox looks, and how far off the near foot of the crate stands: radians, metres. */
const FACES = 1.35;
const FAR = 0.315;
const DEGREES = Math.PI / 180;
/** How long the tag is, metres. */
const TAG = 0.14;

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  { kind: 'plane', id: 'floor', name: 'Landing', parent: 'set', shape: { width: 12, depth: 8 }, colour: '#e4dccb' },
  ...bollard('set', [-0.3, 0, -1.3]),
  // It tips over its near edge and is drawn along: the edge is what moves, the crate stands on it.
  {
    kind: 'group',
    id: 'edge',
    name: 'Crate edge',
    values: { 'move.x': FAR * Math.sin(FACES), 'move.z': FAR * Math.cos(FACES), 'turn.y': FACES },
  },
  {
    kind: 'box',
    id: 'crate',
    name: 'Crate',
    parent: 'edge',
    shape: { width: 0.34, height: 0.42, depth: 0.34 },
    values: { 'move.z': 0.17 },
    colour: '#b08a57',
  },
  // It hangs from the upper edge by a nail.
  {
    kind: 'box',
    id: 'tag',
    name: 'Tag',
    parent: 'edge',
    shape: { width: 0.09, height: TAG, depth: 0.006 },
    values: { 'move.x': -0.07, 'move.y': 0.405, 'move.z': -0.006, 'turn.x': Math.PI },
    colour: '#f3c766',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Low camera',
    values: { 'move.x': -0.52, 'move.y': 0.66, 'move.z': 2.2, 'turn.x': -0.17, 'turn.y': -0.29, view: 0.4 },
  },
];

/** How the body is drawn up or squashed: what it gains in height it loses round about. */
const tall = (by: number): Said => ({
  'body.size.y': by,
  'body.size.x': 1 / Math.sqrt(by),
  'body.size.z': 1 / Math.sqrt(by),
});
/** Asleep: sunk on its stubby legs, the lid shut. */
const asleep: Said = {
  ...tall(0.965),
  'body.move.y': -0.046,
  'body.move.z': -0.004,
  'body.turn.x': 4,
  'body.turn.y': 0,
  'body.turn.z': 0,
  'lid.open': 0,
  'lid.askew': 0,
  'foreFootL.move.y': 0,
  'foreFootL.move.z': 0,
  'foreFootR.move.y': 0,
  'foreFootR.move.z': 0,
  'chain.turn.x': 0,
};
const peek: Said = {
  ...tall(1),
  'body.move.y': -0.026,
  'body.turn.x': -2,
  'body.turn.y': -16,
  'body.turn.z': 3,
  'lid.open': 17,
  'lid.askew': 4,
};
const look: Said = {
  ...tall(1.035),
  'body.move.y': -0.002,
  'body.turn.x': -4,
  'body.turn.y': 0,
  'body.turn.z': -3,
  'lid.open': 31,
  'lid.askew': -4,
};
/** Down in front of a spring: the weight on the hind legs. */
const crouch: Said = {
  ...tall(0.93),
  'body.move.y': -0.05,
  'body.move.z': -0.05,
  'body.turn.x': -9,
  'body.turn.z': 0,
  'chain.turn.x': 16,
  'lid.open': 44,
  'lid.askew': 0,
};
/** Shut on nothing, a hand before the tag. */
const bite: Said = {
  ...tall(0.99),
  'body.move.y': -0.006,
  'body.move.z': 0.038,
  'body.turn.x': 9,
  'body.turn.z': 0,
  'chain.turn.x': -6,
  'lid.open': -1,
  'lid.askew': 0,
};
/** It has missed: it sits up and looks what it has in its mouth. */
const puzzled: Said = {
  ...tall(1.02),
  'body.move.y': -0.022,
  'body.move.z': -0.004,
  'body.turn.x': -5,
  'body.turn.y': -13,
  'body.turn.z': 5,
  'lid.open': 23,
  'lid.askew': 6,
};
/** Lower than before, and wider. */
const crouchLow: Said = {
  ...crouch,
  ...tall(0.9),
  'body.move.y': -0.06,
  'body.move.z': -0.066,
  'body.turn.x': -11,
  'body.turn.y': 0,
  'chain.turn.x': 34,
  'lid.open': 58,
};
/** From here on it keeps its form: what hangs askew in a body drawn up or squashed would be squashed with it, and no file can say that. */
const caught: Said = {
  ...tall(1),
  'body.move.y': -0.018,
  'body.move.z': 0.064,
  'body.turn.x': 10,
  'chain.turn.x': -10,
  'lid.open': 3,
};
/** All its weight behind it, and the forelegs stemmed. */
const tug: Said = {
  'body.move.y': -0.034,
  'body.move.z': -0.01,
  'body.turn.x': -7,
  'body.turn.z': -4,
  'chain.turn.x': 14,
  'lid.open': 2,
  'lid.askew': -2,
};
/** The nail gives, and it goes over backwards. */
const thrown: Said = {
  'body.move.y': -0.03,
  'body.move.z': -0.064,
  'body.turn.x': -14,
  'chain.turn.x': 58,
  'body.turn.z': 2,
  'lid.open': 4,
  'lid.askew': 0,
};
const content: Said = {
  'body.move.y': -0.034,
  'body.move.z': 0.006,
  'body.turn.x': -1,
  'body.turn.y': -15,
  'chain.turn.x': 0,
  'body.turn.z': 3,
  'lid.open': 2,
  'lid.askew': 2,
};
const chews = (at: number, open: number, askew: number): Beat => ({
  at,
  move: 3,
  gather: 0,
  beyond: 0,
  settle: 0,
  pose: { 'lid.open': open, 'lid.askew': askew, 'body.turn.z': askew * 0.5 },
});
/** A step of a forefoot: it is up half way, and down when the rest is there. */
const steps = (foot: 'foreFootL' | 'foreFootR', from: number, to: number, z: number, high: number): Beat[] => {
  const beat = { gather: 0, beyond: 0, settle: 0 };
  const half = Math.round((from + to) / 2);
  return [
    { ...beat, at: half, move: half - from, pose: { [`${foot}.move.y`]: high } },
    { ...beat, at: to, move: to - half, pose: { [`${foot}.move.y`]: 0 } },
    { ...beat, at: to, move: to - from, pose: { [`${foot}.move.z`]: z } },
  ];
};

/** When the teeth have the tag, and when the nail gives. */
const CATCHES = 128;
const TEARS = 139;

const beats: readonly Beat[] = [
  { at: 1, move: 0, pose: asleep },
  { at: 30, move: 9, gather: 5, beyond: 0.1, pose: peek },
  { at: 54, move: 7, gather: 5, beyond: 0.1, pose: look },
  // It draws back, makes sure of its hind legs, and bites.
  { at: 78, move: 10, gather: 5, beyond: 0.05, settle: 0, pose: crouch },
  ...[5, -5, 4].map(
    (z, i): Beat => ({ at: 82 + 4 * i, move: 4, gather: 0, beyond: 0, settle: 0, pose: { 'body.turn.z': z } }),
  ),
  { at: 98, move: 4, gather: 3, beyond: 0.06, settle: 6, pose: bite },
  { at: 109, move: 4, gather: 0, beyond: 0.12, settle: 6, pose: puzzled },
  // And again, from lower down and with its forefeet.
  { at: 120, move: 5, gather: 0, beyond: 0.04, settle: 0, pose: crouchLow },
  ...steps('foreFootL', 122, 126, 0.05, 0.034),
  ...steps('foreFootR', 123, 127, 0.05, 0.03),
  { at: 126, move: 4, gather: 0, beyond: 0, settle: 0, pose: caught },
  { at: 134, move: 6, gather: 0, beyond: 0, settle: 0, pose: tug },
  ...steps('foreFootL', 139, 145, 0, 0.05),
  ...steps('foreFootR', 139, 147, 0, 0.044),
  { at: 143, move: 4, gather: 0, beyond: 0.06, settle: 8, pose: thrown },
  // It has it: it chews, and is content.
  { at: 157, move: 6, gather: 3, beyond: 0.1, settle: 0, pose: content },
  chews(161, 11, -3),
  chews(164, 2, 1),
  chews(167, 9, 3),
  chews(170, 2, -1),
  { at: 184, move: 10, gather: 4, beyond: 0.05, settle: 6, pose: { ...asleep, ...tall(1) } },
];

/** What it stands in before the first of some beats. */
const before = (frame: number): Said => Object.assign({}, ...beats.filter((b) => b.at < frame).map((b) => b.pose));
const between = (first: number, last: number): readonly Beat[] => [
  { at: first, move: 0, pose: before(first) },
  ...beats.filter((b) => b.at >= first && b.at < last),
];

/** The act in pieces, each a clip that can be played by itself, on the frames it has in the act: the key wags along there. */
const pieces: readonly {
  readonly id: string;
  readonly name: string;
  readonly first: number;
  readonly length: number;
}[] = [
  { id: 'wake', name: 'Wake', first: 1, length: 72 },
  { id: 'bite', name: 'Bite', first: 65, length: 88 },
  { id: 'doze', name: 'Doze off', first: 150, length: 42 },
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

const curve = (
  keys: readonly (readonly [frame: number, value: number, kind?: 'smooth' | 'flat' | 'linear'])[],
): NumberCurve => ({
  type: 'number',
  keys: keys.map(
    ([frame, value, kind = 'smooth']): Key => ({
      frame,
      value,
      in: { kind },
      out: { kind },
      joined: true,
      role: 'key',
    }),
  ),
  before: 'hold',
  after: 'hold',
});

/** The crate takes part: the tag flies up at the first bite, the second drags the crate, and it rocks when the nail gives. */
function withCrate(shot: Shot): Shot {
  // Along the way the toolbox looks: what is drawn comes nearer.
  const drawn = [
    [1, 0],
    [CATCHES, 0, 'linear'],
    [TEARS - 5, 0.07, 'flat'],
    [TEARS, 0.074, 'linear'],
    [TEARS + 3, 0.068, 'flat'],
  ] as const;
  const along = (by: number) => curve(drawn.map(([f, v, kind]) => [f, (FAR - v) * by, kind]));
  const tips = curve([
    [1, 0],
    [CATCHES, 0, 'linear'],
    [TEARS - 5, -9 * DEGREES, 'flat'],
    [TEARS, -8.4 * DEGREES],
    [TEARS + 4, 0, 'linear'],
    [TEARS + 6, -1.6 * DEGREES, 'flat'],
    [TEARS + 8, 0, 'linear'],
    [TEARS + 9, -0.5 * DEGREES, 'flat'],
    [TEARS + 10, 0, 'flat'],
  ]);
  const flies = (degrees: number) => Math.PI + degrees * DEGREES;
  const tag = curve([
    [1, flies(0)],
    [18, flies(3), 'flat'],
    [34, flies(1), 'flat'],
    [52, flies(6), 'flat'],
    [66, flies(2), 'flat'],
    [88, flies(4), 'flat'],
    [97, flies(2), 'flat'],
    [102, flies(46), 'flat'],
    [107, flies(6), 'flat'],
    [112, flies(27), 'flat'],
    [117, flies(5), 'flat'],
    [122, flies(15), 'flat'],
    [CATCHES, flies(34), 'flat'],
  ]);
  const moved = {
    ...shot,
    curves: shot.curves.withAll([
      ['edge.move.x', along(Math.sin(FACES))],
      ['edge.move.z', along(Math.cos(FACES))],
      ['edge.turn.x', tips],
      ['tag.turn.x', tag],
    ]),
  };
  const held = holdMembers.apply(moved, {
    ids: ['tag'],
    by: { is: 'member', member: 'toolbox-body', joint: null },
    frame: CATCHES,
  });
  return withTorn(held);
}

/** Torn off, the tag falls about the teeth that have its lower end, and swings out: a damped swing, a key a frame. */
function withTorn(shot: Shot): Shot {
  const now = frameOf(shot, CATCHES);
  const value = (channel: string) => now.value('tag', channel)!;
  const [y, z, turn] = [value('move.y'), value('move.z'), value('turn.x')];
  const teeth = [y + TAG * Math.cos(turn), z + TAG * Math.sin(turn)];
  /** Down and ahead of the mouth. */
  const hangs = turn + 88 * DEGREES;
  const at = (frame: number) => {
    const t = Math.max(0, frame - TEARS);
    const swung = hangs + (turn - hangs) * Math.exp(-t / 4) * Math.cos(t * 0.55);
    return { turn: swung, y: teeth[0] - TAG * Math.cos(swung), z: teeth[1] - TAG * Math.sin(swung) };
  };
  const frames = [CATCHES, ...Array.from({ length: 22 }, (_, i) => TEARS + i)];
  const line = (part: 'turn' | 'y' | 'z') => frames.map((f): [number, number] => [f, at(f)[part]]);
  const joined = (path: string, keys: readonly (readonly [number, number])[]): [string, Curve] => {
    const before = (shot.curves.get(path) as NumberCurve | undefined)?.keys.filter((k) => k.frame < CATCHES) ?? [];
    return [path, { ...curve(keys), keys: [...before, ...curve(keys).keys] }];
  };
  return {
    ...shot,
    curves: shot.curves.withAll([
      joined('tag.turn.x', line('turn')),
      joined('tag.move.y', line('y')),
      joined('tag.move.z', line('z')),
    ]),
  };
}

/** A tin chest wakes, wags its key, snaps at a tag and misses, gets it, tears it off its crate and goes back to sleep over it. */
export function snappingToolbox(): Shot {
  const empty = emptyShot('snapping-toolbox', '11 Snapping toolbox', harbourRigs());
  const long = { ...empty, range: { first: 1, last: LAST }, play: { first: 1, last: LAST } };
  const filled = set.reduce<Shot>((shot, wanted) => addMember.apply(shot, { member: newMember(shot, wanted) }), long);
  const brought = bringRig.apply(filled, newRigMembers(filled, { rig: 'toolbox', version: 1, id: 'toolbox' }));
  const shot = changeChannels.apply(brought, { frame: 1, values: { 'toolbox.turn.y': FACES }, autoKey: 'off' });
  const acted = (own: readonly Beat[]): Record<string, Curve> => ({
    ...actedCurves(shot, { rig: 'toolbox', control: 'body', gather: 0.08, drift: 0.03 }, own),
    ...actedCurves(shot, { rig: 'toolbox', control: 'lid', lag: 2, gather: 0.07, drift: 0.03 }, own),
    ...actedCurves(shot, { rig: 'toolbox', control: 'chain', lag: 1, gather: 0.06, drift: 0.03 }, own),
    ...actedCurves(shot, { rig: 'toolbox', control: 'foreFootL', gather: 0, drift: 0 }, own),
    ...actedCurves(shot, { rig: 'toolbox', control: 'foreFootR', gather: 0, drift: 0 }, own),
  });
  const clip = { ...newClip(shot, 'toolbox', { length: LAST - 1 }), cycles: false, labels: [], first: 1 };
  const clips: Clip[] = [
    { ...clip, id: 'toolbox-act', name: 'Act', kept: { curves: acted(beats), recipes: {} } },
    ...pieces.map(({ id, ...of }) => ({
      ...clip,
      ...of,
      id: `toolbox-${id}`,
      kept: { curves: acted(between(of.first, of.first + of.length)), recipes: {} },
    })),
  ];
  // The wag is a wave that closes when the shot ends; how strong it is is keyed, as a channel of the rig's own.
  const strength = curve(WAGS);
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
  const laid = onTrack(
    played,
    'toolbox',
    { name: 'Act', rank: 1 },
    pieces.map(({ id, first, length }) => ({ clip: `toolbox-${id}`, from: first, length: length + 1 })),
  );
  return withCrate(laid);
}
