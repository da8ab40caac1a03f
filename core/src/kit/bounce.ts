import { type Station, type Throw, thrown, type Vector } from '../bounce/throw.ts';
import type { Key } from '../curve/key.ts';
import { channelPath } from '../document/channels.ts';
import type { RecipeSettings } from '../document/recipe.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { frameOf } from '../evaluate/program.ts';
import { Ground } from '../ground/ground.ts';
import { mat4 } from '../pose/doubles.ts';
import { isSolid } from '../surface/support.ts';
import { throughStations } from './keys.ts';
import type { Kit, Task, Written } from './kit.ts';
import { frameField, numberOf } from './kit.ts';

/** How lively things are: the share of its speed that a contact gives back. */
export const materials = { rubber: 0.85, cork: 0.65, wood: 0.5, iron: 0.3, sand: 0.08 } as const;

/** Lets something fall: it bounces off whatever it lands on, and rolls to rest. */
export const bounce: Kit = {
  id: 'bounce',
  name: 'Bounce',
  about:
    'Lets it fall from where it is: it bounces off floor, steps and slopes, loses height and time as it should, and rolls out.',
  fields: [
    frameField('from', 'let go at'),
    {
      kind: 'number',
      name: 'height',
      label: 'height',
      hint: 'how far it is above the ground when it is let go',
      unit: 'm',
      min: 0,
      max: 1000,
      step: 0.05,
      start: 1,
    },
    {
      kind: 'choice',
      name: 'material',
      label: 'material',
      hint: 'how much of its speed a contact gives back',
      start: 'rubber',
      choices: [
        { value: 'rubber', label: 'rubber, 0.85' },
        { value: 'cork', label: 'cork, 0.65' },
        { value: 'wood', label: 'wood, 0.5' },
        { value: 'iron', label: 'iron on stone, 0.3' },
        { value: 'sand', label: 'wet sand, 0.08' },
        { value: 'own', label: 'of its own' },
      ],
    },
    {
      kind: 'number',
      name: 'liveliness',
      label: 'liveliness',
      hint: 'each bounce takes this share of the time of the last, and its square of the height',
      min: 0,
      max: 0.97,
      step: 0.01,
      start: 0.7,
      when: (s) => s.material === 'own',
    },
    { kind: 'switch', name: 'untilItLies', label: 'until it lies', start: true },
    {
      kind: 'number',
      name: 'bounces',
      label: 'bounces',
      min: 0,
      max: 100,
      step: 1,
      start: 4,
      whole: true,
      when: (s) => s.untilItLies !== true,
    },
    { kind: 'number', name: 'speed', label: 'forward speed', unit: 'm/s', min: 0, max: 100, step: 0.1, start: 0 },
    {
      kind: 'number',
      name: 'heading',
      label: 'heading',
      hint: '0 is along X, 90 along -Z',
      unit: '°',
      min: -360,
      max: 360,
      step: 5,
      start: 0,
      when: (s) => numberOf(s, 'speed') > 0,
    },
    {
      kind: 'number',
      name: 'keeps',
      label: 'keeps',
      hint: 'share of its forward speed a contact leaves it',
      min: 0,
      max: 1,
      step: 0.01,
      start: 0.85,
      when: (s) => numberOf(s, 'speed') > 0,
    },
    {
      kind: 'number',
      name: 'rolls',
      label: 'rolls on',
      hint: 'frames it rolls on for on level ground; 0 stops it where it lies',
      unit: 'frames',
      min: 0,
      max: 2000,
      step: 1,
      start: 30,
      whole: true,
      when: (s) => numberOf(s, 'speed') > 0,
    },
    {
      kind: 'number',
      name: 'gravity',
      label: 'gravity',
      hint: '9.81 is the earth’s; less makes it large and slow',
      unit: 'm/s²',
      min: 0.1,
      max: 100,
      step: 0.1,
      start: 9.81,
    },
    { kind: 'switch', name: 'whole', label: 'contacts on whole frames', start: true },
  ],
  suggest(shot, member, frame): RecipeSettings {
    const now = frameOf(shot, frame);
    if (!isSolid(member)) return { from: Math.round(frame) };
    const [x, y, z] = originOf(now, member.id);
    const height = Math.max(0, y - new Ground(shot).landing(now, member.id, x, z, y).y);
    return { from: Math.round(frame), height: height < 0.01 ? 1 : Math.round(height * 1000) / 1000 };
  },
  write: writeBounce,
};

