import {
  addMember,
  addSounds,
  applyRecipe,
  type Curve,
  emptyShot,
  type Formula,
  type Key,
  type NewMember,
  type NumberCurve,
  newMember,
  type PlacedSound,
  type RecipeSettings,
  type Shot,
  setFormula,
  Table,
} from '@varrup/core';

/**
 * A steam pile driver on its barge: the ram is wound up, holds, drops, drives the pile and kicks back; the barge heels while the ram hangs
 * on it, takes the blow and settles, the funnel whips, the lantern swings. Three strikes, the last pile home; then the ram is taken off.
 */
const RATE = 24;
const LAST = 176;

/** The frames on which it strikes, and where the top of the pile is before the first and after each. */
export const strikes = [37, 85, 133] as const;
export const pileTops = [1.22, 1.04, 0.89, 0.77] as const;
/** How far the ram is wound up above the pile. */
const LIFT = 1.3;
const RAM = 0.5;
const HEAD = 3.2;
const DRUM = 0.17;

/** Where the middle of the hull is, from the pile: about it the barge heels. */
const HULL = -1.62;

const iron = '#3d4a57';
const timber = '#a87f4e';

const cast: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  { kind: 'plane', id: 'water', name: 'Water', parent: 'set', shape: { width: 24, depth: 14 }, colour: '#c3d0cf' },
  {
    kind: 'box',
    id: 'quay',
    name: 'Quay',
    parent: 'set',
    shape: { width: 24, height: 0.9, depth: 1.6 },
    values: { 'move.z': -3.2 },
    colour: '#bdb19b',
  },
  ...[-3, -2, 2.6, 3.6].map(
    (x, i): NewMember => ({
      kind: 'cylinder',
      id: `pile-${i + 1}`,
      name: `Driven pile ${i + 1}`,
      parent: 'set',
      shape: { radius: 0.13, height: 0.7 },
      values: { 'move.x': x, 'move.z': -1.7 },
      colour: '#8d6a42',
    }),
  ),

  // The water carries the barge, and heaves; the blows are the barge's own.
  { kind: 'group', id: 'swell', name: 'Swell', values: { 'move.x': HULL } },
  { kind: 'group', id: 'barge', name: 'Barge', parent: 'swell', values: { 'move.x': -HULL } },
  {
    kind: 'box',
    id: 'hull',
    name: 'Hull',
    parent: 'barge',
    shape: { width: 2.7, height: 0.42, depth: 1.7 },
    values: { 'move.x': HULL },
    colour: '#7c3f33',
  },
  {
    kind: 'box',
    id: 'deck',
    name: 'Deck',
    parent: 'barge',
    shape: { width: 2.78, height: 0.06, depth: 1.78 },
    values: { 'move.x': HULL, 'move.y': 0.42 },
    colour: '#c9a877',
  },
  {
    kind: 'box',
    id: 'engine',
    name: 'Engine house',
    parent: 'barge',
    shape: { width: 0.9, height: 0.72, depth: 0.95 },
    values: { 'move.x': -2.38, 'move.y': 0.48 },
    colour: '#5f7a70',
  },
  {
    kind: 'box',
    id: 'roof',
    name: 'Engine roof',
    parent: 'engine',
    shape: { width: 1.02, height: 0.07, depth: 1.07 },
    values: { 'move.y': 0.72 },
    colour: '#3f5650',
  },
  {
    kind: 'cylinder',
    id: 'funnel',
    name: 'Funnel',
    parent: 'engine',
    shape: { radius: 0.12, height: 0.85 },
    values: { 'move.x': -0.2, 'move.y': 0.76, 'move.z': 0.12 },
    colour: iron,
  },
  {
    kind: 'cylinder',
    id: 'drum',
    name: 'Winch drum',
    parent: 'barge',
    shape: { radius: DRUM, height: 0.6 },
    values: { 'move.x': -1.42, 'move.y': 0.74, 'move.z': -0.3, 'turn.x': Math.PI / 2 },
    colour: timber,
  },
  ...[-0.26, 0.26].map(
    (z, i): NewMember => ({
      kind: 'box',
      id: `leader-${i + 1}`,
      name: `Leader ${i + 1}`,
      parent: 'barge',
      shape: { width: 0.12, height: HEAD - 0.48, depth: 0.1 },
      values: { 'move.x': -0.38, 'move.y': 0.48, 'move.z': z },
      colour: timber,
    }),
  ),
  {
    kind: 'box',
    id: 'brace',
    name: 'Brace',
    parent: 'barge',
    shape: { width: 0.09, height: 2.35, depth: 0.09 },
    values: { 'move.x': -1.72, 'move.y': 0.48, 'turn.z': -0.56 },
    colour: timber,
  },
  {
    kind: 'box',
    id: 'head',
    name: 'Head',
    parent: 'barge',
    shape: { width: 0.62, height: 0.14, depth: 0.72 },
    values: { 'move.x': -0.2, 'move.y': HEAD },
    colour: '#8d6a42',
  },
  {
    kind: 'box',
    id: 'hook',
    name: 'Lantern bracket',
    parent: 'barge',
    shape: { width: 0.5, height: 0.05, depth: 0.05 },
    values: { 'move.x': -0.68, 'move.y': 2.72, 'move.z': 0.26 },
    colour: iron,
  },
  {
    kind: 'group',
    id: 'sway',
    name: 'Lantern hanger',
    parent: 'barge',
    values: { 'move.x': -0.88, 'move.y': 2.72, 'move.z': 0.26 },
  },
  {
    kind: 'cylinder',
    id: 'chain',
    name: 'Lantern chain',
    parent: 'sway',
    shape: { radius: 0.012, height: 0.24 },
    values: { 'move.y': -0.24 },
    colour: iron,
  },
  {
    kind: 'cylinder',
    id: 'lantern',
    name: 'Lantern',
    parent: 'sway',
    shape: { radius: 0.09, height: 0.17 },
    values: { 'move.y': -0.41 },
    colour: '#e8b45a',
  },
  {
    kind: 'cone',
    id: 'lantern-cap',
    name: 'Lantern cap',
    parent: 'sway',
    shape: { radius: 0.12, height: 0.09 },
    values: { 'move.y': -0.25 },
    colour: iron,
  },
  {
    kind: 'light',
    id: 'glow',
    name: 'Lantern light',
    parent: 'sway',
    values: { 'move.y': -0.34, 'move.z': 0.25, brightness: 0.7 },
    colour: '#ffdf9e',
  },

  {
    kind: 'cylinder',
    id: 'pile',
    name: 'Pile',
    shape: { radius: 0.15, height: 3 },
    values: { 'move.y': pileTops[0] - 3 },
    colour: '#b98a52',
  },
  {
    kind: 'cylinder',
    id: 'band',
    name: 'Pile band',
    parent: 'pile',
    shape: { radius: 0.158, height: 0.07 },
    values: { 'move.y': 2.9 },
    colour: iron,
  },
  {
    kind: 'box',
    id: 'ram',
    name: 'Ram',
    shape: { width: 0.44, height: RAM, depth: 0.4 },
    values: { 'move.y': pileTops[0] },
    colour: '#4a4f58',
  },
  {
    kind: 'box',
    id: 'guide',
    name: 'Ram guide',
    parent: 'ram',
    shape: { width: 0.24, height: 0.16, depth: 0.66 },
    values: { 'move.x': -0.24, 'move.y': 0.17 },
    colour: '#cf4427',
  },
  {
    kind: 'cylinder',
    id: 'rope',
    name: 'Rope',
    parent: 'ram',
    shape: { radius: 0.018, height: 1 },
    values: { 'move.y': RAM },
    colour: '#d8c7a0',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Quay camera',
    values: { 'move.x': 2, 'move.y': 2.1, 'move.z': 7.6, 'turn.y': 0.36, 'turn.x': -0.06, view: 0.58 },
  },
];

