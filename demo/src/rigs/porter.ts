import type { Rig } from '@varrup/core';
import { add, along, egg, mix, times, together, turned, unit, type Vector } from './make/forms.ts';
import { alongChain, type BodySide, bothSides, driven, on, RigMaker } from './make/maker.ts';
import { addLimb, angleDial, dial, footDials, limbDials, paints, rad, sided } from './make/parts.ts';

/** The places of the porter's joints at rest, the left side where there are two. */
const at = {
  hips: [0, 0.95, 0],
  spine1: [0, 1.06, 0.006],
  spine2: [0, 1.175, 0.006],
  chest: [0, 1.29, -0.004],
  neck: [0, 1.44, -0.016],
  neck2: [0, 1.49, -0.006],
  head: [0, 1.54, 0.004],
  shoulder: [0.05, 1.395, -0.005],
  arm: [0.2, 1.385, -0.008],
  forearm: [0.252, 1.13, -0.035],
  hand: [0.292, 0.885, 0.012],
  thigh: [0.098, 0.9, 0],
  shin: [0.1, 0.49, 0.042],
  foot: [0.1, 0.085, -0.02],
  toes: [0.1, 0.024, 0.095],
  eye: [0.05, 1.672, 0.05],
  brow: [0.05, 1.725, 0.118],
} as const satisfies Record<string, Vector>;

const fingers = [
  { id: 'index', forward: 0.031, down: 0.086, long: 0.98 },
  { id: 'middle', forward: 0.0105, down: 0.092, long: 1.08 },
  { id: 'ring', forward: -0.0105, down: 0.09, long: 1 },
  { id: 'little', forward: -0.031, down: 0.082, long: 0.8 },
] as const;

/**
 * The porter: a lay figure of turned wood in a blue waistcoat, with a red cap and red shoes. Two legs, ten fingers, and a face
 * that can frown, blink and speak.
 * @param version 1 has a cap that tilts and a still face; 2 has brows, lids and a jaw instead
 */
export function porter(version: 1 | 2 = 2): Rig {
  const maker = new RigMaker();
  trunk(maker);
  for (const side of bothSides) leg(maker, side);
  for (const side of bothSides) arm(maker, side);
  head(maker, version);
  body(maker);
  sets(maker, version);
  return maker.make({
    id: 'porter',
    version,
    name: 'Porter',
    changes:
      version === 1 ? 'The first porter.' : 'Brows, lids and a jaw in the face. The cap sits firm: its tilt is gone.',
  });
}

function trunk(maker: RigMaker): void {
  maker.joint('hips', null, at.hips);
  maker.joint('spine1', 'hips', at.spine1);
  maker.joint('spine2', 'spine1', at.spine2);
  maker.joint('chest', 'spine2', at.chest);
  maker.joint('neck', 'chest', at.neck);
  maker.joint('neck2', 'neck', at.neck2);
  maker.joint('head', 'neck2', at.head);
  const centre = { side: 'centre', move: 'xyz', turn: 'xyz' } as const;
  maker.control({ ...centre, id: 'body', name: 'body', form: 'square', reach: 0.25, place: at.hips });
  maker.control({
    ...centre,
    id: 'hips',
    name: 'hips',
    form: 'ring',
    reach: 0.2,
    off: [0, -0.03, 0],
    in: { is: 'control', id: 'body' },
  });
  maker.control({
    ...centre,
    id: 'chest',
    name: 'chest',
    form: 'ring',
    reach: 0.235,
    off: [0, 0.03, 0],
    in: { is: 'control', id: 'body' },
  });
  maker.control({
    ...centre,
    id: 'head',
    name: 'head',
    form: 'ring',
    reach: 0.2,
    off: [0, 0.2, 0.01],
    in: { is: 'joint', id: 'chest' },
    limits: {
      'turn.x': { min: rad(-60), max: rad(60) },
      'turn.y': { min: rad(-85), max: rad(85) },
      'turn.z': { min: rad(-45), max: rad(45) },
    },
  });
  maker.spines.push(
    {
      id: 'spine',
      joints: ['hips', 'spine1', 'spine2', 'chest'],
      from: { is: 'control', id: 'hips' },
      to: { is: 'control', id: 'chest' },
    },
    {
      id: 'neck',
      joints: ['neck', 'neck2', 'head'],
      from: { is: 'joint', id: 'chest' },
      to: { is: 'control', id: 'head' },
    },
  );
}

