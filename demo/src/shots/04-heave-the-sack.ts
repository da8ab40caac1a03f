import {
  addMember,
  type Curve,
  changeChannels,
  channelPath,
  emptyShot,
  type Frame,
  frameOf,
  holdMembers,
  type Key,
  type NewMember,
  type NumberCurve,
  newMember,
  type Quaternion,
  quaternionToAngles,
  type Shot,
} from '@varrup/core';
import { harbourRigs } from '../rigs/index.ts';
import { bollard } from '../set-pieces.ts';
import { withRig } from '../walking.ts';
import { planned } from './04-plan.ts';

const LAST = 200;

const RADIANS = Math.PI / 180;

/** The cart: its bed, two wheels, and what it is drawn by. Metres, from the middle of its bed. */
const CART = { x: 2.42, z: -0.02, bed: 0.52 };

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Harbour set', locked: true },
  { kind: 'plane', id: 'quay', name: 'Quay', parent: 'set', shape: { width: 16, depth: 8 }, colour: '#e2d9c6' },
  ...bollard('set', [-1.9, 0, -1.7]),
  {
    kind: 'box',
    id: 'bed',
    name: 'Cart bed',
    parent: 'set',
    shape: { width: 1.15, height: 0.07, depth: 0.8 },
    values: { 'move.x': CART.x, 'move.y': CART.bed - 0.07, 'move.z': CART.z },
    colour: '#a37b4b',
  },
  ...([-1, 1] as const).map(
    (side): NewMember => ({
      kind: 'cylinder',
      id: side < 0 ? 'wheel-far' : 'wheel-near',
      name: side < 0 ? 'Far wheel' : 'Near wheel',
      parent: 'set',
      shape: { radius: 0.3, height: 0.05 },
      values: {
        'move.x': CART.x + 0.2,
        'move.y': 0.3,
        'move.z': CART.z + side * 0.44 - 0.03,
        'turn.x': Math.PI / 2,
      },
      colour: '#6d5232',
    }),
  ),
  {
    kind: 'box',
    id: 'headboard',
    name: 'Headboard',
    parent: 'set',
    shape: { width: 0.05, height: 0.42, depth: 0.8 },
    values: { 'move.x': CART.x + 0.55, 'move.y': CART.bed, 'move.z': CART.z },
    colour: '#8f6a3f',
  },
  {
    kind: 'box',
    id: 'leg',
    name: 'Cart leg',
    parent: 'set',
    shape: { width: 0.06, height: CART.bed - 0.07, depth: 0.5 },
    values: { 'move.x': CART.x - 0.5, 'move.z': CART.z },
    colour: '#6d5232',
  },
  {
    kind: 'camera',
    id: 'camera',
    name: 'Side camera',
    values: { 'move.x': 1.0, 'move.y': 1.02, 'move.z': 4.5, 'turn.x': -0.02, 'turn.y': 0, view: 0.56 },
  },
];

type Line = readonly (readonly [frame: number, value: number, kind?: 'flat' | 'linear'])[];

const key = (frame: number, value: number, kind: 'smooth' | 'flat' | 'linear' = 'smooth'): Key => ({
  frame,
  value,
  in: { kind },
  out: { kind },
  joined: true,
  role: 'key',
});
const curve = (line: Line, scale = 1, late = 0): NumberCurve => ({
  type: 'number',
  keys: line.map(([frame, value, kind]) => key(frame === 1 ? 1 : frame + late, value * scale, kind)),
  before: 'hold',
  after: 'hold',
});

/**
 * The acting, a line for a channel: metres, and degrees for turns and rolls. He stands bent over the sack with the hook in it; tries it (28), and it
 * falls back; gathers, low and far back (66); drives from the right foot through hips and chest (78), lets it fly (80), is carried on by it (91),
 * settles, and wipes his brow (136).
 */
