import { clipAtWork } from '../clip/at-work.ts';
import type { Key } from '../curve/key.ts';
import { controlsOf } from '../document/casting.ts';
import { channelPath, splitPath } from '../document/channels.ts';
import { type Clip, plainManner } from '../document/clip.ts';
import type { Member } from '../document/member.ts';
import type { RecipeSettings } from '../document/recipe.ts';
import type { Shot } from '../document/shot.ts';
import { type Anatomy, anatomyOf } from '../gait/anatomy.ts';
import { characters, fourLegs, type Gait, patterns, plainWalk } from '../gait/dials.ts';
import { walked } from '../gait/gait.ts';
import type { Rigs } from '../rig/rigs.ts';
import type { Field, Kit, Written } from './kit.ts';
import { numberOf } from './kit.ts';

type NumberField = Extract<Field, { kind: 'number' }>;

const dial = (
  section: string,
  name: keyof Gait,
  label: string,
  unit: NumberField['unit'],
  [min, max]: readonly [number, number],
  more: Partial<Pick<NumberField, 'hint' | 'step' | 'whole'>> = {},
): Field => ({ kind: 'number', section, name, label, unit, min, max, step: 1, start: plainWalk[name], ...more });

/** A walk, trot or bound, for two legs or four. */
export const gait: Kit = {
  id: 'gait',
  name: 'Gait',
  about:
    'A cycle for two or four legs: contact, down, passing, up. Feet stand where they are down, whatever is dialled.',
  fields: [
    {
      kind: 'choice',
      name: 'character',
      label: 'character',
      hint: 'sets all the dials below to begin from',
      start: 'plain',
      choices: Object.entries(characters).map(([value, { label }]) => ({ value, label })),
    },
    {
      kind: 'choice',
      name: 'pattern',
      label: 'footfall',
      hint: 'for four legs: when each foot comes down, and for how long',
      start: 'walk',
      choices: Object.entries(patterns).map(([value, { label }]) => ({ value, label })),
    },
    dial('step', 'cadence', 'a step takes', 'frames', [4, 48], { whole: true }),
    dial('step', 'stride', 'stride', '%', [10, 130], { hint: 'how far a step gets, of the leg’s length' }),
    dial('step', 'width', 'width', '%', [0, 220], { hint: 'how far apart the feet are, of how they stand at rest' }),
    dial('step', 'lift', 'lift', '%', [2, 40], { hint: 'how high a foot is lifted, of the leg’s length' }),
    dial('step', 'down', 'down', '%', [20, 80], { hint: 'how long each foot is down, of the cycle' }),
    dial('foot', 'strike', 'heel strike', '°', [0, 40]),
    dial('foot', 'flat', 'flat after', 'frames', [1, 8], { whole: true }),
    dial('foot', 'heelOff', 'heel lifts at', '%', [20, 95], { hint: 'of the time the foot is down' }),
    dial('foot', 'push', 'push off the ball', '°', [0, 60]),
    dial('foot', 'roll', 'and over the toe', '°', [0, 40]),
    dial('foot', 'toeOut', 'toes out', '°', [-20, 40]),
    dial('body', 'bob', 'up and down', '%', [0, 15], { step: 0.2, hint: 'of the hips, of the leg’s length' }),
    dial('body', 'sway', 'sway', '%', [0, 12], { step: 0.2, hint: 'over the foot that carries' }),
    dial('body', 'tilt', 'hips tilt', '°', [0, 18], { hint: 'down on the free leg’s side' }),
    dial('body', 'turn', 'hips turn', '°', [0, 25], { hint: 'with the forward leg' }),
    dial('body', 'counter', 'chest turns', '°', [0, 30], { hint: 'against the hips; on four legs with the forelegs' }),
    dial('body', 'chestLag', 'chest lags', 'frames', [0, 6], { whole: true }),
    dial('body', 'lean', 'lean', '°', [-15, 40]),
    dial('body', 'flex', 'back bends', '°', [0, 30], { hint: 'four legs: gathered and stretched' }),
    dial('arms', 'swing', 'arm swing', '°', [0, 60]),
    dial('arms', 'elbow', 'elbow', '°', [0, 95]),
    dial('arms', 'apart', 'away from the body', '°', [-8, 40]),
    dial('arms', 'armLag', 'lag a link', 'frames', [0, 6], { whole: true }),
    dial('head', 'steady', 'head steady', '%', [0, 100], {
      hint: 'how much of the chest’s turning it does not follow',
    }),
    dial('head', 'chin', 'chin', '°', [-25, 40], { hint: 'above 0 it hangs' }),
    dial('head', 'nod', 'nod', '%', [0, 15], {
      step: 0.2,
      hint: 'four legs: down and ahead as a forefoot takes the weight, of the leg’s length',
    }),
    dial('head', 'tail', 'tail', '°', [0, 45]),
    dial('weight', 'heavy', 'heaviness', '%', [0, 100]),
    dial('weight', 'spring', 'spring', '%', [0, 100]),
    dial('weight', 'limp', 'limp', '%', [-100, 100], { hint: 'below 0 the left foot is sore, above it the right one' }),
    dial('footfall', 'fall1', 'left, or hind left', '%', [0, 100], { step: 0.5 }),
    dial('footfall', 'fall2', 'right, or hind right', '%', [0, 100], { step: 0.5 }),
    dial('footfall', 'fall3', 'fore left', '%', [0, 100], { step: 0.5 }),
    dial('footfall', 'fall4', 'fore right', '%', [0, 100], { step: 0.5 }),
  ],
  suggest(shot, member): RecipeSettings {
    const anatomy = anatomyOfMember(member, shot.rigs);
    if (typeof anatomy === 'string') return {};
    return anatomy.legs.length === 4 ? { ...plainWalk, ...fourLegs, ...patterns.walk.four } : { ...plainWalk };
  },
  whole: true,
  lacks(shot, member) {
    const anatomy = anatomyOfMember(member, shot.rigs);
    if (typeof anatomy === 'string') return [];
    return anatomy.legs.length === 4
      ? ['strike', 'flat', 'heelOff', 'roll', 'swing', 'elbow', 'apart', 'armLag']
      : ['pattern', 'flex', 'nod', 'tail', 'fall3', 'fall4'];
  },
  chosen(shot, member, field, value): RecipeSettings {
    const anatomy = anatomyOfMember(member, shot.rigs);
    const four = typeof anatomy !== 'string' && anatomy.legs.length === 4;
    if (field === 'pattern') return { ...patterns[value]?.four };
    const { gait: own } = characters[value] ?? { gait: {} };
    return four ? onFourLegs(own) : { ...withoutFalls(plainWalk), ...own };
  },
  write({ shot, member, settings }): Written {
    const anatomy = anatomyOfMember(member, shot.rigs);
    if (typeof anatomy === 'string') return { problem: anatomy };
    const own = new Map(controlsOf(shot, member.id).map((c) => [c.shape.control, c]));
    const dials = Object.fromEntries(Object.keys(plainWalk).map((name) => [name, numberOf(settings, name)]));
    const clip = clipAtWork(shot, member.id);
    const { curves, clip: said, note } = walked(anatomy, dials as unknown as Gait, clip?.first ?? shot.play.first);
    const keys: Record<string, Key[]> = {};
    for (const [name, curve] of curves) {
      const { member: control, channel } = splitPath(name);
      const at = own.get(control);
      if (!at) continue;
      if (at.rotation !== 'angles' && channel.startsWith('turn.'))
        return { problem: `${at.name} turns by an orientation. Let it turn by angles, then it can walk.` };
      keys[channelPath(at.id, channel)] = [...curve.keys];
    }
    return { keys, clip: { ...(clip ?? freshClip(shot, member, String(settings.pattern))), ...said }, note };
  },
};