function leg(maker: RigMaker, side: BodySide): void {
  const m = side.mark;
  maker.joint(`thigh${m}`, 'hips', on(side, at.thigh));
  maker.joint(`shin${m}`, `thigh${m}`, on(side, at.shin));
  maker.joint(`foot${m}`, `shin${m}`, on(side, at.foot));
  maker.joint(`toes${m}`, `foot${m}`, on(side, at.toes), { kind: 'foot', foot: `foot${m}` });
  maker.control({
    id: `foot${m}`,
    name: sided('foot', side),
    side: side.side,
    partner: `foot${side.other}`,
    form: 'ring',
    reach: 0.13,
    off: [0, -0.07, 0.06],
    move: 'xyz',
    turn: 'xyz',
    dials: [...footDials, ...limbDials],
    stands: [`foot${m}`, `toes${m}`],
  });
  maker.feet.push({
    id: `foot${m}`,
    control: `foot${m}`,
    heel: [...on(side, [0.1, 0, -0.072])],
    ball: [...on(side, [0.1, 0, 0.095])],
    toe: [...on(side, [0.1, 0, 0.17])],
    inner: [...on(side, [0.058, 0, 0.05])],
    outer: [...on(side, [0.142, 0, 0.05])],
  });
  addLimb(maker, {
    side,
    id: 'leg',
    name: 'leg',
    joints: ['thigh', 'shin', 'foot'],
    words: ['thigh', 'shin', 'ankle'],
    hand: ['foot', 'foot'],
    pole: ['knee', 'knee'],
    away: 0.38,
    along: [0, -1, 0.02],
    follows: 0.6,
    foot: 'foot',
    carrier: 'hips',
    size: 0.12,
  });
  const wood = side.out > 0 ? paints.wood : paints.farWood;
  const [hip, knee, ankle] = [at.thigh, at.shin, at.foot].map((p) => on(side, p));
  maker.solid(
    `thigh${m}`,
    `thigh${m}`,
    wood,
    turned(mix(hip, knee, 0.06), mix(hip, knee, 0.93), [
      [0, 0.079],
      [0.3, 0.078],
      [0.75, 0.06],
      [1, 0.05],
    ]),
  );
  maker.solid(`knee${m}`, `shin${m}`, paints.joint, egg(knee, [0.056, 0.056, 0.056]));
  maker.solid(
    `shin${m}`,
    `shin${m}`,
    wood,
    turned(mix(knee, ankle, 0.08), mix(knee, ankle, 0.93), [
      [0, 0.05],
      [0.28, 0.058],
      [0.7, 0.042],
      [1, 0.034],
    ]),
  );
  maker.solid(`ankle${m}`, `foot${m}`, paints.joint, egg(add(ankle, [0, -0.005, 0]), [0.042, 0.042, 0.042]));
  const z = (v: number): Vector => [ankle[0], 0.043, v];
  maker.soft(
    `shoe${m}`,
    paints.red,
    along(
      [
        { at: z(-0.045), wide: 0.042, deep: 0.043 },
        { at: [ankle[0], 0.046, 0], wide: 0.046, deep: 0.046 },
        { at: [ankle[0], 0.042, 0.06], wide: 0.05, deep: 0.042 },
        { at: [ankle[0], 0.037, 0.11], wide: 0.051, deep: 0.037 },
        { at: [ankle[0], 0.032, 0.146], wide: 0.044, deep: 0.032 },
      ],
      [1, 0, 0],
      22,
      2.6,
    ),
    ([, , d]) => {
      const share = Math.min(1, Math.max(0, (d - 0.075) / 0.04));
      return { [`foot${m}`]: 1 - share, [`toes${m}`]: share };
    },
  );
}