const legs: Readonly<Record<string, Line>> = {
  'footL.move.z': [[1, 0.27]],
  'footL.move.x': [[1, 0.03]],
  'footL.turn.y': [[1, 6]],
  'footL.ball': [
    [82, 0, 'flat'],
    [92, 20],
    [97, 24, 'flat'],
    [108, 6],
    [114, 0, 'flat'],
  ],
  'footR.move.x': [
    [1, -0.05],
    [80, -0.05, 'flat'],
    [91, -0.03, 'flat'],
  ],
  'footR.move.z': [
    [1, -0.2],
    [80, -0.2, 'flat'],
    [85, 0.22],
    [91, 0.76, 'flat'],
  ],
  'footR.move.y': [
    [80, 0, 'flat'],
    [85, 0.13, 'flat'],
    [91, 0, 'linear'],
  ],
  'footR.turn.x': [
    [80, 0, 'flat'],
    [84, 30],
    [89, -14],
    [92, 0, 'flat'],
  ],
  'footR.turn.y': [
    [1, -30],
    [70, -30, 'flat'],
    [80, -16],
    [91, -10, 'flat'],
  ],
  'footR.ball': [
    [68, 0, 'flat'],
    [75, 20],
    [80, 42, 'flat'],
    [86, 0, 'flat'],
  ],
};

const body: Readonly<Record<string, Line>> = {
  'body.move.z': [
    [1, -0.06],
    [14, -0.052],
    [20, -0.045, 'flat'],
    [29, -0.1, 'flat'],
    [36, -0.05],
    [46, -0.06],
    [60, -0.25],
    [66, -0.27, 'flat'],
    [72, -0.07],
    [78, 0.14],
    [84, 0.33],
    [91, 0.49],
    [97, 0.54, 'flat'],
    [108, 0.505],
    [124, 0.5],
    [200, 0.493],
  ],
  'body.move.x': [
    [1, 0.02],
    [46, 0.02],
    [62, -0.03, 'flat'],
    [68, -0.03, 'flat'],
    [80, 0.05],
    [91, 0.0],
    [110, -0.03],
    [130, -0.045],
    [200, -0.04],
  ],
  'body.move.y': [
    [1, -0.175],
    [14, -0.18],
    [21, -0.2, 'flat'],
    [29, -0.155, 'flat'],
    [36, -0.2],
    [46, -0.18],
    [60, -0.285],
    [66, -0.305, 'flat'],
    [71, -0.19],
    [78, -0.075, 'flat'],
    [85, -0.085],
    [91, -0.115],
    [96, -0.155, 'flat'],
    [106, -0.075],
    [116, -0.05, 'flat'],
    [136, -0.056],
    [160, -0.06],
    [178, -0.054],
    [200, -0.058],
  ],
  'body.turn.x': [
    [1, 35],
    [14, 36],
    [20, 38, 'flat'],
    [29, 30, 'flat'],
    [36, 37],
    [46, 35],
    [60, 44],
    [66, 46, 'flat'],
    [71, 30],
    [77, 2],
    [81, 4],
    [86, 19],
    [93, 27, 'flat'],
    [103, 10],
    [114, 1, 'flat'],
    [134, -2],
    [158, 1],
    [200, 2],
  ],
  'hips.turn.y': [
    [1, 8],
    [46, 8],
    [64, -16, 'flat'],
    [68, -16, 'flat'],
    [76, 10],
    [82, 26, 'flat'],
    [91, 4],
    [98, -8, 'flat'],
    [114, -6],
    [200, -5],
  ],
  'hips.turn.z': [
    [1, -3],
    [62, 4, 'flat'],
    [76, -4],
    [85, 5],
    [93, -5, 'flat'],
    [112, -4],
    [136, -5],
    [200, -4],
  ],
};

