import type { Curve, Key, NumberCurve, OrientationKey } from '../../curve/key.ts';
import { invert, multiply, transformPoint } from '../../pose/affine.ts';
import { quaternionInverse, quaternionMultiply } from '../../pose/quaternion.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { blend } from '../bake/blend.ts';
import { apart } from '../bake/series.ts';
import type { Motion, Track } from '../scene/scene.ts';
import type { Bone, Bones } from './bones.ts';
import type { ShapeDial } from './meshes.ts';

/** How far a turn may be from the bent one it stands for, radians, and how often it is halved for it. */
const BENT = 2e-5;
const DEEPEST = 10;

/** The same turn on the side of another. */
const onSide = (q: Quaternion, like: Float64Array): Quaternion =>
  q[0] * like[0] + q[1] * like[1] + q[2] * like[2] + q[3] * like[3] < 0 ? [-q[0], -q[1], -q[2], -q[3]] : q;

/** Keys nearer than this are one, frames. */
const SAME = 1e-4;

/** The curves of a motion, by `control.channel`, frames counted from 0, and what of it they cannot say. */
export function curvesOfMotion(
  { tracks }: Motion,
  bones: Bones,
  dials: readonly ShapeDial[],
  rate: number,
): { readonly curves: ReadonlyMap<string, Curve>; readonly unsaid: readonly string[] } {
  const curves = new Map<string, Curve>();
  const unsaid = new Set<string>();
  for (const track of tracks) {
    if (track.of === 'weights') {
      for (const dial of dials.filter((d) => d.node === track.node))
        curves.set(
          dial.path,
          numberCurve(track, rate, (values, at) => values[at + dial.target], dialCount(track)),
        );
      continue;
    }
    const at = bones.of[track.node];
    if (at < 0) continue;
    const bone = bones.list[at];
    const parent = bone.parent < 0 ? null : bones.list[bone.parent];
    if (track.of === 'translation') moves(curves, track, bone, parent, rate);
    else if (track.of === 'rotation') curves.set(`${bone.id}.orientation`, turns(track, bone, parent, rate, unsaid));
    else sizes(curves, track, bone, parent, rate, unsaid);
  }
  return { curves, unsaid: [...unsaid] };
}

const dialCount = ({ values, times, shape }: Track): number =>
  values.length / times.length / (shape === 'cubic' ? 3 : 1);

/** Where a joint stands to its parent, in metres of its control: the scene's move, seen from where the control is at rest. */
function moves(curves: Map<string, Curve>, track: Track, bone: Bone, parent: Bone | null, rate: number): void {
  const into = parent?.rest ?? UNMOVED;
  const out = new Float64Array(3);
  ['x', 'y', 'z'].forEach((axis, c) => {
    const read = (values: Float64Array, at: number, isRate: boolean) => {
      transformPoint(out, 0, into, 0, values[at], values[at + 1], values[at + 2]);
      return isRate ? out[c] - into[12 + c] : out[c] - bone.place[c];
    };
    curves.set(`${bone.id}.move.${axis}`, numberCurve(track, rate, read, 3));
  });
}

const UNMOVED = Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);