function arm(maker: RigMaker, side: BodySide): void {
  const m = side.mark;
  const [shoulder, elbow, wrist] = [at.arm, at.forearm, at.hand].map((p) => on(side, p));
  maker.joint(`shoulder${m}`, 'chest', on(side, at.shoulder), { kind: 'control', control: `shoulder${m}` });
  maker.joint(`arm${m}`, `shoulder${m}`, shoulder);
  maker.joint(`forearm${m}`, `arm${m}`, elbow);
  maker.joint(`hand${m}`, `forearm${m}`, wrist);
  maker.control({
    id: `shoulder${m}`,
    name: sided('shoulder', side),
    side: side.side,
    partner: `shoulder${side.other}`,
    form: 'fan',
    reach: 0.09,
    off: [...on(side, [0.1, 0.07, 0])],
    faces: 'x',
    in: { is: 'joint', id: 'chest' },
    turn: 'xyz',
    limits: { 'turn.y': { min: rad(-40), max: rad(40) }, 'turn.z': { min: rad(-45), max: rad(45) } },
  });
  maker.control({
    id: `hand${m}`,
    name: sided('hand', side),
    side: side.side,
    partner: `hand${side.other}`,
    form: 'halo',
    reach: 0.09,
    off: [...times(handDirection(side), 0.06)],
    in: { is: 'joint', id: 'chest' },
    move: 'xyz',
    turn: 'xyz',
    dials: limbDials,
    stands: [`hand${m}`],
    holds: `hand${m}`,
  });
  addLimb(maker, {
    side,
    id: 'arm',
    name: 'arm',
    joints: ['arm', 'forearm', 'hand'],
    words: ['arm', 'forearm', 'wrist'],
    hand: ['hand', 'hand'],
    pole: ['elbow', 'elbow'],
    away: 0.32,
    along: [...on(side, [0.55, -0.75, 0.35])],
    carrier: `shoulder${m}`,
    size: 0.09,
  });
  const wood = side.out > 0 ? paints.wood : paints.farWood;
  maker.solid(`shoulder${m}`, `arm${m}`, paints.joint, egg(shoulder, [0.062, 0.062, 0.062]));
  maker.solid(
    `arm${m}`,
    `arm${m}`,
    wood,
    turned(mix(shoulder, elbow, 0.1), mix(shoulder, elbow, 0.9), [
      [0, 0.05],
      [0.4, 0.047],
      [1, 0.036],
    ]),
  );
  maker.solid(`elbow${m}`, `forearm${m}`, paints.joint, egg(elbow, [0.041, 0.041, 0.041]));
  maker.solid(
    `forearm${m}`,
    `forearm${m}`,
    wood,
    turned(mix(elbow, wrist, 0.1), mix(elbow, wrist, 0.92), [
      [0, 0.038],
      [0.35, 0.041],
      [1, 0.027],
    ]),
  );
  hand(maker, side, wrist);
}

/** The direction in which a hanging hand points. */
const handDirection = (side: BodySide): Vector => unit(on(side, [0.1, -0.99, 0.06]));

function hand(maker: RigMaker, side: BodySide, wrist: Vector): void {
  const m = side.mark;
  const wood = side.out > 0 ? paints.wood : paints.farWood;
  const direction = handDirection(side);
  const curls = ['index', 'middle', 'ring', 'little'].map((f) => dial(f, f, { min: -0.4 }));
  maker.solid(`wrist${m}`, `hand${m}`, paints.joint, egg(wrist, [0.03, 0.03, 0.03]));
  const palm = add(wrist, times(direction, 0.052));
  maker.solid(`palm${m}`, `hand${m}`, wood, egg(palm, [0.019, 0.045, 0.044], 2.7));
  // To close, a hanging hand's fingers turn inwards: about z, and that is the other way round on the right.
  const sign = side.out > 0 ? '-' : '';
  for (const { id, forward, down, long } of fingers) {
    const inputs = { fist: `fingers${m}.fist`, own: `fingers${m}.${id}`, spread: `fingers${m}.spread` };
    const names = [1, 2, 3].map((n) => `${id}${n}${m}`);
    const lengths = [0.036, 0.027, 0.022].map((l) => l * long);
    let place = add(wrist, add(times(direction, down), [0, 0, forward]));
    const spread = forward / 0.031;
    names.forEach((name, k) => {
      const bend = [80, 95, 65][k];
      maker.joint(name, k === 0 ? `hand${m}` : names[k - 1], place, {
        kind: 'dials',
        turn: [
          k === 0 ? driven(`-spread * ${(spread * 14).toFixed(2)}`, { spread: inputs.spread }) : null,
          null,
          driven(`${sign}clamp(fist + own, -0.3, 1) * ${bend}`, { fist: inputs.fist, own: inputs.own }),
        ],
      });
      const end = add(place, times(direction, lengths[k]));
      maker.solid(
        name,
        name,
        k === 1 ? paints.joint : wood,
        turned(
          place,
          end,
          [
            [0.1, 0.0125 - k * 0.0008],
            [0.95, 0.0115 - k * 0.0008],
          ],
          10,
        ),
      );
      place = end;
    });
  }
  const thumbWay = unit(on(side, [-0.1, -0.72, 0.68]));
  let place = add(wrist, add(times(direction, 0.022), [0, 0, 0.034]));
  [0.036, 0.03, 0.024].forEach((length, k) => {
    const name = `thumb${k + 1}${m}`;
    maker.joint(name, k === 0 ? `hand${m}` : `thumb${k}${m}`, place, {
      kind: 'dials',
      turn: [
        driven(`thumb * ${[10, 12, 20][k]}`, { thumb: `fingers${m}.thumb` }),
        driven(`${sign}thumb * ${[55, 35, 30][k]}`, { thumb: `fingers${m}.thumb` }),
        null,
      ],
    });
    const end = add(place, times(thumbWay, length));
    maker.solid(
      name,
      name,
      k === 1 ? paints.joint : wood,
      turned(
        place,
        end,
        [
          [0.05, 0.0145 - k * 0.001],
          [0.95, 0.0135 - k * 0.001],
        ],
        10,
      ),
    );
    place = end;
  });
  maker.control({
    id: `fingers${m}`,
    name: sided('fingers', side),
    side: side.side,
    partner: `fingers${side.other}`,
    form: 'fan',
    reach: 0.05,
    place: add(wrist, times(direction, 0.17)),
    in: { is: 'joint', id: `hand${m}` },
    dials: [
      dial('fist', 'fist', { min: -0.2 }),
      dial('spread', 'spread', { min: -1 }),
      dial('thumb', 'thumb', { min: -0.5 }),
      ...curls,
    ],
  });
}