const chest: Readonly<Record<string, Line>> = {
  'chest.turn.x': [
    [1, 15],
    [20, 17, 'flat'],
    [29, 8, 'flat'],
    [37, 16],
    [46, 14],
    [61, 20],
    [68, 22, 'flat'],
    [74, 8],
    [79, -9, 'flat'],
    [84, 13],
    [90, 21, 'flat'],
    [101, 13],
    [113, 3, 'flat'],
    [134, -3],
    [150, -1],
    [170, 4],
    [185, 2],
    [200, 4],
  ],
  'chest.turn.y': [
    [1, -10],
    [46, -9],
    [64, -24, 'flat'],
    [70, -25, 'flat'],
    [79, 4],
    [86, 22, 'flat'],
    [97, 8],
    [114, 2],
    [136, 8],
    [156, 3],
    [200, 1],
  ],
  'chest.turn.z': [
    [1, 2],
    [66, -6, 'flat'],
    [80, 5],
    [95, -2],
    [134, 3],
    [160, 2],
    [200, 2],
  ],
};

/** The shoulders go along with the arms: out towards the sack, and after it as it flies. */
const shoulders: Readonly<Record<string, Line>> = {
  'shoulderL.turn.y': [
    [1, -6],
    [22, -6],
    [30, -20, 'flat'],
    [38, -6],
    [62, -16],
    [70, -18, 'flat'],
    [76, -4],
    [83, -24, 'flat'],
    [92, -14],
    [112, 0],
    [128, 4],
    [138, -6, 'flat'],
    [156, 0],
    [200, 0],
  ],
  'shoulderL.turn.z': [
    [1, 0],
    [124, 0],
    [138, 14, 'flat'],
    [150, 12],
    [164, 0],
    [182, 1.5],
    [200, 0],
  ],
  'shoulderR.turn.y': [
    [1, 8],
    [66, 14, 'flat'],
    [80, -8],
    [92, 4, 'flat'],
    [110, 6],
    [124, 8],
    [200, 7],
  ],
};

const head: Readonly<Record<string, Line>> = {
  'head.turn.x': [
    [1, -22],
    [18, -20],
    [29, -28, 'flat'],
    [38, -16],
    [46, -20],
    [64, -34, 'flat'],
    [70, -34],
    [80, -6],
    [87, -28],
    [97, -30, 'flat'],
    [110, -6],
    [122, 2],
    [136, 16, 'flat'],
    [150, 14],
    [162, -6],
    [176, -3],
    [200, -5],
  ],
  'head.turn.y': [
    [1, -4],
    [36, -3],
    [40, 9, 'flat'],
    [45, -10, 'flat'],
    [51, 2],
    [64, 14, 'flat'],
    [80, 0],
    [110, 0],
    [136, -10, 'flat'],
    [152, -8],
    [166, -20],
    [200, -18],
  ],
  'head.turn.z': [
    [1, 3],
    [60, -4],
    [80, 2],
    [122, 0],
    [138, 10, 'flat'],
    [150, 8],
    [164, -3],
    [200, -2],
  ],
};

/** Where the pole's hook is, metres, and how high its other end lies behind it, degrees. */
const pole: readonly (readonly [frame: number, x: number, y: number, rise: number, kind?: 'flat'])[] = [
  [1, 0.735, 0.46, 25],
  [16, 0.735, 0.46, 25],
  [22, 0.735, 0.455, 27, 'flat'],
  [30, 0.705, 0.515, 19, 'flat'],
  [37, 0.735, 0.46, 26],
  [46, 0.735, 0.46, 25],
  [62, 0.735, 0.46, 14],
  [69, 0.735, 0.465, 12, 'flat'],
  [72, 0.765, 0.66, 9],
  [76, 0.86, 1.1, -12],
  [80, 1.02, 1.45, -36],
  [84, 1.24, 1.34, -26],
  [89, 1.48, 1.03, 0],
  [97, 1.49, 0.67, 22, 'flat'],
  [103, 1.3, 0.93, 0],
  [108, 1.12, 1.37, -34],
  [118, 0.83, 1.88, -86],
  [122, 0.8, 1.885, -88, 'flat'],
  [140, 0.805, 1.885, -88],
  [200, 0.795, 1.885, -88],
];
/** Where the hands hold it, metres from the hook. */
const GRIPS = { L: 0.66, R: 0.9 };
/** How far beside the middle of his body it goes, towards the camera. */
const BESIDE = 0.1;

