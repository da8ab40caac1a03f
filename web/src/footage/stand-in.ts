/**
 * The camera that is there where there is none: a made-up figure of drawn sticks that acts before it, and a ball that is dropped. What it
 * shows depends on the second alone.
 */

export const acts = {
  heave: { word: 'somebody heaves a sack', seconds: 7 },
  ball: { word: 'a ball is dropped', seconds: 5 },
  walk: { word: 'somebody walks across', seconds: 5 },
} as const;
export type Act = keyof typeof acts;

type Context = OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D;

/** Metres that the picture is wide, and how high its floor lies over its lower edge. */
export const STAND_IN_METRES = 4;
const FLOOR = 0.25;

/** The ball that is dropped: its radius, from how high its underside falls, and what of its speed it keeps. */
export const standInBall = { radius: 0.12, height: 1.6, lively: 0.78, gravity: 9.81 } as const;

/** How high the underside of the ball is, a time after it was let go; metres. */
export function ballHeight(seconds: number): number {
  const { height, lively, gravity } = standInBall;
  let [from, high] = [-Math.sqrt((2 * height) / gravity), height];
  for (let i = 0; i < 40; i++) {
    const half = Math.sqrt((2 * high) / gravity);
    if (seconds < from + 2 * half) return Math.max(0, high - 0.5 * gravity * (seconds - from - half) ** 2);
    from += 2 * half;
    high *= lively ** 2;
  }
  return 0;
}

/** Draws what the stand-in camera sees at a second, round and round. */
export function drawStandIn(context: Context, act: Act, seconds: number): void {
  const { width, height } = context.canvas;
  const scale = width / STAND_IN_METRES;
  context.save();
  context.fillStyle = '#e9e4d8';
  context.fillRect(0, 0, width, height);
  context.fillStyle = '#d3ccbc';
  context.fillRect(0, height - FLOOR * scale, width, FLOOR * scale);
  // Metres from the middle of the floor, y up.
  context.translate(width / 2, height - FLOOR * scale);
  context.scale(scale, -scale);
  context.lineCap = 'round';
  context.lineJoin = 'round';
  drawRod(context);
  const time = seconds % acts[act].seconds;
  if (act === 'ball') drawBall(context, time);
  else drawFigure(context, act === 'heave' ? poseAt(heave, time) : walkAt(time));
  context.restore();
}

/** A rod of a metre on the wall: what lengths on the picture mean. */
function drawRod(context: Context): void {
  context.strokeStyle = '#8a6a43';
  context.lineWidth = 0.025;
  line(context, [
    [-1.7, 0.3],
    [-1.7, 1.3],
  ]);
  for (const y of [0.3, 1.3])
    line(context, [
      [-1.76, y],
      [-1.64, y],
    ]);
}

/** It is held for half a second, and let go. */
const HELD = 0.5;

function drawBall(context: Context, time: number): void {
  const { radius } = standInBall;
  const high = time < HELD ? standInBall.height : ballHeight(time - HELD);
  context.fillStyle = '#b23519';
  context.beginPath();
  context.arc(0, high + radius, radius, 0, 2 * Math.PI);
  context.fill();
  context.fillStyle = '#fbf8f1';
  context.beginPath();
  context.arc(0, high + radius, 0.015, 0, 2 * Math.PI);
  context.fill();
}

type Place = readonly [x: number, y: number];

function line(context: Context, places: readonly Place[]): void {
  context.beginPath();
  places.forEach(([x, y], i) => {
    context[i === 0 ? 'moveTo' : 'lineTo'](x, y);
  });
  context.stroke();
}

/** A figure of sticks: where its parts are, in metres; knees and elbows follow. */
interface Pose {
  readonly hips: Place;
  readonly neck: Place;
  readonly head: Place;
  readonly feet: readonly [Place, Place];
  readonly hands: readonly [Place, Place];
  /** The middle of the sack; where it is not, there is none. */
  readonly sack: Place;
}

const THIGH = 0.44;
const ARM = 0.3;

function drawFigure(context: Context, pose: Pose): void {
  const tints = ['#1c7f7c', '#86407f'] as const;
  context.lineWidth = 0.055;
  for (const side of [1, 0] as const) {
    context.strokeStyle = tints[side];
    line(context, [pose.hips, bent(pose.hips, pose.feet[side], THIGH, 1), pose.feet[side]]);
    const [x, y] = pose.feet[side];
    line(context, [
      [x, y],
      [x + 0.16, y + 0.01],
    ]);
  }
  context.strokeStyle = '#3a3d42';
  context.lineWidth = 0.075;
  line(context, [pose.hips, pose.neck]);
  context.lineWidth = 0.045;
  for (const side of [1, 0] as const) {
    context.strokeStyle = tints[side];
    line(context, [pose.neck, bent(pose.neck, pose.hands[side], ARM, -1), pose.hands[side]]);
  }
  context.fillStyle = '#3a3d42';
  context.beginPath();
  context.arc(pose.head[0], pose.head[1], 0.12, 0, 2 * Math.PI);
  context.fill();
  context.fillStyle = '#b97b12';
  context.beginPath();
  context.ellipse(pose.sack[0], pose.sack[1], 0.26, 0.19, 0, 0, 2 * Math.PI);
  context.fill();
}

