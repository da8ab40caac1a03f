import type { Rig } from '@varrup/core';
import { add, along, egg, mix, times, turned, unit, type Vector } from './make/forms.ts';
import { alongChain, type BodySide, bothSides, driven, on, RigMaker } from './make/maker.ts';
import { addLimb, dial, footDials, limbDials, paints, rad, sided } from './make/parts.ts';

const at = {
  hips: [0, 0.6, -0.3],
  spine1: [0, 0.612, -0.17],
  spine2: [0, 0.618, -0.03],
  spine3: [0, 0.618, 0.11],
  chest: [0, 0.612, 0.23],
  neck: [0, 0.665, 0.33],
  neck2: [0, 0.74, 0.405],
  neck3: [0, 0.815, 0.46],
  head: [0, 0.88, 0.495],
} as const satisfies Record<string, Vector>;

const tail = [
  [0, 0.66, -0.42],
  [0, 0.7, -0.465],
  [0, 0.745, -0.49],
  [0, 0.79, -0.495],
] as const satisfies readonly Vector[];

interface Leg {
  readonly id: 'fore' | 'hind';
  readonly joints: readonly [upper: string, lower: string, end: string];
  readonly words: readonly [string, string, string];
  readonly places: readonly [Vector, Vector, Vector];
  readonly hoof: Vector;
  readonly carrier: string;
  readonly pole: readonly [id: string, words: string];
}

const legs: readonly Leg[] = [
  {
    id: 'fore',
    joints: ['arm', 'foreShin', 'foreFoot'],
    words: ['foreleg', 'fore shin', 'fore ankle'],
    places: [
      [0.098, 0.5, 0.215],
      [0.1, 0.265, 0.262],
      [0.1, 0.085, 0.24],
    ],
    hoof: [0.1, 0.05, 0.248],
    carrier: 'chest',
    pole: ['foreKnee', 'fore knee'],
  },
  {
    id: 'hind',
    joints: ['thigh', 'hindShin', 'hindFoot'],
    words: ['thigh', 'hind shin', 'hock'],
    places: [
      [0.098, 0.56, -0.31],
      [0.104, 0.38, -0.225],
      [0.1, 0.235, -0.37],
    ],
    hoof: [0.1, 0.05, -0.335],
    carrier: 'hips',
    pole: ['hindKnee', 'hind knee'],
  },
];

/** The goat: felt over a long spine, four turned legs, horns of tin, ears and a tail that say what it thinks. */
export function goat(): Rig {
  const maker = new RigMaker();
  trunk(maker);
  for (const leg of legs) for (const side of bothSides) addLeg(maker, leg, side);
  head(maker);
  addTail(maker);
  coat(maker);
  maker.sets.push(
    { id: 'body', name: 'body, hips, chest, head', side: 'centre', controls: ['body', 'hips', 'chest', 'head'] },
    {
      id: 'face',
      name: 'ears, face, tail',
      side: 'centre',
      controls: ['face', 'earL', 'earR', 'tail', 'tailTip', 'look'],
    },
    ...legs.flatMap((leg) =>
      bothSides.map(({ mark: m, side }) => ({
        id: `${leg.id}${m}`,
        name: `${leg.id === 'fore' ? 'foreleg' : 'hind leg'} ${m}`,
        side,
        controls: [leg.joints[2], leg.pole[0], ...leg.joints.map((j) => `${j}Joint`)].map((c) => `${c}${m}`),
      })),
    ),
  );
  return maker.make({ id: 'goat', version: 1, name: 'Goat', changes: 'The first goat.' });
}