/** When the sack leaves the ground, when it leaves the hook, and when it comes down on the cart. */
const LIFTS = 69;
const FLIES = 80;
const LANDS = 97;
const GRAVITY = 9.81;

const withCurves = (shot: Shot, curves: Readonly<Record<string, Curve>>): Shot => ({
  ...shot,
  curves: shot.curves.withAll(Object.entries(curves)),
});

const inDegrees = (channel: string) => /\.turn\.|\.(heel|ball|toe|bank)$/.test(channel);

function withLines(shot: Shot, rig: string, lines: Readonly<Record<string, Line>>): Shot {
  const made = Object.entries(lines).map(([name, line]): [string, Curve] => [
    `${rig}-${name}`,
    curve(line, inDegrees(name) ? RADIANS : 1),
  ]);
  return withCurves(shot, Object.fromEntries(made));
}

function withPole(shot: Shot): Shot {
  const place = (pick: (tip: (typeof pole)[number]) => number): NumberCurve => ({
    type: 'number',
    keys: pole.map((tip) => key(tip[0], pick(tip), tip[4])),
    before: 'hold',
    after: 'hold',
  });
  const back = (rise: number) => [-Math.cos(rise * RADIANS), Math.sin(rise * RADIANS)] as const;
  // The pole's own origin is 0.9 m behind its hook; it points up at rest.
  return withCurves(shot, {
    'boathook-pole.move.x': place(([, x, , rise]) => x + 0.9 * back(rise)[0]),
    'boathook-pole.move.y': place(([, , y, rise]) => y + 0.9 * back(rise)[1]),
    'boathook-pole.turn.z': place(([, , , rise]) => -(90 + rise) * RADIANS),
  });
}

type Vector = readonly [number, number, number];
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (a: Vector): Vector => {
  const length = Math.hypot(...a);
  return [a[0] / length, a[1] / length, a[2] / length];
};

/** The turn whose axes are these (columns, a right-handed frame). */
function turnOf(x: Vector, y: Vector, z: Vector): Quaternion {
  const w = Math.sqrt(Math.max(0, 1 + x[0] + y[1] + z[2])) / 2;
  if (w > 0.1) return [(y[2] - z[1]) / (4 * w), (z[0] - x[2]) / (4 * w), (x[1] - y[0]) / (4 * w), w];
  const i = x[0] >= y[1] && x[0] >= z[2] ? 0 : y[1] >= z[2] ? 1 : 2;
  const m = [x, y, z];
  const [j, k] = [(i + 1) % 3, (i + 2) % 3];
  const q: [number, number, number, number] = [0, 0, 0, 0];
  q[i] = Math.sqrt(Math.max(0, 1 + m[i][i] - m[j][j] - m[k][k])) / 2;
  q[j] = (m[i][j] + m[j][i]) / (4 * q[i]);
  q[k] = (m[i][k] + m[k][i]) / (4 * q[i]);
  q[3] = (m[j][k] - m[k][j]) / (4 * q[i]);
  return q;
}

const axis = (world: Float64Array, node: number, a: number): Vector => [
  world[node * 16 + a * 4],
  world[node * 16 + a * 4 + 1],
  world[node * 16 + a * 4 + 2],
];
const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** What a control's channels must be for it to stand at a place of the world, turned so, at a frame. */
function reaching(
  shot: Shot,
  frame: Frame,
  control: string,
  place: Vector,
  axes: readonly [Vector, Vector, Vector],
): Record<string, number> {
  const slot = frame.layout.slotOf.get(control)!;
  const space = frame.layout.space[slot];
  const { world } = frame;
  const inside = (v: Vector): Vector => [0, 1, 2].map((a) => dot(v, axis(world, space, a))) as unknown as Vector;
  const by = inside(minus(place, axis(world, slot, 3)));
  const turn = quaternionToAngles(
    turnOf(...(axes.map(inside) as unknown as [Vector, Vector, Vector])),
    shot.members.at(control).order,
  );
  const now = (channel: string) => frame.value(control, channel)!;
  return {
    'move.x': now('move.x') + by[0],
    'move.y': now('move.y') + by[1],
    'move.z': now('move.z') + by[2],
    'turn.x': turn[0],
    'turn.y': turn[1],
    'turn.z': turn[2],
  };
}

