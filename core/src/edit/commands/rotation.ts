import type { Curve, Extension, Key, NumberCurve, OrientationCurve, OrientationKey } from '../../curve/key.ts';
import { compileOrientation, orientationAt } from '../../curve/orientation.ts';
import { keyIndexAt } from '../../curve/reshape.ts';
import { CurveReader } from '../../curve/sample.ts';
import { channelPath, ORIENTATION } from '../../document/channels.ts';
import type { Clip } from '../../document/clip.ts';
import type { Member } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { channelValue } from '../../evaluate/channel-value.ts';
import { posedAt } from '../../evaluate/posed.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../../pose/angles.ts';
import { quaternionBetween } from '../../pose/quaternion.ts';
import type { RotationOrder } from '../../pose/rotation-order.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { Table } from '../../table/table.ts';
import { defineCommand } from '../edit.ts';

const TURN = ['turn.x', 'turn.y', 'turn.z'] as const;
type Way = { readonly rotation: 'angles' | 'orientation'; readonly order: RotationOrder };

/** How far the new way of turning may stray from the old one at any half frame, in radians: a fiftieth of a degree. */
const STRAY = 0.02 * (Math.PI / 180);

/** A slope is taken over this many frames on one side of a key. */
const NEAR = 1e-3;

/**
 * Changes how a member turns, three angles in an order or one orientation, without changing the motion: every key stands
 * as before, and where the new way would take another path between two keys, breakdowns on whole frames hold it to the
 * old one.
 */
export const setRotation = defineCommand<{ id: string } & Way>({
  name: 'member.rotation',
  label: ({ id, rotation, order }, shot) =>
    `turn ${memberWords(shot, [id])} by ${rotation === 'angles' ? `angles ${order}` : 'orientation'}`,
  apply(shot, { id, rotation, order }) {
    const member = shot.members.at(id);
    const control = shot.rigs.controlOf(member);
    // A control that its rig lets turn about some axes only has no other way to turn.
    if (control && control.turn !== 'xyz') return shot;
    if (member.rotation === rotation && (rotation === 'orientation' || member.order === order)) {
      return member.order === order ? shot : { ...shot, members: shot.members.with(id, { ...member, order }) };
    }
    const paths = [...TURN.map((c) => channelPath(id, c)), channelPath(id, ORIENTATION)];
    const old = paths.flatMap((p) => shot.curves.get(p) ?? []);
    const turn = turnReader(shot, id);
    const curves = shot.curves.edit();
    const loose = shot.loose.edit();
    for (const path of paths) {
      curves.delete(path);
      loose.delete(path);
    }
    const marks = marksOf(old);
    if (marks.length > 0)
      for (const [path, curve] of converted(id, marks, turn, { rotation, order }, extensionsOf(old)))
        curves.set(path, curve);
    const constant = turn(marks[0]?.frame ?? 1);
    const angles = quaternionToAngles(constant, order);
    const values = { ...member.values, ...Object.fromEntries(TURN.map((c, i) => [c, angles[i]])) };
    const changed = { ...member, rotation, order, values, orientation: [...constant] as typeof member.orientation };
    const clips = shot.clips.withAll(turnedClips(shot, member, paths, { rotation, order }));
    return { ...shot, members: shot.members.with(id, changed), curves: curves.done(), loose: loose.done(), clips };
  },
});

/** Clips that are laid by and turn a control, with its turns in the new way. */
function turnedClips(shot: Shot, { id, kind, parent }: Member, paths: readonly string[], way: Way): [string, Clip][] {
  if (kind !== 'control') return [];
  return shot.clips.values().flatMap((clip): [string, Clip][] => {
    const { kept } = clip;
    const own = kept ? paths.flatMap((p) => (Object.hasOwn(kept.curves, p) ? [[p, kept.curves[p]] as const] : [])) : [];
    if (!kept || clip.rig !== parent || own.length === 0) return [];
    // As if it were at work, and nothing else moved the control.
    const alone = { ...shot, curves: Table.of(Object.fromEntries(own)), tracks: Table.empty<never>() };
    const old = own.map(([, curve]) => curve);
    const made = converted(id, marksOf(old), turnReader(alone, id), way, extensionsOf(old));
    const others = Object.entries(kept.curves).filter(([path]) => !paths.includes(path));
    return [[clip.id, { ...clip, kept: { ...kept, curves: Object.fromEntries([...others, ...made]) } }]];
  });
}