function trunk(maker: RigMaker): void {
  const spine = ['hips', 'spine1', 'spine2', 'spine3', 'chest', 'neck', 'neck2', 'neck3', 'head'] as const;
  for (const [i, id] of spine.entries()) maker.joint(id, i === 0 ? null : spine[i - 1], at[id]);
  const centre = { side: 'centre', move: 'xyz', turn: 'xyz' } as const;
  maker.control({ ...centre, id: 'body', name: 'body', form: 'square', reach: 0.3, place: [0, 0.615, -0.03] });
  maker.control({
    ...centre,
    id: 'hips',
    name: 'hips',
    form: 'ring',
    reach: 0.2,
    faces: 'z',
    in: { is: 'control', id: 'body' },
  });
  maker.control({
    ...centre,
    id: 'chest',
    name: 'chest',
    form: 'ring',
    reach: 0.2,
    faces: 'z',
    in: { is: 'control', id: 'body' },
  });
  maker.control({
    ...centre,
    id: 'head',
    name: 'head',
    form: 'ring',
    reach: 0.15,
    off: [0, 0.02, 0.06],
    faces: 'z',
    in: { is: 'joint', id: 'chest' },
    limits: { 'turn.y': { min: rad(-90), max: rad(90) }, 'turn.z': { min: rad(-50), max: rad(50) } },
  });
  maker.spines.push(
    {
      id: 'spine',
      joints: ['hips', 'spine1', 'spine2', 'spine3', 'chest'],
      from: { is: 'control', id: 'hips' },
      to: { is: 'control', id: 'chest' },
    },
    {
      id: 'neck',
      joints: ['neck', 'neck2', 'neck3', 'head'],
      from: { is: 'joint', id: 'chest' },
      to: { is: 'control', id: 'head' },
    },
  );
}

function addLeg(maker: RigMaker, leg: Leg, side: BodySide): void {
  const m = side.mark;
  const [upper, lower, end] = leg.places.map((p) => on(side, p));
  const [j0, j1, j2] = leg.joints.map((j) => `${j}${m}`);
  const hoof = on(side, leg.hoof);
  const foot = leg.joints[2];
  maker.joint(j0, leg.carrier, upper);
  maker.joint(j1, j0, lower);
  maker.joint(j2, j1, end);
  maker.joint(`${leg.id}Hoof${m}`, j2, hoof, { kind: 'foot', foot: `${foot}${m}` });
  maker.control({
    id: j2,
    name: sided(`${leg.id} foot`, side),
    side: side.side,
    partner: `${foot}${side.other}`,
    form: 'ring',
    reach: 0.085,
    place: [hoof[0], 0, hoof[2]],
    move: 'xyz',
    turn: 'xyz',
    dials: [...footDials, ...limbDials],
    stands: [`${leg.id}Hoof${m}`],
  });
  const z = hoof[2];
  maker.feet.push({
    id: j2,
    control: j2,
    heel: [hoof[0], 0, z - 0.032],
    ball: [hoof[0], 0.035, z],
    toe: [hoof[0], 0, z + 0.045],
    inner: [...on(side, [0.078, 0, z])],
    outer: [...on(side, [0.122, 0, z])],
  });
  addLimb(maker, {
    side,
    id: leg.id,
    name: leg.id === 'fore' ? 'foreleg' : 'hind leg',
    joints: leg.joints,
    words: leg.words,
    hand: [foot, `${leg.id} foot`],
    pole: leg.pole,
    away: 0.26,
    along: [0, -1, leg.id === 'fore' ? 0.05 : -0.05],
    follows: 0.4,
    foot,
    carrier: leg.carrier,
    size: 0.08,
  });
  const wood = side.out > 0 ? paints.wood : paints.farWood;
  const thick = leg.id === 'fore' ? [0.062, 0.05, 0.034] : [0.085, 0.066, 0.038];
  maker.solid(
    `${leg.id}Upper${m}`,
    j0,
    paints.cream,
    turned(mix(upper, lower, -0.05), mix(upper, lower, 0.9), [
      [0, thick[0]],
      [0.45, thick[1]],
      [1, thick[2]],
    ]),
  );
  maker.solid(`${leg.id}Knee${m}`, j1, paints.joint, egg(lower, [0.034, 0.036, 0.036]));
  maker.solid(
    `${leg.id}Lower${m}`,
    j1,
    wood,
    turned(mix(lower, end, 0.12), mix(lower, end, 0.9), [
      [0, 0.028],
      [0.3, 0.026],
      [1, 0.021],
    ]),
  );
  maker.solid(`${leg.id}Ankle${m}`, j2, paints.joint, egg(end, [0.026, 0.027, 0.027]));
  maker.solid(
    `${leg.id}Cannon${m}`,
    j2,
    wood,
    turned(
      mix(end, hoof, 0.1),
      mix(end, hoof, 0.85),
      [
        [0, 0.021],
        [1, 0.022],
      ],
      14,
    ),
  );
  maker.solid(
    `${leg.id}Hoof${m}`,
    `${leg.id}Hoof${m}`,
    paints.ink,
    along(
      [
        { at: [hoof[0], 0.062, z - 0.004], wide: 0.023, deep: 0.024 },
        { at: [hoof[0], 0.04, z + 0.004], wide: 0.028, deep: 0.034 },
        { at: [hoof[0], 0.0208, z + 0.007], wide: 0.03, deep: 0.038 },
      ],
      [1, 0, 0],
      16,
      2.4,
    ),
  );
}