const key = (frame: number, value: number, arrive: Key['in'], leave: Key['out']): Key => ({
  frame,
  value,
  in: arrive,
  out: leave,
  joined: arrive.kind === leave.kind && arrive.kind !== 'linear',
  role: 'key',
});
const flat = { kind: 'flat' } as const;
const smooth = { kind: 'smooth' } as const;
const linear = { kind: 'linear' } as const;
const slope = (frames: number, rise: number) => ({ kind: 'free', frames: frames / 3, rise: rise / 3 }) as const;
const curve = (keys: Key[]): NumberCurve => ({ type: 'number', keys, before: 'hold', after: 'hold' });

/** The ram through one strike: wound up slowly, a moment's hold, the drop, two kicks, at rest on the pile. */
function ramKeys(strike: number, i: number): Key[] {
  const [before, after] = [pileTops[i], pileTops[i + 1]];
  const top = before + LIFT;
  const drop = top - after;
  const [kick, small] = [0.1, 0.022];
  return [
    key(strike - 32, before, flat, smooth),
    key(strike - 12, top - 0.06, smooth, smooth),
    key(strike - 6, top, flat, flat),
    // Faster and faster: at the pile it goes twice as fast as on the way.
    key(strike, after, slope(6, 2 * drop), slope(3, 2 * kick)),
    key(strike + 3, after + kick, flat, flat),
    key(strike + 6, after, slope(3, 2 * kick), slope(1.5, 2 * small)),
    key(strike + 8, after + small, flat, flat),
    key(strike + 9, after, slope(1, 2 * small), flat),
  ];
}

