import type { Curve } from '../../curve/key.ts';
import { controlsOf } from '../../document/casting.ts';
import { channelPath, findChannel } from '../../document/channels.ts';
import type { Clip } from '../../document/clip.ts';
import type { Shot } from '../../document/shot.ts';
import type { ClipTrack } from '../../document/track.ts';
import type { PoseValues } from '../../rig/pose-book.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';
import { freeClipName, newClip } from './clips.ts';
import { putTrack } from './tracks.ts';

/** How long a pose is as a clip, frames. It does not move, so that is what a span of it begins with. */
const LONG = 24;
/** A foot this near to where it rests stands on the ground, metres. */
const STANDS = 0.01;

/**
 * Lays a pose on a track, held: it becomes a clip of one key a channel, and so it is eased, layered and edited as all clips are. Feet of it that are on the
 * ground stand there.
 * @param track the track as it is to be, with a span of the clip `id`
 */
export const layPose = defineCommand<{
  rig: string;
  id: string;
  name: string;
  values: PoseValues;
  track: ClipTrack;
}>({
  name: 'track.layPose',
  label: ({ name, track }) => `lay the pose ${name} on ${track.name}`,
  apply(shot, { rig, id, name, values, track }) {
    const curves = heldCurves(shot, rig, values);
    if (Object.keys(curves).length === 0) throw new Refused(`${name} poses nothing of this rig.`);
    const clip = newClip(shot, rig, {
      id,
      name: freeClipName(shot, rig, name),
      length: LONG,
      labels: [],
      halves: 'free',
      stances: standing(shot, rig, values),
      kept: { curves, recipes: {} },
    });
    return putTrack.apply({ ...shot, clips: shot.clips.with(id, clip) }, { track });
  },
});

function heldCurves(shot: Shot, rig: string, values: PoseValues): Record<string, Curve> {
  const level = { kind: 'flat' } as const;
  return Object.fromEntries(
    controlsOf(shot, rig).flatMap((control) =>
      Object.entries(values).flatMap(([channel, value]): [string, Curve][] => {
        const dot = channel.indexOf('.');
        const own = channel.slice(dot + 1);
        if (channel.slice(0, dot) !== control.shape.control || typeof value !== 'number') return [];
        if (!findChannel(control, own, shot.rigs)) return [];
        const key = { frame: shot.play.first, value, in: level, out: level, joined: true, role: 'key' as const };
        return [[channelPath(control.id, own), { type: 'number', keys: [key], before: 'hold', after: 'hold' }]];
      }),
    ),
  );
}

function standing(shot: Shot, rig: string, values: PoseValues): Clip['stances'] {
  const member = shot.members.get(rig);
  const feet = member?.kind === 'rig' ? (shot.rigs.find(member.shape)?.rig.feet ?? []) : [];
  const down = feet.filter(({ control }) => {
    const high = Object.hasOwn(values, `${control}.move.y`) ? values[`${control}.move.y`] : 0;
    return typeof high === 'number' && Math.abs(high) < STANDS && Object.hasOwn(values, `${control}.move.z`);
  });
  return Object.fromEntries(down.map(({ control }) => [control, [{ from: 0, to: LONG }]]));
}