/** Both hands take the pole where they hold it; it carries them from then on. */
function withGrips(shot: Shot): Shot {
  const frame = frameOf(shot, 1);
  const slot = frame.layout.slotOf.get('boathook-pole')!;
  const along = unit(axis(frame.world, slot, 1));
  const middle = axis(frame.world, slot, 3);
  let next = shot;
  for (const m of ['L', 'R'] as const) {
    const far = 0.9 - GRIPS[m];
    const place: Vector = [middle[0] + along[0] * far, middle[1] + along[1] * far, middle[2] + along[2] * far];
    const shoulder = axis(frame.world, frame.layout.slotOf.get(`porter-shoulder${m}`)!, 3);
    // The fingers go round the pole: it lies across the palm, and the wrist goes on from the forearm.
    const up = unit(minus(shoulder, place));
    const side = unit(cross(up, along));
    const values = reaching(next, frame, `porter-hand${m}`, place, [side, unit(cross(along, side)), along]);
    next = changeChannels.apply(next, {
      frame: 1,
      values: Object.fromEntries(Object.entries(values).map(([c, v]) => [channelPath(`porter-hand${m}`, c), v])),
      autoKey: 'off',
    });
  }
  return holdMembers.apply(next, {
    ids: ['porter-handL', 'porter-handR'],
    by: { is: 'member', member: 'boathook-pole', joint: null },
    frame: 1,
  });
}

/** Its foot stands so high over what it stands on; it hangs so far under the hook; on its side it lies so high. Metres. */
const FOOT = 0.034;
const HANGS = 0.44;
const SIDE = 0.19;