/** A joint's turn in its parent, as the control turns it: from rest to rest. */
function turns(track: Track, bone: Bone, parent: Bone | null, rate: number, unsaid: Set<string>): Curve {
  const before = parent?.turn ?? ([0, 0, 0, 1] as const);
  const after = quaternionInverse(bone.turn);
  const turned = (q: Quaternion) => quaternionMultiply(quaternionMultiply(before, q), after);
  const keys: OrientationKey[] = [];
  const add = (seconds: number, q: Quaternion, out: OrientationKey['out']) => {
    const frame = seconds * rate;
    const last = keys[keys.length - 1];
    if (last && frame - last.frame < SAME) keys.pop();
    keys.push({ frame, value: turned(q), in: { kind: 'linear' }, out, joined: false, role: 'key' });
  };
  const { times, values, shape } = track;
  const width = shape === 'cubic' ? 12 : 4;
  const at = (k: number, which: number) => values.subarray(k * width + which * 4, k * width + which * 4 + 4);
  const asTurn = (q: ArrayLike<number>): Quaternion => [q[0], q[1], q[2], q[3]];
  const middle = shape === 'cubic' ? 1 : 0;
  times.forEach((time, k) => {
    add(time, asTurn(at(k, middle)), { kind: shape === 'step' ? 'stepped' : 'linear' });
    if (shape !== 'cubic' || k + 1 === times.length) return;
    // A turn bent by tangents is laid out in keys, straight between, as many as it takes.
    unsaid.add('turns bent by tangents: they have more keys instead, straight between');
    const length = times[k + 1] - time;
    const on = (u: number): Quaternion => {
      const out = new Float64Array(4);
      blend(out, true, true, u, length, at(k, 1), at(k, 2), at(k + 1, 1), at(k + 1, 0));
      return asTurn(out);
    };
    const layBetween = (from: number, to: number, depth: number): void => {
      const u = (from + to) / 2;
      const [a, b, middle] = [on(from), on(to), on(u)];
      const straight = new Float64Array(4);
      blend(straight, false, true, 0.5, 1, a, a, b, b);
      if (depth === DEEPEST || apart(true, straight, onSide(middle, straight)) < BENT) return;
      layBetween(from, u, depth + 1);
      add(time + length * u, middle, { kind: 'linear' });
      layBetween(u, to, depth + 1);
    };
    layBetween(0, 1, 0);
  });
  return { type: 'orientation', keys, before: 'hold', after: 'hold' };
}

const relative = new Float64Array(16);

/** A joint's size: one number along each axis, where it is square to the rig at rest or the same all ways. */
function sizes(
  curves: Map<string, Curve>,
  track: Track,
  bone: Bone,
  parent: Bone | null,
  rate: number,
  unsaid: Set<string>,
): void {
  // How the scene sizes it at rest, seen from its parent: that is its size of one here.
  if (parent && invert(relative, 0, parent.rest, 0)) multiply(relative, 0, relative, 0, bone.rest, 0);
  else relative.set(bone.rest);
  const rest = [0, 4, 8].map((c) => Math.hypot(relative[c], relative[c + 1], relative[c + 2]) || 1);
  const square = Math.abs(bone.turn[3]) > 1 - 1e-6;
  const middle = track.shape === 'cubic' ? 3 : 0;
  const each = track.shape === 'cubic' ? 9 : 3;
  const even = Array.from({ length: track.times.length }, (_, k) =>
    track.values.subarray(k * each + middle, k * each + middle + 3),
  ).every(([x, y, z]) => Math.abs(x - y) < 1e-4 && Math.abs(y - z) < 1e-4);
  if (!square && !even) unsaid.add('sizes along axes that are not the rig’s: they go along the nearest');
  ['x', 'y', 'z'].forEach((axis, c) => {
    curves.set(
      `${bone.id}.size.${axis}`,
      numberCurve(track, rate, (values, at) => values[at + c] / rest[c], 3),
    );
  });
}

/** A curve of one number of a track: its keys where they are, held, straight or bent as they were. */
function numberCurve(
  { times, values, shape }: Track,
  rate: number,
  read: (values: Float64Array, at: number, isRate: boolean) => number,
  width: number,
): NumberCurve {
  const keys: Key[] = [];
  const each = width * (shape === 'cubic' ? 3 : 1);
  for (let k = 0; k < times.length; k++) {
    const at = k * each;
    const frame = times[k] * rate;
    const last = keys[keys.length - 1];
    if (last && frame - last.frame < SAME) {
      keys.pop();
    }
    if (shape !== 'cubic') {
      const out = { kind: shape === 'step' ? ('stepped' as const) : ('linear' as const) };
      keys.push({ frame, value: read(values, at, false), in: { kind: 'linear' }, out, joined: false, role: 'key' });
      continue;
    }
    // A third of the way to the neighbour, with a third of what the tangent says: the same curve as a Bézier.
    const handle = (other: number, tangent: number, sign: 1 | -1) => {
      const seconds = Math.abs(times[other] - times[k]) / 3;
      return { kind: 'free' as const, frames: seconds * rate, rise: sign * tangent * seconds };
    };
    const into = k > 0 ? handle(k - 1, read(values, at, true), -1) : { kind: 'linear' as const };
    const out =
      k + 1 < times.length ? handle(k + 1, read(values, at + 2 * width, true), 1) : { kind: 'linear' as const };
    keys.push({ frame, value: read(values, at + width, false), in: into, out, joined: false, role: 'key' });
  }
  return { type: 'number', keys, before: 'hold', after: 'hold' };
}