function writeBounce({ shot, member, settings }: Task): Written {
  if (!isSolid(member)) return { problem: 'It has no body to bounce with.' };
  const from = numberOf(settings, 'from');
  const frame = frameOf(shot, from);
  const ground = new Ground(shot);
  const [x, now, z] = originOf(frame, member.id);
  const below = ground.landing(frame, member.id, x, z, Math.max(now, 0) + 1e-3);
  const start: Vector = [x, below.y + numberOf(settings, 'height'), z];
  const angle = (numberOf(settings, 'heading') * Math.PI) / 180;
  const speed = numberOf(settings, 'speed') / shot.rate;
  const material = settings.material as keyof typeof materials | 'own';
  const how: Throw = {
    start,
    speed: [speed * Math.cos(angle), 0, -speed * Math.sin(angle)],
    frame: from,
    gravity: numberOf(settings, 'gravity') / (shot.rate * shot.rate),
    liveliness: material === 'own' ? numberOf(settings, 'liveliness') : materials[material],
    keeps: numberOf(settings, 'keeps'),
    bounces: settings.untilItLies === true ? 1000 : numberOf(settings, 'bounces'),
    rolls: numberOf(settings, 'rolls'),
    whole: settings.whole === true,
    end: Math.max(shot.range.last, from) + 2000,
    landing: (px, pz, under) => ground.landing(frame, member.id, px, pz, under),
  };
  const { stations, contacts, gravity, last } = thrown(how);
  if (stations.length < 2) return { problem: 'It lies on the ground already: give it some height, or some speed.' };
  const keys = inParent(shot, frame, member.id, stations);
  if (!keys) return { problem: 'What carries it is flat, so there is no telling where it would have to be.' };
  const seconds = (gravity * shot.rate * shot.rate).toFixed(2);
  const late =
    last > shot.range.last ? ` It comes to rest at ${Math.round(last)}, after the last frame of the shot.` : '';
  return { keys, note: `${contacts} contacts, at rest at ${Math.round(last)}; gravity ${seconds} m/s².${late}` };
}

export const originOf = (frame: Frame, id: string): Vector => {
  const at = frame.layout.slotOf.get(id)! * 16;
  return [frame.world[at + 12], frame.world[at + 13], frame.world[at + 14]];
};

/** Keys of a member's move for stations in the world. Null where its parent's space cannot be gone back into. */
export function inParent(
  shot: Shot,
  frame: Frame,
  id: string,
  stations: readonly Station[],
): Record<string, Key[]> | null {
  const slot = frame.layout.slotOf.get(id)!;
  const parent = frame.layout.space[slot];
  const world = parent < 0 ? mat4.create() : (frame.world.slice(parent * 16, parent * 16 + 16) as unknown as mat4);
  const inverse = mat4.invert(mat4.create(), world);
  if (!inverse) return null;
  // The origin of a member is where its move is only while its pivot does not carry it elsewhere.
  const offset = [0, 1, 2].map((r) => {
    const [x, y, z] = originOf(frame, id);
    const local = inverse[r] * x + inverse[4 + r] * y + inverse[8 + r] * z + inverse[12 + r];
    return (frame.value(id, `move.${'xyz'[r]}`) ?? 0) - local;
  });
  const out: Record<string, Key[]> = {};
  ['x', 'y', 'z'].forEach((axis, r) => {
    const path = channelPath(id, `move.${axis}`);
    const part = (v: Vector) => inverse[r] * v[0] + inverse[4 + r] * v[1] + inverse[8 + r] * v[2];
    const keys = throughStations(needed(stations, part), part, inverse[12 + r] + offset[r]);
    const still = keys.every((k) => Math.abs(k.value - keys[0].value) < 1e-9);
    const constant = (shot.members.at(id).values[`move.${axis}`] ?? 0) as number;
    if (still && !shot.curves.has(path) && Math.abs(keys[0].value - constant) < 1e-9) return;
    out[path] = still ? [keys[0]] : keys;
  });
  return out;
}

/** The stations a channel needs: those it goes straight through, as fast as before, say nothing. */
function needed(stations: readonly Station[], part: (v: Vector) => number): Station[] {
  return stations.filter((s, i) => {
    const [a, b] = [stations[i - 1], stations[i + 1]];
    if (!a || !b) return true;
    const level = (u: Station, v: Station) => Math.abs(part(u.leave) - part(v.arrive)) < 1e-12;
    return !(level(a, s) && level(s, b) && Math.abs(part(s.arrive) - part(s.leave)) < 1e-12);
  });
}