function head(maker: RigMaker): void {
  const crown: Vector = [0, 0.905, 0.545];
  maker.solid(
    'skull',
    'head',
    paints.cream,
    along(
      [
        { at: [0, 0.902, 0.485], wide: 0.066, deep: 0.072 },
        { at: [0, 0.905, 0.54], wide: 0.072, deep: 0.078 },
        { at: [0, 0.885, 0.61], wide: 0.056, deep: 0.058 },
        { at: [0, 0.86, 0.68], wide: 0.044, deep: 0.042 },
        { at: [0, 0.846, 0.715], wide: 0.038, deep: 0.034 },
      ],
      [1, 0, 0],
      26,
    ),
  );
  maker.solid('nose', 'head', paints.dark, egg([0, 0.858, 0.745], [0.026, 0.017, 0.014], 2, 14));
  maker.joint('jaw', 'head', [0, 0.86, 0.56], {
    kind: 'dials',
    turn: [driven('open * 22', { open: 'face.jaw' }), null, null],
  });
  maker.solid(
    'jaw',
    'jaw',
    paints.grey,
    along(
      [
        { at: [0, 0.835, 0.58], wide: 0.038, deep: 0.026 },
        { at: [0, 0.818, 0.65], wide: 0.032, deep: 0.022 },
        { at: [0, 0.812, 0.7], wide: 0.028, deep: 0.017 },
      ],
      [1, 0, 0],
      18,
    ),
  );
  maker.joint('beard', 'jaw', [0, 0.8, 0.69]);
  maker.solid(
    'beard',
    'beard',
    paints.white,
    turned(
      [0, 0.798, 0.69],
      [0, 0.715, 0.675],
      [
        [0, 0.02],
        [0.5, 0.014],
        [1, 0.004],
      ],
      12,
    ),
  );
  maker.control({
    id: 'look',
    name: 'look at',
    side: 'centre',
    form: 'cross',
    reach: 0.05,
    faces: 'z',
    place: [0, 0.92, 1.7],
    in: { is: 'control', id: 'body' },
    move: 'xyz',
    dials: [dial('eyes', 'eyes', { initial: 1 }), dial('head', 'head')],
  });
  maker.looks.push({ joint: 'head', at: 'look', share: 'look.head' });
  maker.control({
    id: 'face',
    name: 'face',
    side: 'centre',
    form: 'pin',
    reach: 0.05,
    faces: 'z',
    place: [0, 0.93, 0.82],
    in: { is: 'joint', id: 'head' },
    dials: [dial('jaw', 'jaw'), dial('blink', 'blink')],
  });
  for (const side of bothSides) {
    const m = side.mark;
    const eye = on(side, [0.05, 0.915, 0.575]);
    maker.joint(`eye${m}`, 'head', eye);
    maker.looks.push({ joint: `eye${m}`, at: 'look', share: 'look.eyes' });
    maker.solid(
      `eye${m}`,
      `eye${m}`,
      paints.ink,
      egg(add(eye, on(side, [0.011, 0, 0.014])), [0.013, 0.016, 0.014], 2, 12),
    );
    maker.joint(`lid${m}`, 'head', eye, {
      kind: 'dials',
      turn: [driven('blink * 60', { blink: 'face.blink' }), null, null],
    });
    maker.solid(
      `lid${m}`,
      `lid${m}`,
      paints.grey,
      egg(add(eye, on(side, [0.011, 0.021, 0.007])), [0.019, 0.01, 0.019], 2, 12),
    );
    const root = on(side, [0.055, 0.945, 0.5]);
    const direction = unit(on(side, [0.9, 0.05, -0.35]));
    maker.joint(`ear${m}`, 'head', root, { kind: 'control', control: `ear${m}` });
    maker.control({
      id: `ear${m}`,
      name: sided('ear', side),
      side: side.side,
      partner: `ear${side.other}`,
      form: 'fan',
      reach: 0.06,
      off: [...times(direction, 0.1)],
      faces: 'z',
      place: root,
      in: { is: 'joint', id: 'head' },
      turn: 'xyz',
    });
    maker.solid(
      `ear${m}`,
      `ear${m}`,
      paints.grey,
      along(
        [0, 0.35, 0.7, 1].map((t, i) => ({
          at: add(root, times(direction, t * 0.12)),
          wide: [0.014, 0.03, 0.026, 0.008][i],
          deep: [0.01, 0.011, 0.009, 0.005][i],
        })),
        [0, 1, 0],
        14,
      ),
    );
    const horn = [0, 0.25, 0.5, 0.75, 1].map((t) =>
      on(side, [0.028 + 0.026 * t, 0.955 + 0.15 * Math.sin(t * 1.5), 0.52 - 0.13 * t * t]),
    );
    maker.solid(
      `horn${m}`,
      'head',
      paints.tin,
      along(
        horn.map((p, i) => ({ at: p, wide: 0.019 - 0.0036 * i, deep: 0.019 - 0.0036 * i })),
        [1, 0, 0],
        14,
      ),
    );
  }
  maker.solid('tuft', 'head', paints.white, egg(add(crown, [0, 0.062, -0.03]), [0.03, 0.022, 0.034], 2, 12));
}

