import {
  bringRig,
  type ChannelValue,
  changeChannels,
  controlsOf,
  emptyShot,
  type Frame,
  frameOf,
  newRigMembers,
  poseChannels,
  type Rig,
  type Shot,
} from '@varrup/core';
import * as fc from 'fast-check';
import { harbour, harbourRigs } from './index.ts';

/** A shot with one rig in its newest version, called by its own id. */
export function shotWith(rig: string): Shot {
  const version = harbour.find((h) => h.id === rig)!.versions.at(-1)!.version;
  const shot = emptyShot('test', 'Test', harbourRigs());
  return bringRig.apply(shot, newRigMembers(shot, { rig, version, id: rig }));
}

/** A shot with channels set. */
export const withValues = (shot: Shot, values: Readonly<Record<string, ChannelValue>>): Shot =>
  changeChannels.apply(shot, { frame: 1, values, autoKey: 'off' });

/** Where a joint is: its matrix in the world, 16 numbers. */
export function jointMatrix(frame: Frame, rig: string, joint: string): Float64Array {
  const placed = frame.layout.rigAt.get(frame.layout.slotOf.get(rig)!)!;
  const at = (placed.joints + placed.compiled.jointAt.get(joint)!) * 16;
  return frame.world.slice(at, at + 16);
}

export const jointPlace = (frame: Frame, rig: string, joint: string): [number, number, number] => {
  const m = jointMatrix(frame, rig, joint);
  return [m[12], m[13], m[14]];
};

export const at = (shot: Shot, frame = 1): Frame => frameOf(shot, frame);

/** How far two matrices are apart: the largest difference of a direction in degrees, and of the place in metres. */
export function apart(a: Float64Array, b: Float64Array): { degrees: number; metres: number } {
  let degrees = 0;
  for (let c = 0; c < 12; c += 4) {
    const la = Math.hypot(a[c], a[c + 1], a[c + 2]);
    const lb = Math.hypot(b[c], b[c + 1], b[c + 2]);
    const cross = Math.hypot(
      a[c + 1] * b[c + 2] - a[c + 2] * b[c + 1],
      a[c + 2] * b[c] - a[c] * b[c + 2],
      a[c] * b[c + 1] - a[c + 1] * b[c],
    );
    const dot = a[c] * b[c] + a[c + 1] * b[c + 1] + a[c + 2] * b[c + 2];
    degrees = Math.max(degrees, (Math.atan2(cross / (la * lb), dot / (la * lb)) * 180) / Math.PI);
  }
  return { degrees, metres: Math.hypot(a[12] - b[12], a[13] - b[13], a[14] - b[14]) };
}

/** Any pose of a rig, within its limits: moves up to a third of a metre, turns up to a radian. */
export function poses(rig: Rig): fc.Arbitrary<Record<string, number>> {
  const shot = shotWith(rig.id);
  const channels = controlsOf(shot, rig.id).flatMap((control) =>
    poseChannels(control, shot.rigs).map((c) => ({ path: `${control.id}.${c.id}`, channel: c })),
  );
  return fc
    .record(
      Object.fromEntries(
        channels.map(({ path, channel }) => {
          const reach = { move: 0.3, turn: 1, size: 0 }[channel.group] ?? Number.POSITIVE_INFINITY;
          const min = Math.max(channel.min ?? -10, channel.initial - reach);
          const max = Math.min(channel.max ?? 10, channel.initial + reach);
          return [path, fc.oneof(fc.constant(channel.initial), fc.double({ min, max, noNaN: true }))];
        }),
      ),
    )
    .map((values) => Object.fromEntries(Object.entries(values).map(([path, v]) => [path, v === 0 ? 0 : v])));
}