function head(maker: RigMaker, version: 1 | 2): void {
  const skull: Vector = [0, 1.675, 0.012];
  maker.solid(
    'neck',
    'neck2',
    paints.joint,
    turned(
      [0, 1.43, -0.02],
      [0, 1.57, 0.004],
      [
        [0, 0.05],
        [1, 0.046],
      ],
    ),
  );
  maker.solid('skull', 'head', paints.wood, egg(skull, [0.122, 0.14, 0.128], 2.15, 28));
  maker.solid('nose', 'head', paints.joint, egg([0, 1.655, 0.148], [0.02, 0.02, 0.026], 2, 12));
  for (const side of bothSides) {
    maker.solid(
      `ear${side.mark}`,
      'head',
      paints.joint,
      egg(on(side, [0.122, 1.665, 0.01]), [0.016, 0.032, 0.024], 2, 12),
    );
  }
  const cap = together(
    along(
      [
        { at: [0, 1.762, -0.004], wide: 0.126, deep: 0.128 },
        { at: [0, 1.8, -0.008], wide: 0.132, deep: 0.132 },
        { at: [0, 1.822, -0.01], wide: 0.12, deep: 0.12 },
      ],
      [1, 0, 0],
      28,
    ),
    egg([0, 1.755, 0.108], [0.098, 0.013, 0.085], 2.2, 20),
  );
  const look = dial('eyes', 'eyes', { initial: 1 });
  maker.control({
    id: 'look',
    name: 'look at',
    side: 'centre',
    form: 'cross',
    reach: 0.06,
    faces: 'z',
    place: [0, 1.672, 1.4],
    in: { is: 'control', id: 'body' },
    move: 'xyz',
    dials: [look, dial('head', 'head')],
  });
  maker.looks.push({ joint: 'head', at: 'look', share: 'look.head' });
  const faceDials =
    version === 1
      ? [angleDial('cap', 'cap', -25, 25)]
      : [
          dial('jaw', 'jaw'),
          ...bothSides.map((s) => dial(`brow${s.mark}`, `brow ${s.mark}`, { min: -1 })),
          ...bothSides.map((s) => dial(`tilt${s.mark}`, `brow tilt ${s.mark}`, { min: -1 })),
          ...bothSides.map((s) => dial(`lid${s.mark}`, `lid ${s.mark}`)),
          dial('blink', 'blink'),
        ];
  maker.control({
    id: 'face',
    name: 'face',
    side: 'centre',
    form: 'pin',
    reach: 0.06,
    faces: 'z',
    place: [0, 1.7, 0.27],
    in: { is: 'joint', id: 'head' },
    dials: faceDials,
  });
  if (version === 1) {
    maker.joint('cap', 'head', [0, 1.76, -0.01], {
      kind: 'dials',
      turn: [driven('-tilt', { tilt: 'face.cap' }), null, null],
    });
    maker.solid('cap', 'cap', paints.red, cap);
  } else maker.solid('cap', 'head', paints.red, cap);
  for (const side of bothSides) eye(maker, side, version);
  if (version === 2) {
    maker.joint('jaw', 'head', [0, 1.64, 0.0], {
      kind: 'dials',
      turn: [driven('open * 24', { open: 'face.jaw' }), null, null],
    });
    maker.solid('jaw', 'jaw', paints.farWood, egg([0, 1.575, 0.058], [0.068, 0.036, 0.084], 2.5, 20));
    maker.solid('mouth', 'head', paints.ink, egg([0, 1.592, 0.07], [0.052, 0.02, 0.062], 2.2, 16));
  }
}