/** The sack: it stands, is tried, hangs on the hook, flies as it must, and sinks into itself where it lands. */
function withSack(shot: Shot): Shot {
  const tip = (frame: number): readonly [number, number] => {
    const now = frameOf(shot, frame);
    const slot = now.layout.slotOf.get('boathook-pole')!;
    const [along, middle] = [unit(axis(now.world, slot, 1)), axis(now.world, slot, 3)];
    return [middle[0] + along[0] * 0.9, middle[1] + along[1] * 0.9];
  };
  const x: Key[] = [
    key(1, 0.76),
    key(22, 0.76, 'flat'),
    key(30, 0.748, 'flat'),
    key(36, 0.76, 'flat'),
    key(LIFTS - 1, 0.76, 'flat'),
  ];
  const y: Key[] = [
    key(1, FOOT),
    key(22, FOOT, 'flat'),
    key(30, FOOT + 0.034, 'flat'),
    key(35, FOOT + 0.012, 'linear'),
    key(40, FOOT, 'flat'),
    key(LIFTS - 1, FOOT, 'flat'),
  ];
  // On the hook it swings out under it as it is thrown.
  const swing = (frame: number) => 62 * RADIANS * ((frame - LIFTS) / (FLIES - LIFTS)) ** 2;
  let last: readonly [number, number] = [0, 0];
  for (let frame = LIFTS; frame <= FLIES; frame++) {
    const [tx, ty] = tip(frame);
    const at = [
      tx + HANGS * Math.sin(swing(frame)) * 0.6,
      Math.max(FOOT, ty - HANGS * Math.cos(swing(frame))),
    ] as const;
    x.push(key(frame, at[0]));
    y.push(key(frame, at[1]));
    last = at;
  }
  const [rest, down] = [[CART.x + 0.2, CART.bed + SIDE] as const, (LANDS - FLIES) / shot.rate];
  const speed = [(rest[0] - last[0]) / down, (rest[1] - last[1]) / down + (GRAVITY * down) / 2] as const;
  for (let frame = FLIES + 1; frame <= LANDS; frame++) {
    const t = (frame - FLIES) / shot.rate;
    const end = frame === LANDS ? 'linear' : 'smooth';
    x.push(key(frame, last[0] + speed[0] * t, end));
    y.push(key(frame, last[1] + speed[1] * t - (GRAVITY * t * t) / 2, end));
  }
  x.push(key(LANDS + 4, rest[0] + 0.045, 'flat'), key(LANDS + 9, rest[0] + 0.05, 'flat'));
  const track = (keys: Key[]): NumberCurve => ({ type: 'number', keys, before: 'hold', after: 'hold' });
  return withCurves(shot, {
    'sack.move.x': track(x),
    'sack.move.y': track(y),
    'sack.turn.z': curve(
      [
        [22, 0, 'flat'],
        [30, 9, 'flat'],
        [35, -3, 'flat'],
        [40, 0, 'flat'],
        [LIFTS, 0, 'flat'],
        [FLIES, 34],
        [LANDS, 96, 'linear'],
        [LANDS + 4, 86, 'flat'],
        [LANDS + 9, 90, 'flat'],
      ],
      RADIANS,
    ),
    'sack-neck.move.y': curve([
      [22, 0, 'flat'],
      [30, 0.05, 'flat'],
      [36, -0.03, 'flat'],
      [41, 0, 'flat'],
      [LIFTS - 2, 0, 'flat'],
      [LIFTS + 3, 0.07, 'flat'],
      [FLIES, 0.05],
      [LANDS - 2, 0.01],
      [LANDS + 2, -0.1, 'flat'],
      [LANDS + 7, 0.015, 'flat'],
      [LANDS + 13, 0, 'flat'],
    ]),
    'sack-neck.turn.z': curve(
      [
        [30, 0, 'flat'],
        [34, 8, 'flat'],
        [40, 0, 'flat'],
        [LIFTS, 0, 'flat'],
        [FLIES, -18],
        [LANDS, 10],
        [LANDS + 4, -22, 'flat'],
        [LANDS + 10, 5, 'flat'],
        [LANDS + 16, 0, 'flat'],
      ],
      RADIANS,
    ),
    'sack-tuft.turn.z': curve(
      [
        [LIFTS, 0, 'flat'],
        [FLIES, -30],
        [LANDS + 1, 26],
        [LANDS + 6, -24, 'flat'],
        [LANDS + 12, 10, 'flat'],
        [LANDS + 18, 0, 'flat'],
      ],
      RADIANS,
    ),
  });
}

/** When the left hand leaves the pole, and the places it goes to: by his side, to the brow, along it, and down. */
const LEAVES = 122;