function addTail(maker: RigMaker): void {
  const names = ['tail1', 'tail2', 'tail3'];
  for (const [i, name] of names.entries()) {
    const control = i < 1 ? 'tail' : 'tailTip';
    maker.joint(name, i === 0 ? 'hips' : names[i - 1], tail[i], { kind: 'share', control, share: i === 0 ? 1 : 0.5 });
  }
  const both = { side: 'centre', form: 'fan', reach: 0.05, faces: 'x', turn: 'xyz' } as const;
  maker.control({
    ...both,
    id: 'tail',
    name: 'tail',
    place: tail[0],
    off: [0, 0.03, -0.06],
    in: { is: 'joint', id: 'hips' },
  });
  maker.control({
    ...both,
    id: 'tailTip',
    name: 'tail tip',
    place: tail[1],
    off: [0, 0.09, -0.05],
    in: { is: 'joint', id: 'tail1' },
  });
  maker.soft(
    'tail',
    paints.white,
    along(
      tail.map((p, i) => ({ at: p, wide: [0.024, 0.03, 0.026, 0.01][i], deep: [0.02, 0.024, 0.02, 0.008][i] })),
      [1, 0, 0],
      16,
    ),
    alongChain(maker, names, 1),
  );
}

/** The felt over spine and neck. */
function coat(maker: RigMaker): void {
  const line = [
    { at: [0, 0.6, -0.41], wide: 0.098, deep: 0.11 },
    { at: [0, 0.592, -0.33], wide: 0.142, deep: 0.148 },
    { at: [0, 0.588, -0.22], wide: 0.142, deep: 0.144 },
    { at: [0, 0.575, -0.06], wide: 0.15, deep: 0.152 },
    { at: [0, 0.578, 0.09], wide: 0.146, deep: 0.154 },
    { at: [0, 0.588, 0.21], wide: 0.138, deep: 0.158 },
    { at: [0, 0.622, 0.3], wide: 0.106, deep: 0.13 },
    { at: [0, 0.69, 0.368], wide: 0.078, deep: 0.092 },
    { at: [0, 0.765, 0.425], wide: 0.062, deep: 0.072 },
    { at: [0, 0.835, 0.468], wide: 0.054, deep: 0.062 },
    { at: [0, 0.885, 0.495], wide: 0.05, deep: 0.055 },
  ] as const;
  maker.soft(
    'coat',
    paints.cream,
    along(line, [1, 0, 0], 30, 2.15),
    alongChain(maker, ['hips', 'spine1', 'spine2', 'spine3', 'chest', 'neck', 'neck2', 'neck3', 'head'], 1),
  );
  maker.soft(
    'saddle',
    paints.blue,
    along(
      [
        { at: [0, 0.65, -0.14], wide: 0.128, deep: 0.088 },
        { at: [0, 0.65, -0.02], wide: 0.136, deep: 0.092 },
        { at: [0, 0.65, 0.1], wide: 0.128, deep: 0.09 },
      ],
      [1, 0, 0],
      26,
      2.6,
    ),
    alongChain(maker, ['hips', 'spine1', 'spine2', 'spine3', 'chest'], 1),
  );
}