/** The joint between two places that are joined by two parts of one length; straight where they are farther apart. */
function bent(a: Place, b: Place, length: number, way: 1 | -1): Place {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const apart = Math.hypot(dx, dy);
  const out = Math.sqrt(Math.max(0, length * length - (apart / 2) ** 2)) * way;
  return [(a[0] + b[0]) / 2 - (dy / (apart || 1)) * out, (a[1] + b[1]) / 2 + (dx / (apart || 1)) * out];
}

const stand: Pose = {
  hips: [-0.4, 0.86],
  neck: [-0.4, 1.4],
  head: [-0.36, 1.6],
  feet: [
    [-0.56, 0],
    [-0.32, 0],
  ],
  hands: [
    [-0.5, 0.86],
    [-0.24, 0.88],
  ],
  sack: [0.25, 0.19],
};
const take: Pose = {
  ...stand,
  hips: [-0.45, 0.55],
  neck: [-0.12, 0.92],
  head: [0.06, 1.04],
  hands: [
    [0.1, 0.32],
    [0.2, 0.34],
  ],
};
const test: Pose = { ...take, hips: [-0.42, 0.62], neck: [-0.14, 1.02], sack: [0.25, 0.25] };
const gather: Pose = { ...take, hips: [-0.62, 0.46], neck: [-0.3, 0.84], head: [-0.12, 0.98], sack: [0.12, 0.22] };
const drive: Pose = {
  ...stand,
  hips: [-0.2, 0.84],
  neck: [-0.3, 1.36],
  head: [-0.38, 1.55],
  hands: [
    [0.05, 1.02],
    [0.12, 1.06],
  ],
  sack: [0.22, 1.0],
};
const thrown: Pose = {
  ...drive,
  hips: [-0.05, 0.82],
  neck: [0.14, 1.34],
  head: [0.26, 1.5],
  feet: [
    [-0.5, 0.06],
    [0.1, 0],
  ],
  hands: [
    [0.62, 1.42],
    [0.66, 1.36],
  ],
  sack: [1.0, 1.3],
};
const carried: Pose = {
  ...thrown,
  hips: [0.22, 0.76],
  neck: [0.38, 1.26],
  head: [0.5, 1.42],
  feet: [
    [0.42, 0],
    [0.1, 0],
  ],
  hands: [
    [0.66, 0.96],
    [0.7, 0.92],
  ],
  sack: [1.35, 0.6],
};
const rest: Pose = {
  ...carried,
  hips: [0.24, 0.84],
  neck: [0.22, 1.38],
  head: [0.24, 1.58],
  hands: [
    [0.1, 0.84],
    [0.36, 0.86],
  ],
};
const wipe: Pose = {
  ...rest,
  hands: [
    [0.1, 0.84],
    [0.36, 1.62],
  ],
};

/** When each pose is reached, and how long the way to it takes of the time before it. */
const heave: readonly (readonly [seconds: number, pose: Pose])[] = [
  [0, stand],
  [0.5, stand],
  [1.2, take],
  [1.5, take],
  [1.75, test],
  [2.0, take],
  [2.45, gather],
  [2.75, gather],
  [3.0, drive],
  [3.2, thrown],
  [3.55, carried],
  [4.0, carried],
  [4.5, rest],
  [5.0, rest],
  [5.4, wipe],
  [6.1, wipe],
  [6.6, rest],
  [7, rest],
];

function poseAt(poses: typeof heave, time: number): Pose {
  const at = poses.findLastIndex(([seconds]) => seconds <= time);
  const [from, a] = poses[Math.max(0, at)];
  const [to, b] = poses[Math.min(poses.length - 1, at + 1)];
  const t = to > from ? (time - from) / (to - from) : 0;
  return mixed(a, b, t * t * (3 - 2 * t));
}

const between = (a: Place, b: Place, s: number): Place => [a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s];

const mixed = (a: Pose, b: Pose, s: number): Pose => ({
  hips: between(a.hips, b.hips, s),
  neck: between(a.neck, b.neck, s),
  head: between(a.head, b.head, s),
  feet: [between(a.feet[0], b.feet[0], s), between(a.feet[1], b.feet[1], s)],
  hands: [between(a.hands[0], b.hands[0], s), between(a.hands[1], b.hands[1], s)],
  sack: between(a.sack, b.sack, s),
});

/** Somebody who walks across: each foot stands for more than half of its time. */
function walkAt(time: number): Pose {
  const step = 0.5;
  const x = -2.2 + time * 1.0;
  const foot = (phase: number): Place => {
    const t = (((time / (2 * step) + phase) % 1) + 1) % 1;
    const stride = 1.0;
    if (t < 0.6) return [x + stride * (0.3 - t), 0];
    const s = (t - 0.6) / 0.4;
    return [x - 0.3 * stride + s * 0.6 * stride, 0.14 * Math.sin(Math.PI * s)];
  };
  const swing = Math.sin((time / (2 * step)) * 2 * Math.PI);
  const up = 0.84 + 0.02 * Math.cos((time / step) * 2 * Math.PI);
  return {
    hips: [x, up],
    neck: [x + 0.04, up + 0.54],
    head: [x + 0.08, up + 0.74],
    feet: [foot(0), foot(0.5)],
    hands: [
      [x + 0.26 * swing, up + 0.06],
      [x - 0.26 * swing, up + 0.06],
    ],
    sack: [-9, 0],
  };
}
