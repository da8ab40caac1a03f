import { channelPath, controlsOf, type Key, type NumberCurve, poseChannels, type Shot } from '@varrup/core';
import { type Said, values } from './rigs/poses/pose.ts';

/** One pose of an acted piece. */
export interface Beat {
  /** The frame it is reached at. */
  readonly at: number;
  /** How many frames the way there takes, and how many before that go against it. */
  readonly move: number;
  /** None gathers nothing: a beat of the wrist goes straight there. */
  readonly gather?: number;
  /** How far it goes beyond before it settles, as a share of the way. */
  readonly beyond?: number;
  /** How many frames it takes to come to rest after it is there; none where the next beat takes it on at once. */
  readonly settle?: number;
  readonly pose: Said;
}

/** How a part takes the beats: how many frames behind, and by how much it gathers. */
interface Part {
  readonly rig: string;
  readonly control: string;
  readonly lag?: number;
  readonly gather?: number;
  /** How much a held pose goes on living, as a share of the way that led to it. */
  readonly drift?: number;
}

const key = (frame: number, value: number, kind: 'smooth' | 'flat' = 'smooth', role: Key['role'] = 'key'): Key => ({
  frame,
  value,
  in: { kind },
  out: { kind },
  joined: true,
  role,
});

/** A way smaller than this is none. */
const STILL = 1e-4;

/**
 * Writes the keys of one control of an acted piece: held poses that drift a little, a gather against each move, the arrival
 * beyond the pose, and a settle. Channels that never leave their place get no keys.
 */
export function actedCurves(shot: Shot, part: Part, beats: readonly Beat[]): Record<string, NumberCurve> {
  const { rig, control, lag = 0, gather = 0.1, drift = 0.04 } = part;
  const member = controlsOf(shot, rig).find((c) => c.shape.control === control);
  if (!member) throw new Error(`The rig ${rig} has no control ${control}.`);
  const out: Record<string, NumberCurve> = {};
  const said = beats.map((b) => values(b.pose));
  for (const channel of poseChannels(member, shot.rigs)) {
    const name = `${control}.${channel.id}`;
    const line: number[] = [];
    for (const pose of said) line.push(pose[name] ?? line.at(-1) ?? channel.initial);
    if (line.every((v) => Math.abs(v - line[0]) < STILL)) continue;
    const within = (v: number) =>
      Math.min(channel.max ?? Number.POSITIVE_INFINITY, Math.max(channel.min ?? Number.NEGATIVE_INFINITY, v));
    const keys = new Map<number, Key>();
    const put = (k: Key) => keys.set(k.frame, { ...k, value: within(k.value) });
    put(key(beats[0].at, line[0], 'flat'));
    let held = line[0];
    for (let b = 1; b < beats.length; b++) {
      const { at, move, gather: against = 4, beyond = 0.09, settle = 10 } = beats[b];
      const change = line[b] - line[b - 1];
      if (Math.abs(change) < STILL) continue;
      const arrive = at + lag;
      const leave = arrive - move;
      put(key(leave - against, held, 'smooth'));
      if (gather > 0 && against > 0) put(key(leave, line[b - 1] - change * gather, 'flat'));
      put(key(arrive, line[b] + change * beyond, 'flat'));
      if (settle > 0) {
        put(key(arrive + Math.round(settle / 2), line[b] - change * beyond * 0.35, 'flat', 'breakdown'));
        put(key(arrive + settle, line[b], 'smooth'));
      }
      held = line[b] + change * (settle > 0 ? drift : beyond);
    }
    const sorted = [...keys.values()].sort((a, b) => a.frame - b.frame);
    out[channelPath(member.id, channel.id)] = { type: 'number', keys: sorted, before: 'hold', after: 'hold' };
  }
  return out;
}
