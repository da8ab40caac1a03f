import { childrenOf } from '../../document/hierarchy.ts';
import { type SmoothWay, wayThrough } from '../../ground/way-through.ts';
import { apart, plus, times, type Vector } from '../../pose/vectors.ts';
import { lensOf, viewOf } from '../../surface/lens.ts';
import { type Kit, numberOf, type Task, type Written } from '../kit.ts';
import { anglesAt, CameraKeys, framesOf, notMovable, placeAt, spanFields, viewer } from './aim.ts';
import { eased } from './orbit.ts';

/** A camera on rails: ahead and aside, or along a way that stands in the shot. */
export const dolly: Kit = {
  id: 'dolly',
  name: 'Dolly',
  about: 'The camera goes on rails: ahead, aside and up, or along a way through the members of a group.',
  fits: (member) => member.kind === 'camera',
  fields: [
    ...spanFields,
    {
      kind: 'choice',
      name: 'goes',
      label: 'goes',
      start: 'ahead',
      choices: [
        { value: 'ahead', label: 'as it looks' },
        { value: 'way', label: 'along a way' },
      ],
    },
    {
      kind: 'number',
      name: 'ahead',
      label: 'ahead',
      unit: 'm',
      min: -1000,
      max: 1000,
      step: 0.1,
      start: 1.5,
      when: (s) => s.goes === 'ahead',
    },
    {
      kind: 'number',
      name: 'aside',
      label: 'to its right',
      unit: 'm',
      min: -1000,
      max: 1000,
      step: 0.1,
      start: 0,
      when: (s) => s.goes === 'ahead',
    },
    {
      kind: 'number',
      name: 'up',
      label: 'up',
      unit: 'm',
      min: -1000,
      max: 1000,
      step: 0.1,
      start: 0,
      when: (s) => s.goes === 'ahead',
    },
    {
      kind: 'member',
      name: 'way',
      label: 'through',
      hint: 'a group: its members are the places of the way, in the order of the cast',
      start: '',
      when: (s) => s.goes === 'way',
    },
    { kind: 'member', name: 'whom', label: 'looks at', hint: 'nobody: it keeps its heading', start: '' },
    {
      kind: 'number',
      name: 'high',
      label: 'looks above',
      unit: 'm',
      min: -20,
      max: 20,
      step: 0.05,
      start: 0.8,
      when: (s) => s.whom !== '',
    },
    {
      kind: 'switch',
      name: 'hold',
      label: 'keeps them as large',
      hint: 'the lens gives way as it comes nearer',
      start: false,
      when: (s) => s.whom !== '',
    },
    { kind: 'switch', name: 'soft', label: 'begins and ends softly', start: true },
  ],
  suggest: (shot) => ({ from: shot.play.first, to: shot.play.last }),
  write: writeDolly,
};

function writeDolly({ shot, member, settings }: Task): Written {
  const no = notMovable(member);
  if (no) return no;
  const frames = framesOf(settings);
  if (typeof frames === 'string') return { problem: frames };
  const at = viewer(shot);
  const first = at(frames[0]);
  const way = settings.goes === 'way' ? wayOf(shot, String(settings.way), first) : ahead(first, member.id, settings);
  if (typeof way === 'string') return { problem: way };
  const whom = String(settings.whom);
  const looks = shot.members.has(whom) && whom !== member.id;
  const keys = new CameraKeys(member, anglesAt(first, member.id));
  const last = frames[frames.length - 1];
  const start = way(0);
  const far = looks ? apart(start, placeAt(first, whom)!) : 1;
  const lens = lensOf(first.value(member.id, 'view') ?? 0.6);
  for (const frame of frames) {
    const t = (frame - frames[0]) / (last - frames[0]);
    const from = way(settings.soft ? eased(t) : t);
    keys.place(frame, from);
    if (!looks) continue;
    const there = placeAt(at(frame), whom)!;
    keys.look(frame, from, [there[0], there[1] + numberOf(settings, 'high'), there[2]]);
    if (settings.hold) keys.put('view', frame, viewOf((lens * apart(from, there)) / far));
  }
  return { keys: keys.keys };
}

/** As the camera looks at first: straight ahead, to its right and up. */
function ahead(frame: Parameters<typeof placeAt>[0], id: string, settings: Task['settings']): SmoothWay {
  const slot = frame.layout.slotOf.get(id)! * 16;
  const { world } = frame;
  const axis = (c: number): Vector => {
    const v: Vector = [world[slot + c * 4], world[slot + c * 4 + 1], world[slot + c * 4 + 2]];
    return times(v, 1 / (Math.hypot(...v) || 1));
  };
  const by = plus(
    plus(times(axis(0), numberOf(settings, 'aside')), times(axis(1), numberOf(settings, 'up'))),
    times(axis(2), -numberOf(settings, 'ahead')),
  );
  const start = placeAt(frame, id)!;
  return (share) => plus(start, times(by, share));
}

/** The way through the members of a group; a sentence where there is none. */
function wayOf(shot: Task['shot'], group: string, frame: Parameters<typeof placeAt>[0]): SmoothWay | string {
  if (!shot.members.has(group)) return 'Say through which group the way goes.';
  const places = childrenOf(shot, group).flatMap((m): Vector[] => {
    const at = placeAt(frame, m.id);
    return at ? [at] : [];
  });
  if (places.length < 2) return 'A way needs a group with two members or more: they are its places.';
  return wayThrough(places);
}
