import type { Curve } from '../../curve/key.ts';
import { controlsOf } from '../../document/casting.ts';
import { channelPath } from '../../document/channels.ts';
import { type Clip, clipFrames } from '../../document/clip.ts';
import type { Member } from '../../document/member.ts';
import type { ControlSet, Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { freeClipName, newClip, takeUpClip } from '../../edit/commands/clips.ts';
import { bringRig } from '../../edit/commands/rigs.ts';
import { defineCommand } from '../../edit/edit.ts';
import type { TakenMotion } from './rig-of-scene.ts';

/**
 * The motions of a rig that came in as clips, laid by, on frames of the shot from its first one that plays on.
 * @param rig the member that links the rig
 * @returns the clips, and the motions that are too long to be one
 */
export function clipsOfMotions(
  shot: Shot,
  rig: string,
  motions: readonly TakenMotion[],
): { readonly clips: readonly Clip[]; readonly left: readonly string[] } {
  const left: string[] = [];
  const members = new Map(controlsOf(shot, rig).map((member) => [member.shape.control, member.id]));
  const first = shot.play.first;
  const clips = motions.flatMap((motion): Clip[] => {
    if (motion.length > clipFrames.most) {
      left.push(`${motion.name}: ${motion.length} frames are more than a clip has`);
      return [];
    }
    const length = Math.max(motion.length, clipFrames.least);
    const curves: Record<string, Curve> = {};
    for (const [path, curve] of motion.curves) {
      const [control, ...channel] = path.split('.');
      const member = members.get(control);
      if (member) curves[channelPath(member, channel.join('.'))] = shifted(curve, first);
    }
    const name = motion.name.trim().slice(0, 80) || 'Motion';
    const clip = newClip(shot, rig, {
      name: freeClipName(shot, rig, name),
      length,
      cycles: false,
      halves: 'free',
      labels: [],
      first,
    });
    return [{ ...clip, kept: { curves, recipes: {} } }];
  });
  return { clips, left };
}

/** A curve that begins later: frames of a motion count from 0, and keys nearly on a frame stand on it. */
function shifted<C extends Curve>(curve: C, by: number): C {
  const keys = curve.keys.map((key) => {
    const frame = key.frame + by;
    const whole = Math.round(frame);
    return { ...key, frame: Math.abs(frame - whole) < 1e-3 ? whole : frame };
  });
  return { ...curve, keys };
}

/** Brings a rig in with clips of its own that are laid by; the first of them is taken up. */
export const takeInRig = defineCommand<{
  members: readonly Member[];
  sets: readonly ControlSet[];
  clips: readonly Clip[];
}>({
  name: 'rig.takeIn',
  label: ({ members }) => `take in ${members[0].name}`,
  apply(shot, { members, sets, clips }) {
    const brought = bringRig.apply(shot, { members, sets });
    if (clips.length === 0) return brought;
    const laid = { ...brought, clips: brought.clips.withAll(clips.map((clip) => [clip.id, clip] as const)) };
    return takeUpClip.apply(laid, { id: clips[0].id });
  },
});

/** Gives a rig a clip that came in, and takes it up. */
export const takeInClip = defineCommand<{ clip: Clip }>({
  name: 'clip.takeIn',
  label: ({ clip }, shot) => `put ${clip.name} onto ${memberWords(shot, [clip.rig])}`,
  apply: (shot, { clip }) => takeUpClip.apply({ ...shot, clips: shot.clips.with(clip.id, clip) }, { id: clip.id }),
});
