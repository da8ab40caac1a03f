import { between, type Vector } from '../../pose/vectors.ts';
import { type Kit, numberOf, type Task, type Written } from '../kit.ts';
import { anglesAt, CameraKeys, framesOf, notMovable, placeAt, spanFields, suggested, viewer } from './aim.ts';

/** A camera that keeps somebody in view: it turns after them, and may travel along. */
export const follow: Kit = {
  id: 'follow',
  name: 'Follow',
  about: 'The camera turns after somebody, a little late as a hand would, or travels along with them.',
  fits: (member) => member.kind === 'camera',
  fields: [
    { kind: 'member', name: 'whom', label: 'whom', start: '' },
    ...spanFields,
    {
      kind: 'number',
      name: 'late',
      label: 'late by',
      hint: 'how many frames it looks behind them',
      unit: 'frames',
      min: 0,
      max: 48,
      step: 1,
      start: 3,
      whole: true,
    },
    {
      kind: 'number',
      name: 'high',
      label: 'looks above',
      hint: 'how far above their own place it looks',
      unit: 'm',
      min: -20,
      max: 20,
      step: 0.05,
      start: 0.8,
    },
    {
      kind: 'number',
      name: 'along',
      label: 'travels along',
      hint: 'how much of their way the camera goes too',
      unit: '%',
      min: 0,
      max: 100,
      step: 5,
      start: 0,
    },
  ],
  suggest: suggested,
  write: writeFollow,
};

function writeFollow({ shot, member, settings }: Task): Written {
  const no = notMovable(member);
  if (no) return no;
  const whom = String(settings.whom);
  if (!shot.members.has(whom) || whom === member.id) return { problem: 'Say whom it is to follow.' };
  const frames = framesOf(settings);
  if (typeof frames === 'string') return { problem: frames };
  const at = viewer(shot);
  const [late, high, share] = ['late', 'high', 'along'].map((name) => numberOf(settings, name));
  const first = at(frames[0]);
  const keys = new CameraKeys(member, anglesAt(first, member.id));
  const start = placeAt(first, whom)!;
  for (const frame of frames) {
    const there = placeAt(at(frame - late), whom)!;
    const now = at(frame);
    const own = placeAt(now, member.id)!;
    const home = between(start, there, share / 100);
    const from: Vector = [own[0] + home[0] - start[0], own[1] + home[1] - start[1], own[2] + home[2] - start[2]];
    if (share > 0) keys.place(frame, from);
    keys.look(frame, from, [there[0], there[1] + high, there[2]]);
  }
  return { keys: keys.keys };
}
