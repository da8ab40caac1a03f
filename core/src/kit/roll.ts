import { handleReach } from '../curve/handles.ts';
import type { Key, NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { withSplit } from '../curve/split.ts';
import { channelPath } from '../document/channels.ts';
import type { Member } from '../document/member.ts';
import type { RecipeSettings } from '../document/recipe.ts';
import type { Shot } from '../document/shot.ts';
import { frameOf, Program } from '../evaluate/program.ts';
import { Ground } from '../ground/ground.ts';
import type { Kit, Task, Written } from './kit.ts';
import { frameField, numberOf } from './kit.ts';

/** How far its way may leave a straight line, in metres, and still be rolled about one axis. */
const STRAIGHT = 1e-4;
/** Nearer than this to the ground it rolls on it, in metres. */
const TOUCHING = 2e-3;

/** Turns a ball as far as it goes, so that what touches the ground stands still for that instant. */
export const roll: Kit = {
  id: 'roll',
  name: 'Roll',
  about:
    'Turns a ball with its way, without slip, on level ground and on slopes; in the air it goes on spinning as it would roll.',
  fields: [
    frameField('from', 'from'),
    frameField('to', 'to', 96),
    {
      kind: 'number',
      name: 'grip',
      label: 'grip',
      hint: '1 rolls without slip; less slides',
      min: 0,
      max: 1,
      step: 0.05,
      start: 1,
    },
  ],
  suggest(shot, member): RecipeSettings {
    const keys = ['x', 'z'].flatMap(
      (c) => shot.curves.get(channelPath(member.id, `move.${c}`))?.keys.map((k) => k.frame) ?? [],
    );
    return keys.length > 0 ? { from: Math.round(Math.min(...keys)), to: Math.round(Math.max(...keys)) } : {};
  },
  write: writeRoll,
};

function writeRoll({ shot, member, settings }: Task): Written {
  if (member.kind !== 'ball') return { problem: 'Only a ball rolls: pick one.' };
  if (member.rotation !== 'angles')
    return { problem: 'It turns by orientation. Let it turn by angles, then it can roll.' };
  const [from, to] = [numberOf(settings, 'from'), numberOf(settings, 'to')];
  if (to <= from) return { problem: 'It has no frames to roll in: let it end after it begins.' };
  const way = straightWay(shot, member.id, from, to);
  if ('problem' in way) return way;
  const axis = axisFor(member, way.heading);
  if (!axis) return { problem: `It turns in the order ${member.order}: to roll at a slant, x must come before y.` };
  const frame = frameOf(shot, from);
  const size = frame.value(member.id, 'size.x') ?? 1;
  const perMetre = (axis.sign * numberOf(settings, 'grip')) / (member.shape.radius * size);
  const start = frame.value(member.id, axis.channel) ?? 0;
  const keys: Record<string, Key[]> = {
    [channelPath(member.id, axis.channel)]: rolled(way, perMetre, start, slopesUnder(shot, member.id, way)),
  };
  if (axis.facing !== null && Math.abs((frame.value(member.id, 'turn.y') ?? 0) - axis.facing) > 1e-9) {
    const facing: Key = {
      frame: from,
      value: axis.facing,
      in: { kind: 'flat' },
      out: { kind: 'flat' },
      joined: true,
      role: 'key',
    };
    keys[channelPath(member.id, 'turn.y')] = [facing];
  }
  return { keys };
}

interface Way {
  /** Level direction, in the space of the parent. */
  readonly heading: readonly [number, number];
  /** The channel that carries most of it, between the two frames, and how much of the way a unit of it is. */
  readonly curve: NumberCurve;
  readonly perUnit: number;
}

/** The level way of a member where it goes along one line. */
function straightWay(shot: Shot, id: string, from: number, to: number): Way | { problem: string } {
  const readers = ['x', 'z'].map((c) => {
    const curve = shot.curves.get(channelPath(id, `move.${c}`));
    return curve?.type === 'number' ? { curve, reader: new CurveReader(curve) } : null;
  });
  const at = (f: number) => readers.map((r) => r?.reader.at(f) ?? 0);
  const origin = at(from);
  let far = [0, 0];
  for (let f = from; f <= to; f++) {
    const [x, z] = at(f).map((v, i) => v - origin[i]);
    if (Math.hypot(x, z) > Math.hypot(far[0], far[1])) far = [x, z];
  }
  const length = Math.hypot(far[0], far[1]);
  if (length < 1e-6)
    return { problem: 'It goes nowhere along the ground between these frames, so there is nothing to roll.' };
  const heading = [far[0] / length, far[1] / length] as const;
  for (let f = from; f <= to; f++) {
    const [x, z] = at(f).map((v, i) => v - origin[i]);
    if (Math.abs(x * heading[1] - z * heading[0]) > STRAIGHT)
      return { problem: `Its way bends at frame ${f}: only a straight way can be rolled about one axis.` };
  }
  const main = Math.abs(heading[0]) >= Math.abs(heading[1]) ? 0 : 1;
  const curve = between(readers[main]!.curve, from, to);
  return { heading, curve, perUnit: 1 / heading[main] };
}

/** The stretch of a curve between two frames, with a key at each. */
function between(curve: NumberCurve, from: number, to: number): NumberCurve {
  const split = withSplit(withSplit(curve, from), to);
  return { ...split, keys: split.keys.filter((k) => k.frame >= from - 1e-6 && k.frame <= to + 1e-6) };
}

/** The channel a ball rolls by towards a heading; at a slant it faces there first. */
function axisFor(member: Member, [x, z]: readonly [number, number]) {
  if (Math.abs(z) < 1e-3) return { channel: 'turn.z', sign: -Math.sign(x), facing: null };
  if (Math.abs(x) < 1e-3) return { channel: 'turn.x', sign: Math.sign(z), facing: null };
  if (member.order.indexOf('x') > member.order.indexOf('y')) return null;
  return { channel: 'turn.x', sign: 1, facing: Math.atan2(x, z) };
}

/** For each stretch between keys, how much longer its way is than its level part: more than 1 where it rolls on a slope. */
function slopesUnder(shot: Shot, id: string, { curve, heading }: Way): number[] {
  const program = new Program(shot);
  const frame = program.createFrame();
  const ground = new Ground(shot);
  return curve.keys.slice(1).map((key, i) => {
    const from = curve.keys[i].frame;
    let factor = 1;
    for (const share of [0.25, 0.5, 0.75]) {
      program.evaluate(from + (key.frame - from) * share, frame);
      const touch = ground.touch(frame, id);
      if (!touch || Math.abs(touch.gap) > TOUCHING) return 1;
      const rise = -(touch.normal[0] * heading[0] + touch.normal[2] * heading[1]) / touch.normal[1];
      factor = Math.hypot(1, rise);
    }
    return factor;
  });
}

/** Keys of a turn in proportion to a way, key by key and handle by handle, so that it is right between keys too. */
function rolled({ curve, perUnit }: Way, perMetre: number, start: number, slopes: readonly number[]): Key[] {
  let value = start;
  return curve.keys.map((key, i): Key => {
    const before = (slopes[i - 1] ?? 0) * perUnit * perMetre;
    const after = (slopes[i] ?? 0) * perUnit * perMetre;
    if (i > 0) value += (key.value - curve.keys[i - 1].value) * before;
    const [arrive, leave] = [handleReach(curve, i, 'in'), handleReach(curve, i, 'out')];
    return {
      frame: key.frame,
      value,
      in: arrive ? { kind: 'free', frames: arrive.frames, rise: arrive.rise * before } : { kind: 'flat' },
      out: leave
        ? { kind: 'free', frames: leave.frames, rise: leave.rise * after }
        : { kind: i + 1 < curve.keys.length ? 'stepped' : 'flat' },
      joined: key.joined && Math.abs(before - after) < 1e-12,
      role: 'key',
    };
  });
}
