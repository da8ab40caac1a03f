import { channelPath } from '../../document/channels.ts';
import { chance } from '../../schema/chance.ts';
import { throughKey } from '../keys.ts';
import { type Kit, numberOf, type Task, type Written } from '../kit.ts';
import { framesOf, notMovable, spanFields, viewer } from './aim.ts';

/** A camera in somebody's hands: it sways and trembles about what it does, the same way for the same seed. */
export const handHeld: Kit = {
  id: 'handHeld',
  name: 'Hand-held',
  about: 'The camera sways and trembles about what it does, as in somebody’s hands; the same for the same seed.',
  fits: (member) => member.kind === 'camera',
  fields: [
    ...spanFields.map((f) => (f.kind === 'number' && f.name === 'every' ? { ...f, start: 3, max: 12 } : f)),
    {
      kind: 'number',
      name: 'sway',
      label: 'sways by',
      hint: 'how far it goes from its place',
      unit: 'm',
      min: 0,
      max: 1,
      step: 0.01,
      start: 0.03,
    },
    { kind: 'number', name: 'turns', label: 'turns by', unit: '°', min: 0, max: 20, step: 0.1, start: 0.9 },
    {
      kind: 'number',
      name: 'pace',
      label: 'pace',
      hint: 'how many times a second it comes back',
      min: 0.1,
      max: 6,
      step: 0.1,
      start: 1.1,
    },
    { kind: 'number', name: 'seed', label: 'seed', min: 1, max: 9999, step: 1, start: 1, whole: true },
  ],
  suggest: (shot) => ({ from: shot.play.first, to: shot.play.last }),
  write: writeHandHeld,
};

const DEGREES = Math.PI / 180;

function writeHandHeld({ shot, member, settings }: Task): Written {
  const no = notMovable(member);
  if (no) return no;
  const frames = framesOf(settings);
  if (typeof frames === 'string') return { problem: frames };
  const [sway, turns, pace, seed] = ['sway', 'turns', 'pace', 'seed'].map((name) => numberOf(settings, name));
  const channels = [
    ...['move.x', 'move.y', 'move.z'].map((id) => ({ id, by: sway })),
    ...['turn.x', 'turn.y', 'turn.z'].map((id) => ({ id, by: (id === 'turn.z' ? 0.5 : 1) * turns * DEGREES })),
  ].filter((c) => c.by > 0);
  if (channels.length === 0) return { problem: 'It neither sways nor turns: say by how much.' };
  const at = viewer(shot);
  const values = frames.map((frame) => {
    const now = at(frame);
    return channels.map(({ id }) => now.value(member.id, id) ?? 0);
  });
  return {
    keys: Object.fromEntries(
      channels.map(({ id, by }, c) => {
        const wander = wandering(seed * 31 + c);
        // Where it begins and ends it is where it was: nothing jumps.
        const near = (frame: number) => Math.min(1, (frame - frames[0]) / 6, (frames[frames.length - 1] - frame) / 6);
        return [
          channelPath(member.id, id),
          frames.map((frame, f) => {
            const off = by * Math.max(0, near(frame)) * wander((frame / shot.rate) * pace);
            return throughKey(frame, values[f][c] + off);
          }),
        ];
      }),
    ),
  };
}

/** Wanders between -1 and 1 without a period: two octaves of smooth noise on whole numbers (Perlin 1985, in one dimension). */
export function wandering(seed: number): (t: number) => number {
  const slope = (i: number) => chance(Math.imul(i, 7919) ^ (seed * 104729))() * 2 - 1;
  const one = (t: number): number => {
    const i = Math.floor(t);
    const f = t - i;
    const fade = f * f * f * (f * (f * 6 - 15) + 10);
    const [a, b] = [slope(i) * f, slope(i + 1) * (f - 1)];
    return 2 * (a + (b - a) * fade);
  };
  return (t) => Math.max(-1, Math.min(1, 0.75 * one(t) + 0.35 * one(t * 2.3 + 17.1)));
}