function withWipe(shot: Shot): Shot {
  const free = holdMembers.apply(shot, { ids: ['porter-handL'], by: { is: 'own' }, frame: LEAVES });
  const hand = 'porter-handL';
  const stops: readonly (readonly [frame: number, from: 'head' | 'hips', at: Vector, kind?: 'flat'])[] = [
    [130, 'hips', [0.42, 0.34, 0.2]],
    [138, 'head', [0.17, 0.15, 0.19], 'flat'],
    [146, 'head', [0.02, 0.165, 0.22]],
    [151, 'head', [0.16, 0.14, 0.2], 'flat'],
    [160, 'hips', [0.4, 0.2, 0.14]],
    [170, 'hips', [0.3, -0.05, 0.04], 'flat'],
    [200, 'hips', [0.3, -0.056, 0.055]],
  ];
  const lines = new Map<string, Key[]>();
  const put = (frame: number, values: Readonly<Record<string, number>>, kind?: 'flat') => {
    for (const [channel, value] of Object.entries(values)) {
      const keys = lines.get(channel) ?? [];
      keys.push(key(frame, value, kind));
      lines.set(channel, keys);
    }
  };
  const held = frameOf(free, LEAVES);
  const channels = ['move.x', 'move.y', 'move.z', 'turn.x', 'turn.y', 'turn.z'];
  put(LEAVES, Object.fromEntries(channels.map((c) => [c, held.value(hand, c)!])), 'flat');
  for (const [at, from, [left, up, ahead], kind] of stops) {
    const now = frameOf(free, at);
    const slot = now.layout.slotOf.get(from === 'head' ? 'porter-head' : 'porter-hips')!;
    const base = axis(now.world, slot, 3);
    // Measured as he stands: to his left, up, and ahead; he faces along x.
    const place: Vector = [base[0] + ahead, base[1] + up, base[2] - left];
    const elbow: Vector =
      from === 'head'
        ? [place[0] - 0.12, place[1] - 0.16, place[2] - 0.2]
        : [place[0] - 0.05, place[1] + 0.3, place[2] - 0.03];
    const wrist = unit(minus(elbow, place));
    const ahead1: Vector = from === 'head' ? [0, 0, 1] : [1, 0, 0];
    const side = unit(cross(wrist, ahead1));
    put(at, reaching(free, now, hand, place, [side, wrist, unit(cross(side, wrist))]), kind);
  }
  const made = Object.fromEntries(
    [...lines].map(([channel, keys]): [string, Curve] => [
      channelPath(hand, channel),
      { type: 'number', keys: unrolled(keys, channel), before: 'hold', after: 'hold' },
    ]),
  );
  return withCurves(free, made);
}

/** Turns that go on from one to the next by less than half a round. */
function unrolled(keys: readonly Key[], channel: string): Key[] {
  if (!channel.startsWith('turn.')) return [...keys];
  let last = keys[0].value;
  return keys.map((k) => {
    const value = k.value - Math.round((k.value - last) / (2 * Math.PI)) * 2 * Math.PI;
    last = value;
    return { ...k, value };
  });
}

/**
 * The porter with the boathook hooks the sack, tries its weight, gathers, drives from the foot through hips and chest, throws it on the cart, is
 * carried on a step by it, settles, and wipes his brow.
 */
export function heaveTheSack(): Shot {
  return planned(acted([legs, body, chest, shoulders, head]));
}

/** As it was blocked: legs and body first, nothing else yet. */
export const heaveBlocked = (): Shot => planned(acted([legs, body]));

function acted(parts: readonly Readonly<Record<string, Line>>[]): Shot {
  let shot: Shot = {
    ...emptyShot('heave-the-sack', '04 Heave the sack', harbourRigs()),
    range: { first: 1, last: LAST },
    play: { first: 1, last: LAST },
  };
  for (const wanted of set) shot = addMember.apply(shot, { member: newMember(shot, wanted) });
  shot = withRig(shot, { rig: 'porter', version: 2, id: 'porter', name: 'Porter', at: [0, 0, 0], facing: 90 });
  shot = withRig(shot, {
    rig: 'boathook',
    version: 1,
    id: 'boathook',
    name: 'Boathook',
    at: [0, 0, BESIDE],
    facing: 0,
  });
  shot = withRig(shot, { rig: 'sack', version: 1, id: 'sack', name: 'Sack', at: [0.76, 0, BESIDE - 0.06], facing: 0 });
  for (const lines of parts) shot = withLines(shot, 'porter', lines);
  shot = changeChannels.apply(shot, {
    frame: 1,
    values: {
      'porter-fingersL.fist': 0.86,
      'porter-fingersR.fist': 0.86,
      'porter-fingersL.thumb': 0.7,
      'porter-fingersR.thumb': 0.7,
    },
    autoKey: 'off',
  });
  shot = withPole(shot);
  shot = withGrips(shot);
  shot = withSack(shot);
  return withWipe(shot);
}
