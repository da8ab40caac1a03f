import { speedOf } from '../bounce/bounces.ts';
import { type Landing, landingsOf } from '../bounce/landings.ts';
import type { Key, NumberCurve } from '../curve/key.ts';
import { channelPath } from '../document/channels.ts';
import { DeformerSchema, deformChannel } from '../document/deformer.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { Program } from '../evaluate/program.ts';
import { Ground, type Touch } from '../ground/ground.ts';
import { levelKey, straightKey } from './keys.ts';
import type { Kit, Task, Written } from './kit.ts';
import { frameField, numberOf } from './kit.ts';

/** Squashes weaker than this are not worth a key. */
const LEAST = 0.004;

/** Squashes something at its landings and stretches it beside them, as fast as it comes. */
export const squashFromSpeed: Kit = {
  id: 'squash',
  name: 'Squash from speed',
  about:
    'Squashed where it lands, stretched along its way just before and after, round at the top: the faster, the more.',
  fields: [
    {
      kind: 'number',
      name: 'squash',
      label: 'squash',
      hint: 'length at its hardest landing',
      min: 0.3,
      max: 1,
      step: 0.01,
      start: 0.78,
    },
    {
      kind: 'number',
      name: 'stretch',
      label: 'stretch',
      hint: 'length beside its hardest landing',
      min: 1,
      max: 2,
      step: 0.01,
      start: 1.18,
    },
    frameField('from', 'from'),
    frameField('to', 'to', 96),
    {
      kind: 'switch',
      name: 'path',
      label: 'along its path',
      hint: 'stretched the way it goes, not straight up',
      start: true,
    },
  ],
  suggest: (shot) => ({ from: shot.range.first, to: shot.range.last }),
  write: writeSquash,
};

function writeSquash({ shot, member, settings }: Task): Written {
  const curve = shot.curves.get(channelPath(member.id, 'move.y'));
  if (curve?.type !== 'number') return { problem: 'It does not go up and down: there is no landing to squash it at.' };
  const [from, to] = [numberOf(settings, 'from'), numberOf(settings, 'to')];
  const landings = squashable(shot, member, curve).filter((l) => l.contact.frame >= from && l.contact.frame <= to);
  const contacts = landings.map((l) => l.contact);
  if (contacts.length === 0)
    return { problem: 'It does not bounce between these frames: there is no landing to squash it at.' };
  const fastest = Math.max(...contacts.map((c) => speedOf(c.fall)));
  const length = new Map<number, number>();
  const along = new Map<number, number>();
  const put = (keys: Map<number, number>, frame: number, value: number) => keys.set(Math.round(frame), value);
  put(length, Math.max(from, contacts[0].fall.top), 1);
  contacts.forEach((c, i) => {
    const hard = speedOf(c.fall) / fastest;
    const squash = 1 - (1 - numberOf(settings, 'squash')) * hard;
    if (1 - squash < LEAST) return;
    const before = c.fall.frames >= 2 ? 1 + (numberOf(settings, 'stretch') - 1) * hard : 1;
    const back = c.rise ? (speedOf(c.rise) / fastest) * (numberOf(settings, 'stretch') - 1) : 0;
    put(length, c.frame - 1, before);
    put(length, c.frame, squash);
    put(along, c.frame - 1, 1);
    put(along, c.frame, 0);
    if (!c.rise) {
      // It lies: it comes back past its shape once and is round.
      put(length, c.frame + 2, 1 + (1 - squash) * 0.35);
      put(length, c.frame + 5, 1);
      return;
    }
    put(along, c.frame + 1, 1);
    if (c.rise.frames >= 2) put(length, c.frame + 1, 1 + back);
    const next = contacts[i + 1];
    const top = Math.round(c.rise.top);
    if (top > c.frame + (c.rise.frames >= 2 ? 1 : 0) && (!next || top < next.frame)) put(length, top, 1);
  });
  const bent = withSquash(member);
  const path = (channel: string) => channelPath(member.id, deformChannel(SQUASH, channel));
  const keys: Record<string, Key[]> = {
    [path('length')]: ordered(length, (frame, value) =>
      contacts.some((c) => Math.abs(c.frame - frame) < 0.5) ? straightKey(frame, value) : levelKey(frame, value),
    ),
  };
  if (settings.path === true) keys[path('follow')] = ordered(along, straightKey);
  Object.assign(keys, leans(landings, path));
  return { keys, member: bent };
}

const SQUASH = 'speed';

/** The member with the deformer this kit keys. */
function withSquash(member: Member): Member {
  if (member.deformers.some((d) => d.id === SQUASH && d.kind === 'squash')) return member;
  const deformer = DeformerSchema.parse({ id: SQUASH, name: 'squash', kind: 'squash', settings: {} });
  return { ...member, deformers: [...member.deformers.filter((d) => d.id !== SQUASH), deformer] };
}

const ordered = (at: ReadonlyMap<number, number>, key: (frame: number, value: number) => Key): Key[] =>
  [...at].sort(([a], [b]) => a - b).map(([frame, value]) => key(frame, value));

/** The landings it can be squashed at. */
function squashable(shot: Shot, member: Member, curve: NumberCurve): Landing[] {
  const program = new Program(shot);
  const frame = program.createFrame();
  const ground = new Ground(shot);
  const touch = (time: number) => {
    program.evaluate(time, frame);
    return ground.touch(frame, member.id);
  };
  return landingsOf(curve, shot.rate, touch).landings;
}

/** On slopes the axis leans over to the ground's normal at each contact. */
function leans(landings: readonly Landing[], path: (channel: string) => string): Record<string, Key[]> {
  if (landings.every((l) => l.touch.normal[1] > 0.99999)) return {};
  const lean = (value: (n: Touch['normal']) => number): Key[] => {
    const keys = landings.map((l) => straightKey(Math.round(l.contact.frame), value(l.touch.normal)));
    // On one slope it leans one way all the time: one key says so.
    return keys.every((k) => k.value === keys[0].value) ? keys.slice(0, 1) : keys;
  };
  return {
    [path('lean.z')]: lean((n) => -Math.asin(n[0])),
    [path('lean.x')]: lean((n) => Math.atan2(n[2], n[1])),
  };
}
