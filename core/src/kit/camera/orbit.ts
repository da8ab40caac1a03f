import type { Vector } from '../../pose/vectors.ts';
import { type Kit, numberOf, type Task, type Written } from '../kit.ts';
import { anglesAt, CameraKeys, framesOf, notMovable, placeAt, spanFields, suggested, viewer } from './aim.ts';

/** A camera that goes round somebody, as far away and as high as it stands. */
export const orbit: Kit = {
  id: 'orbit',
  name: 'Orbit',
  about: 'The camera goes round somebody, as far away and as high as it stands, and looks at them.',
  fits: (member) => member.kind === 'camera',
  fields: [
    { kind: 'member', name: 'whom', label: 'round whom', start: '' },
    ...spanFields,
    {
      kind: 'number',
      name: 'by',
      label: 'by',
      hint: 'above 0 to the left as they are seen',
      unit: '°',
      min: -1440,
      max: 1440,
      step: 5,
      start: 90,
    },
    { kind: 'number', name: 'rise', label: 'rises by', unit: 'm', min: -100, max: 100, step: 0.1, start: 0 },
    {
      kind: 'number',
      name: 'nearer',
      label: 'comes to',
      hint: 'of how far away it was',
      unit: '%',
      min: 5,
      max: 1000,
      step: 5,
      start: 100,
    },
    { kind: 'number', name: 'high', label: 'looks above', unit: 'm', min: -20, max: 20, step: 0.05, start: 0.8 },
    { kind: 'switch', name: 'soft', label: 'begins and ends softly', start: true },
  ],
  suggest: suggested,
  write: writeOrbit,
};

/** From 0 to 1, level at both ends. */
export const eased = (t: number): number => t * t * (3 - 2 * t);

function writeOrbit({ shot, member, settings }: Task): Written {
  const no = notMovable(member);
  if (no) return no;
  const whom = String(settings.whom);
  if (!shot.members.has(whom) || whom === member.id) return { problem: 'Say round whom it is to go.' };
  const frames = framesOf(settings);
  if (typeof frames === 'string') return { problem: frames };
  const at = viewer(shot);
  const first = at(frames[0]);
  const keys = new CameraKeys(member, anglesAt(first, member.id));
  const [own, middle] = [placeAt(first, member.id)!, placeAt(first, whom)!];
  const [dx, dy, dz] = [own[0] - middle[0], own[1] - middle[1], own[2] - middle[2]];
  const radius = Math.hypot(dx, dz);
  if (radius < 0.01) return { problem: 'It stands over them: it needs some way off to go round.' };
  const begin = Math.atan2(dx, dz);
  const last = frames[frames.length - 1];
  for (const frame of frames) {
    const t = (frame - frames[0]) / (last - frames[0]);
    const share = settings.soft ? eased(t) : t;
    const angle = begin + (numberOf(settings, 'by') * Math.PI * share) / 180;
    const far = radius * (1 + (numberOf(settings, 'nearer') / 100 - 1) * share);
    const there = placeAt(at(frame), whom)!;
    const from: Vector = [
      there[0] + far * Math.sin(angle),
      there[1] + dy + numberOf(settings, 'rise') * share,
      there[2] + far * Math.cos(angle),
    ];
    keys.place(frame, from);
    keys.look(frame, from, [there[0], there[1] + numberOf(settings, 'high'), there[2]]);
  }
  return { keys: keys.keys };
}