/** The pile is home: the ram is taken off it, slowly, and hangs. */
const liftedOff = (strike: number, top: number): Key[] => [
  key(strike + 15, top, flat, flat),
  key(strike + 36, top + 0.5, flat, flat),
];

/** The pile goes down with the ram, within the frame of the strike, and not a frame before. */
function pileKeys(strike: number, i: number): Key[] {
  return [key(strike - 1, pileTops[i] - 3, flat, linear), key(strike, pileTops[i + 1] - 3, linear, flat)];
}

/** What the blow does to a channel: from its rest to somewhere else in a few frames, and back; the rest is settled by a kit. */
const jolt = (rest: number, to: number, out: number, back: number): Key[] =>
  strikes.flatMap((s) => [
    key(s, rest, flat, smooth),
    key(s + out, rest + to, flat, flat),
    key(s + out + back, rest, smooth, smooth),
  ]);

const DEGREE = Math.PI / 180;

function byHand(shot: Shot): Shot {
  return {
    ...shot,
    curves: Table.of<Curve>({
      'ram.move.y': curve([...strikes.flatMap(ramKeys), ...liftedOff(strikes[2], pileTops[3])]),
      'pile.move.y': curve(strikes.flatMap(pileKeys)),
      'barge.turn.z': curve(jolt(0, 1.9 * DEGREE, 2, 4)),
      'barge.move.y': curve(jolt(0, -0.06, 2, 4)),
      'roof.move.y': curve(jolt(0.72, 0.05, 2, 2)),
    }),
  };
}

/** Settles after each strike: the barge on the water, the roof on its house. */
function settled(shot: Shot): Shot {
  const settle = (member: string, channel: string, after: number, settings: RecipeSettings) => (s: Shot) =>
    strikes.reduce(
      (next, strike, i) =>
        applyRecipe.apply(next, {
          recipe: {
            id: `${member}-${channel.replace('.', '-')}-${i + 1}`,
            kit: 'settle',
            member,
            settings: { channel, at: strike + after, ...settings },
            written: {},
          },
          replace: false,
        }),
      s,
    );
  return [
    settle('barge', 'turn.z', 6, { swing: 45, swings: 4, decay: 0.5, frames: 28 }),
    settle('barge', 'move.y', 6, { swing: 40, swings: 3, decay: 0.5, frames: 24 }),
    settle('roof', 'move.y', 4, { swing: 20, swings: 2, decay: 0.4, frames: 6 }),
  ].reduce((s, step) => step(s), shot);
}

