import { clipAtWork } from '../clip/at-work.ts';
import { circleOf, laidOut } from '../clip/circle.ts';
import { shifted } from '../clip/shift.ts';
import type { Key, NumberCurve } from '../curve/key.ts';
import { controlsOf } from '../document/casting.ts';
import { channelPath, findChannel } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { Kit, Written } from './kit.ts';
import { numberOf } from './kit.ts';

const AXES = ['x', 'y', 'z'] as const;

/** Turns one part against another: the chest against the hips. */
export const counter: Kit = {
  id: 'counter',
  name: 'Counter',
  about: 'Turns a part of a rig against another one, later and by a share: the chest against the hips.',
  fields: [
    {
      kind: 'choice',
      name: 'against',
      label: 'against',
      start: 'hips',
      choices: ['hips', 'chest', 'body'].map((value) => ({ value, label: value })),
    },
    { kind: 'number', name: 'share', label: 'by', unit: '%', min: -200, max: 200, step: 5, start: 100 },
    {
      kind: 'number',
      name: 'lag',
      label: 'later by',
      unit: 'frames',
      min: -24,
      max: 24,
      step: 1,
      start: 2,
      whole: true,
    },
  ],
  write({ shot, member, settings }): Written {
    if (member.kind !== 'control' || member.parent === null)
      return { problem: 'Counter is for a control of a rig: pick the chest.' };
    const clip = clipAtWork(shot, member.parent);
    if (!clip?.cycles) return { problem: 'Its rig has no clip that repeats: make one first.' };
    const source = controlsOf(shot, member.parent).find((c) => c.shape.control === settings.against);
    if (!source || source.id === member.id)
      return { problem: `There is no other part called ${settings.against} to turn it against.` };
    const share = -numberOf(settings, 'share') / 100;
    const keys: Record<string, Key[]> = {};
    for (const axis of AXES) {
      const channel = `turn.${axis}`;
      const curve = shot.curves.get(channelPath(source.id, channel));
      if (curve?.type !== 'number' || !findChannel(member, channel, shot.rigs)) continue;
      keys[channelPath(member.id, channel)] = countered(curve, clip, share, Math.round(numberOf(settings, 'lag')));
    }
    if (Object.keys(keys).length === 0) return { problem: `${source.name} has no turn with keys to go against.` };
    return { keys };
  },
};

function countered(curve: NumberCurve, clip: Clip, share: number, lag: number): Key[] {
  const moved = shifted(laidOut(circleOf(curve, clip, curve), 'number', clip)!, clip, lag) as NumberCurve;
  const turned = <H extends Key['in'] | Key['out']>(h: H): H =>
    h.kind === 'free' ? { ...h, rise: h.rise * share } : h;
  return moved.keys.map((k) => ({ ...k, value: k.value * share, in: turned(k.in), out: turned(k.out) }));
}