/** A character of two legs on four: what it has more or less than a plain walk is more or less here. How long feet are down stays. */
function onFourLegs(own: Partial<Gait>): Partial<Gait> {
  const { down: _, ...plain } = { ...withoutFalls(plainWalk), ...fourLegs };
  const changed = Object.entries(own).flatMap(([name, value]) => {
    const key = name as keyof Gait;
    const from = plain[key as keyof typeof plain];
    return from === undefined ? [] : [[name, Math.max(0, from + value - plainWalk[key])] as const];
  });
  return { ...plain, ...Object.fromEntries(changed) };
}

function withoutFalls(whole: Gait): Partial<Gait> {
  const { fall1: _1, fall2: _2, fall3: _3, fall4: _4, ...rest } = whole;
  return rest;
}

function anatomyOfMember(member: Member, rigs: Rigs): Anatomy | string {
  const compiled = member.kind === 'rig' ? rigs.find(member.shape) : undefined;
  return compiled ? anatomyOf(compiled) : 'A gait is for rigs with legs: pick one.';
}

/** A clip for a rig that has none at work. */
function freshClip(shot: Shot, member: Member, pattern: string): Clip {
  const stem = `${member.id.slice(0, 28)}-gait`;
  let id = stem;
  for (let n = 2; shot.clips.has(id); n++) id = `${stem}${n}`;
  return {
    id,
    rig: member.id,
    name: patterns[pattern]?.label.replace(/^./, (c) => c.toUpperCase()) ?? 'Walk',
    first: shot.play.first,
    length: 24,
    cycles: true,
    travel: 0,
    travelling: false,
    halves: 'mirrored',
    labels: [],
    stances: {},
    way: null,
    manner: plainManner,
    follows: {},
    kept: null,
  };
}