/** Frames since the last strike, as a formula says it. */
const SINCE = `mod(frame - ${strikes[0]}, ${strikes[1] - strikes[0]})`;

/** What hangs on other things, or rings after a blow, is computed. */
function computed(shot: Shot): Shot {
  const y = [{ name: 'ram', path: 'ram.move.y' }];
  const formulas: Record<string, Formula> = {
    'rope.size.y': { text: `${HEAD} - ram - ${RAM}`, inputs: y, mode: 'instead' },
    'drum.turn.y': { text: `ram / ${DRUM} * 180 / pi`, inputs: y, mode: 'instead' },
    // While the ram hangs on the barge it heels to the pile, and when it falls the barge is let go; a wave goes under it all the while.
    'swell.turn.z': {
      text: `-1 * min(1, max(0, ram - pile - 3) / 0.35) + 0.25 * sin(frame * 4.1)`,
      inputs: [...y, { name: 'pile', path: 'pile.move.y' }],
      mode: 'instead',
    },
    'swell.turn.x': {
      text: `0.7 * sin(frame * 3.4 + 40) + 1.1 * sin(${SINCE} * 11) * exp(-${SINCE} / 22)`,
      inputs: [],
      mode: 'instead',
    },
    'swell.move.y': { text: '0.014 * sin(frame * 5.2)', inputs: [], mode: 'instead' },
    'sway.turn.z': { text: `14 * sin(${SINCE} * 17) * exp(-${SINCE} / 15)`, inputs: [], mode: 'instead' },
    'funnel.deform.whip.angle': { text: `14 * sin(${SINCE} * 45) * exp(-${SINCE} / 6)`, inputs: [], mode: 'instead' },
  };
  return Object.entries(formulas).reduce((s, [path, formula]) => setFormula.apply(s, { path, formula }), shot);
}

/** The drum turns about its own length first, however it lies. */
const drumOrder = (shot: Shot): Shot => ({
  ...shot,
  members: shot.members.with('drum', { ...shot.members.at('drum'), order: 'yxz' }),
});

/** The funnel whips, the ram is a hair longer as it falls and shorter as it strikes. */
function bent(shot: Shot): Shot {
  const [funnel, ram] = [shot.members.at('funnel'), shot.members.at('ram')];
  const length = strikes.flatMap((s) => [
    key(s - 5, 1, flat, flat),
    key(s - 1, 1.05, flat, linear),
    key(s, 0.95, linear, linear),
    key(s + 2, 1.02, flat, flat),
    key(s + 5, 1, flat, flat),
  ]);
  return {
    ...shot,
    members: shot.members.withAll({
      funnel: {
        ...funnel,
        deformers: [{ id: 'whip', name: 'whip', kind: 'bend', settings: { axis: 'y', towards: 'x' } }],
      },
      ram: {
        ...ram,
        deformers: [{ id: 'blow', name: 'squash', kind: 'squash', settings: { axis: 'y', space: 'world' } }],
      },
    }),
    curves: shot.curves.with('ram.deform.blow.length', curve(length)),
  };
}

const sounds: PlacedSound[] = strikes.flatMap((s, i) => [
  { id: `creak-${i + 1}`, name: `Winch ${i + 1}`, sound: 'creak', frame: s - 30, gain: 0.45 },
  { id: `blow-${i + 1}`, name: `Blow ${i + 1}`, sound: 'thud', frame: s, gain: 1.3 },
  { id: `kick-${i + 1}`, name: `Kick ${i + 1}`, sound: 'knock', frame: s + 6, gain: 0.4 },
  { id: `wash-${i + 1}`, name: `Wash ${i + 1}`, sound: 'splash', frame: s + 4, gain: 0.3 },
]);

/** The shot as the demo loads it. */
export function pileDriver(): Shot {
  let shot: Shot = {
    ...emptyShot('pile-driver', '05 Pile driver'),
    rate: RATE,
    range: { first: 1, last: LAST },
    play: { first: 1, last: LAST },
  };
  for (const wanted of cast) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  return addSounds.apply(computed(bent(settled(byHand(drumOrder(shot))))), { sounds });
}
