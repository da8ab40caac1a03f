import type { Key } from '../../curve/key.ts';
import { channelPath } from '../../document/channels.ts';
import type { Member } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { Program } from '../../evaluate/program.ts';
import { invert, transformPoint } from '../../pose/affine.ts';
import { type Angles, quaternionToAngles } from '../../pose/angles.ts';
import { apart, cross, direction, minus, type Vector } from '../../pose/vectors.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { throughKey } from '../keys.ts';
import type { Field, Written } from '../kit.ts';
import { frameField, numberOf } from '../kit.ts';

/** What camera moves have in common: from when to when, how close their keys stand, and where a camera must be turned to look at something. */

export const spanFields: readonly Field[] = [
  frameField('from', 'from'),
  frameField('to', 'to', 96),
  {
    kind: 'number',
    name: 'every',
    label: 'a key every',
    unit: 'frames',
    min: 1,
    max: 48,
    step: 1,
    start: 6,
    whole: true,
  },
];

/** What a camera move begins with: the frames that play, and whoever of the cast is most worth looking at. */
export function suggested(shot: Shot, member: Member): { from: number; to: number; whom: string } {
  const others = shot.members.values().filter((m) => m.id !== member.id && m.parent === null);
  const worth = (m: Member) =>
    m.kind === 'rig' ? 0 : m.kind === 'ball' ? 1 : ['camera', 'light', 'sky', 'plane'].includes(m.kind) ? 9 : 2;
  const [best] = others.sort((a, b) => worth(a) - worth(b) || a.rank - b.rank);
  return { from: shot.play.first, to: shot.play.last, whom: best && worth(best) < 9 ? best.id : '' };
}

/** The frames of a span on which a move puts keys; both ends are among them. A sentence where there are none. */
export function framesOf(settings: Readonly<Record<string, unknown>>): number[] | string {
  const [from, to, every] = ['from', 'to', 'every'].map((name) => numberOf(settings as never, name));
  if (to <= from) return 'It has no frames to move in: let it end after it begins.';
  const out: number[] = [];
  for (let frame = from; frame < to; frame += every) out.push(frame);
  // No stump of an interval at the end.
  if (out.length > 1 && to - out[out.length - 1] < every / 2) out.pop();
  return [...out, to];
}

/** Where somebody is at a frame: a rig where it has got to. */
export function placeAt(frame: Frame, id: string): Vector | null {
  const slot = frame.layout.slotOf.get(id);
  if (slot === undefined) return null;
  const at = (frame.layout.rigAt.get(slot)?.root ?? slot) * 16 + 12;
  return [frame.world[at], frame.world[at + 1], frame.world[at + 2]];
}

/** The turn that lets a camera at a place look at another, level. It looks along its own -Z. */
export function looking(from: Vector, to: Vector): Quaternion {
  const z = direction(minus(from, to), [0, 0, 1]);
  const x = direction(cross([0, 1, 0], z), [1, 0, 0]);
  const y = cross(z, x);
  // The columns of a turn as a quaternion (Shepperd 1978).
  const trace = x[0] + y[1] + z[2];
  if (trace > 0) {
    const s = 2 * Math.sqrt(trace + 1);
    return [(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4];
  }
  if (x[0] > y[1] && x[0] > z[2]) {
    const s = 2 * Math.sqrt(1 + x[0] - y[1] - z[2]);
    return [s / 4, (y[0] + x[1]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s];
  }
  if (y[1] > z[2]) {
    const s = 2 * Math.sqrt(1 + y[1] - x[0] - z[2]);
    return [(y[0] + x[1]) / s, s / 4, (z[1] + y[2]) / s, (z[0] - x[2]) / s];
  }
  const s = 2 * Math.sqrt(1 + z[2] - x[0] - y[1]);
  return [(z[0] + x[2]) / s, (z[1] + y[2]) / s, s / 4, (x[1] - y[0]) / s];
}

/** A program with a frame of its own, to look at a shot at many frames. */
export function viewer(shot: Shot): (frame: number) => Frame {
  const program = new Program(shot);
  const frame = program.createFrame();
  return (at) => {
    program.evaluate(at, frame);
    return frame;
  };
}

/** Why a member cannot be moved so; null where it can. */
export function notMovable(member: Member): Written | null {
  if (member.kind !== 'camera') return { problem: 'Only a camera is moved so: pick one.' };
  if (member.rotation !== 'angles') return { problem: 'It turns by orientation. Let it turn by angles first.' };
  if (member.parent !== null) return { problem: 'It hangs on another, who carries it: let it go first.' };
  return null;
}

/** Keys of where a camera is and how it is turned, as they are collected frame by frame. */
export class CameraKeys {
  readonly keys: Record<string, Key[]> = {};
  readonly #member: Member;
  #near: Angles = [0, 0, 0];

  constructor(member: Member, near: Angles) {
    this.#member = member;
    this.#near = near;
  }

  put(channel: string, frame: number, value: number): void {
    const path = channelPath(this.#member.id, channel);
    const list = this.keys[path] ?? [];
    this.keys[path] = list;
    list.push(throughKey(frame, value));
  }

  place(frame: number, at: Vector): void {
    for (const [i, axis] of ['x', 'y', 'z'].entries()) this.put(`move.${axis}`, frame, at[i]);
  }

  /** Turns it towards a place, by angles that go on from those before. */
  look(frame: number, from: Vector, to: Vector): void {
    if (apart(from, to) < 1e-6) return;
    this.#near = quaternionToAngles(looking(from, to), this.#member.order, this.#near);
    for (const [i, axis] of ['x', 'y', 'z'].entries()) this.put(`turn.${axis}`, frame, this.#near[i]);
  }
}

/** The angles a member has at a frame. */
export const anglesAt = (frame: Frame, id: string): Angles =>
  ['x', 'y', 'z'].map((axis) => frame.value(id, `turn.${axis}`) ?? 0) as Angles;

/** Where a place of the world is from a camera: right, up and ahead, metres. */
export function seenFrom(frame: Frame, id: string, at: Vector): Vector {
  const slot = frame.layout.slotOf.get(id)!;
  const inverse = new Float64Array(16);
  const out = new Float64Array(3);
  invert(inverse, 0, frame.world, slot * 16);
  transformPoint(out, 0, inverse, 0, at[0], at[1], at[2]);
  return [out[0], out[1], -out[2]];
}