function eye(maker: RigMaker, side: BodySide, version: 1 | 2): void {
  const m = side.mark;
  const centre = on(side, at.eye);
  const dot = add(centre, [0, 0, 0.078]);
  maker.joint(`eye${m}`, 'head', centre);
  maker.looks.push({ joint: `eye${m}`, at: 'look', share: 'look.eyes' });
  maker.solid(`eye${m}`, `eye${m}`, paints.ink, egg(dot, [0.014, 0.02, 0.012], 2, 14));
  if (version === 1) return;
  const lid = driven('-min(1, blink + lid) * 62', { blink: 'face.blink', lid: `face.lid${m}` });
  maker.joint(`lid${m}`, 'head', centre, { kind: 'dials', turn: [{ ...lid, text: lid.text.slice(1) }, null, null] });
  const up = rad(-46);
  const lidAt = add(centre, [0, -Math.sin(up) * 0.084, Math.cos(up) * 0.084 - 0.006]);
  maker.solid(`lid${m}`, `lid${m}`, paints.wood, egg(lidAt, [0.026, 0.022, 0.016], 2, 14));
  const brow = on(side, at.brow);
  const sign = side.out > 0 ? '' : '-';
  maker.joint(`brow${m}`, 'head', brow, {
    kind: 'dials',
    turn: [null, null, driven(`${sign}tilt * 26`, { tilt: `face.tilt${m}` })],
    move: [null, driven('up * 0.016', { up: `face.brow${m}` }), null],
  });
  const [inner, outer] = [on(side, [-0.024, 0.002, 0.008]), on(side, [0.03, -0.002, -0.008])].map((d) => add(brow, d));
  maker.solid(
    `brow${m}`,
    `brow${m}`,
    paints.dark,
    turned(
      inner,
      outer,
      [
        [0, 0.0085],
        [0.6, 0.009],
        [1, 0.006],
      ],
      10,
    ),
  );
}

/** The waistcoat and what is under it. */
function body(maker: RigMaker): void {
  maker.solid('pelvis', 'hips', paints.dark, egg([0, 0.905, 0], [0.142, 0.085, 0.105], 2.4));
  maker.soft(
    'waistcoat',
    paints.blue,
    along(
      [
        { at: [0, 0.955, 0], wide: 0.138, deep: 0.104 },
        { at: [0, 1.02, 0.004], wide: 0.132, deep: 0.1 },
        { at: [0, 1.1, 0.008], wide: 0.134, deep: 0.102 },
        { at: [0, 1.2, 0.008], wide: 0.152, deep: 0.113 },
        { at: [0, 1.3, 0], wide: 0.166, deep: 0.116 },
        { at: [0, 1.37, -0.008], wide: 0.158, deep: 0.1 },
        { at: [0, 1.415, -0.014], wide: 0.118, deep: 0.08 },
      ],
      [1, 0, 0],
      30,
      2.4,
    ),
    alongChain(maker, ['hips', 'spine1', 'spine2', 'chest', 'neck'], 1),
  );
  for (const [i, y] of [1.06, 1.15, 1.24].entries()) {
    maker.soft(
      `button${i}`,
      paints.brass,
      egg([0, y, 0.108 + i * 0.007], [0.011, 0.011, 0.007], 2, 10),
      alongChain(maker, ['hips', 'spine1', 'spine2', 'chest', 'neck'], 1),
    );
  }
}

function sets(maker: RigMaker, version: 1 | 2): void {
  maker.sets.push(
    { id: 'body', name: 'body, hips, chest, head', side: 'centre', controls: ['body', 'hips', 'chest', 'head'] },
    { id: 'face', name: version === 1 ? 'look, cap' : 'look, face', side: 'centre', controls: ['face', 'look'] },
    ...bothSides.map(({ mark: m, side }) => ({
      id: `arm${m}`,
      name: `arm ${m}`,
      side,
      controls: ['shoulder', 'hand', 'elbow', 'fingers', 'armJoint', 'forearmJoint', 'handJoint'].map(
        (c) => `${c}${m}`,
      ),
    })),
    ...bothSides.map(({ mark: m, side }) => ({
      id: `leg${m}`,
      name: `leg ${m}`,
      side,
      controls: ['foot', 'knee', 'thighJoint', 'shinJoint', 'footJoint'].map((c) => `${c}${m}`),
    })),
  );
}