/** How a member is turned within its parent at a frame. */
export const turnAt = (shot: Shot, id: string, frame: number): Quaternion =>
  turnReader(posedAt(shot, frame), id)(frame);

type TurnReader = (frame: number) => Quaternion;

/** Reads a member's turn at many frames. */
function turnReader(shot: Shot, id: string): TurnReader {
  const member = shot.members.at(id);
  const path = channelPath(id, ORIENTATION);
  if (member.rotation === 'orientation') {
    const curve = shot.curves.get(path);
    if (shot.over?.has(path) || curve?.type !== 'orientation') {
      const still = channelValue(shot, path, 1) as Quaternion;
      return () => still;
    }
    return orientationReader(curve);
  }
  const parts = TURN.map((c) => {
    const own = channelPath(id, c);
    const curve = shot.curves.get(own);
    if (shot.over?.has(own) || curve?.type !== 'number') {
      const still = channelValue(shot, own, 1) as number;
      return () => still;
    }
    const reader = new CurveReader(curve);
    return (frame: number) => reader.at(frame);
  });
  return (frame) => anglesToQuaternion(parts.map((read) => read(frame)) as Angles, member.order);
}

function orientationReader(curve: OrientationCurve): TurnReader {
  const compiled = compileOrientation(curve);
  const out = new Float64Array(4);
  return (frame) => {
    orientationAt(compiled, frame, out, 0);
    return [out[0], out[1], out[2], out[3]];
  };
}

/** A frame that has a key for any part of the turn. */
interface Mark {
  readonly frame: number;
  readonly role: Key['role'];
  /** Whether the whole turn holds until the next key. */
  readonly stepped: boolean;
}

function marksOf(curves: readonly Curve[]): Mark[] {
  const frames = [...new Set(curves.flatMap((c) => c.keys.map((k) => k.frame)))].sort((a, b) => a - b);
  return frames.map((frame) => {
    const here = curves.flatMap((c) => (c.keys as readonly (Key | OrientationKey)[])[keyIndexAt(c.keys, frame)] ?? []);
    const breakdown = here.every((k) => k.role === 'breakdown');
    const stepped = here.length === curves.length && here.every((k) => k.out.kind === 'stepped');
    return { frame, role: breakdown ? 'breakdown' : 'key', stepped };
  });
}

type Extensions = { readonly before: Extension; readonly after: Extension };

/** What the parts of the turn do beyond their keys, where they agree; orientations neither travel nor go on at a slope. */
function extensionsOf(curves: readonly Curve[]): Extensions {
  const shared = (side: 'before' | 'after') =>
    curves.every((c) => c[side] === curves[0][side]) ? curves[0][side] : 'hold';
  return { before: shared('before'), after: shared('after') };
}

/** The curves of the new way, with as many breakdowns as it takes to follow the old one. */
function converted(id: string, marks: readonly Mark[], turn: TurnReader, way: Way, beyond: Extensions) {
  let held = [...marks];
  for (;;) {
    const curves = way.rotation === 'angles' ? asAngles(held, turn, way.order) : [asOrientation(held, turn)];
    const read =
      way.rotation === 'angles'
        ? anglesReader(curves as NumberCurve[], way.order)
        : orientationReader(curves[0] as OrientationCurve);
    const more = strayFrames(held, turn, read);
    if (more.length > 0) {
      held = [...held, ...more].sort((a, b) => a.frame - b.frame);
      continue;
    }
    const names = way.rotation === 'angles' ? TURN : [ORIENTATION];
    return curves.map((c, i): [string, Curve] => [channelPath(id, names[i]), { ...c, ...beyond }]);
  }
}

const anglesReader = (curves: readonly NumberCurve[], order: RotationOrder): TurnReader => {
  const readers = curves.map((c) => new CurveReader(c));
  return (frame) => anglesToQuaternion(readers.map((r) => r.at(frame)) as Angles, order);
};

/** In each stretch between two keys, the whole frame where the two ways are furthest apart, if that is too far. */
function strayFrames(held: readonly Mark[], turn: TurnReader, read: TurnReader): Mark[] {
  return held.slice(0, -1).flatMap((mark, i): Mark[] => {
    const end = held[i + 1].frame;
    if (mark.stepped) return [];
    let strays = false;
    let worst = Number.NaN;
    let most = -1;
    for (let f = Math.floor(mark.frame * 2 + 1) / 2; f < end - 1e-6; f += 0.5) {
      const q = quaternionBetween(turn(f), read(f));
      const apart = 2 * Math.atan2(Math.hypot(q[0], q[1], q[2]), Math.abs(q[3]));
      strays ||= apart > STRAY;
      if (apart > most && Number.isInteger(f) && f > mark.frame + 1e-6) [worst, most] = [f, apart];
    }
    return strays && Number.isFinite(worst) ? [{ frame: worst, role: 'breakdown', stepped: false }] : [];
  });
}

/** Angle curves through the marks, as steep on both sides of each as the motion is there. */
function asAngles(marks: readonly Mark[], turn: TurnReader, order: RotationOrder): NumberCurve[] {
  const triples: Angles[] = [];
  const slopes: { arrive: Angles; leave: Angles }[] = [];
  let near: Angles = quaternionToAngles(turn(marks[0].frame), order);
  marks.forEach(({ frame }, i) => {
    const last = marks[i - 1];
    // Step by step from the last key on, so that a turn of more than half a circle is followed all the way.
    if (last) for (let f = last.frame + 0.5; f < frame; f += 0.5) near = quaternionToAngles(turn(f), order, near);
    near = quaternionToAngles(turn(frame), order, near);
    triples.push(near);
    const before = quaternionToAngles(turn(frame - NEAR), order, near);
    const after = quaternionToAngles(turn(frame + NEAR), order, near);
    slopes.push({
      arrive: near.map((a, c) => (a - before[c]) / NEAR) as Angles,
      leave: near.map((a, c) => (after[c] - a) / NEAR) as Angles,
    });
  });
  return [0, 1, 2].map((c) => ({
    type: 'number',
    before: 'hold',
    after: 'hold',
    keys: marks.map(({ frame, role, stepped }, i): Key => {
      const arrive = slopes[i].arrive[c];
      const leave = slopes[i].leave[c];
      const joined = !stepped && Math.abs(arrive - leave) < 1e-4;
      return {
        frame,
        value: triples[i][c],
        in: pointing(-arrive, frame - (marks[i - 1]?.frame ?? frame - 3)),
        out: stepped ? { kind: 'stepped' } : pointing(leave, (marks[i + 1]?.frame ?? frame + 3) - frame),
        joined,
        role,
      };
    }),
  }));
}

/** A handle of a third of the gap with a slope; a slope that rounding alone makes is level. */
const pointing = (slope: number, gap: number): Key['in'] =>
  Math.abs(slope) < 1e-7 ? { kind: 'flat' } : { kind: 'free', frames: gap / 3, rise: (slope * gap) / 3 };

/** One orientation curve through the marks: level where the motion rests, smooth elsewhere. */
function asOrientation(marks: readonly Mark[], turn: TurnReader): OrientationCurve {
  const speed = (a: number, b: number) => {
    const q = quaternionBetween(turn(a), turn(b));
    return Math.hypot(q[0], q[1], q[2]) / NEAR;
  };
  return {
    type: 'orientation',
    before: 'hold',
    after: 'hold',
    keys: marks.map(({ frame, role, stepped }): OrientationKey => {
      const rests = (v: number) => v < 1e-5;
      const kind = (v: number) => ({ kind: rests(v) ? ('flat' as const) : ('smooth' as const) });
      return {
        frame,
        value: turn(frame),
        in: kind(speed(frame - NEAR, frame)),
        out: stepped ? { kind: 'stepped' } : kind(speed(frame, frame + NEAR)),
        joined: !stepped,
        role,
      };
    }),
  };
}
