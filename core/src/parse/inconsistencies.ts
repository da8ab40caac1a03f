import { channelsOf, ORIENTATION, splitPath } from '../document/channels.ts';
import { parentLoop } from '../document/hierarchy.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { MOST_PROBLEMS, type Problem, pointer } from '../schema/problem.ts';
import { castingProblems } from './casting.ts';
import { clipProblems } from './clips.ts';
import { formulasProblem } from './formulas.ts';
import { trackProblems } from './tracks.ts';

/** What a shot of the right form can still have wrong: references to nobody, loops, spans the wrong way round. */

/** A list of what is wrong that has an end. */
export class Problems {
  readonly list: Problem[] = [];

  get enough(): boolean {
    return this.list.length >= MOST_PROBLEMS;
  }

  say(path: readonly PropertyKey[], sentence: string): void {
    if (!this.enough) this.list.push({ pointer: pointer(path), sentence });
  }
}

/** Tables whose records are filed under their ids. */
const filed = [
  'members',
  'sets',
  'recipes',
  'sounds',
  'aside',
  'clips',
  'cuts',
  'tracks',
  'panels',
  'markers',
  'strokes',
  'footage',
  'traces',
  'notes',
  'suggestions',
] as const;
/** Tables whose records are filed under the path of the channel they are for. */
const byPath = ['curves', 'loose', 'formulas'] as const;
export type Filed = (typeof filed)[number];
export type ByPath = (typeof byPath)[number];
export const isFiled = (table: string): table is Filed => (filed as readonly string[]).includes(table);
export const isByPath = (table: string): table is ByPath => (byPath as readonly string[]).includes(table);

/** All that is wrong with a shot. */
export function inconsistencies(shot: Shot): Problem[] {
  const problems = new Problems();
  lookAtSpans(shot, problems);
  for (const table of filed) for (const id of shot[table].keys()) lookAtRecord(shot, table, id, problems);
  const loop = parentLoop(shot.members);
  if (loop) {
    const names = loop.map((id) => `"${shot.members.at(id).name}"`).join(', ');
    problems.say(['members', loop[0], 'parent'], `goes round in a circle: ${names}`);
  }
  for (const table of byPath) for (const path of shot[table].keys()) lookAtPath(shot, table, path, problems);
  if (problems.enough) return problems.list;
  for (const problem of castingProblems(shot)) problems.say(problem.path, problem.sentence);
  lookAtClips(shot, problems);
  lookAtFormulas(shot, problems);
  return problems.list;
}

export function lookAtSpans({ range, play }: Shot, problems: Problems): void {
  if (range.first > range.last) problems.say(['range'], 'ends before it begins');
  if (play.first > play.last) problems.say(['play'], 'ends before it begins');
  if (play.first < range.first || play.last > range.last) problems.say(['play'], 'reaches outside the range');
}

/** Looks at a record that is filed under its id: whether it is, and whether there is whom it names. */
export function lookAtRecord(shot: Shot, table: Filed, id: string, problems: Problems): void {
  const record = shot[table].at(id);
  if (record.id !== id) problems.say([table, id, 'id'], `is "${record.id}", but it is filed under "${id}"`);
  if (table === 'members') lookAtMember(shot, shot.members.at(id), id, problems);
  if (table !== 'recipes') return;
  const { member } = shot.recipes.at(id);
  if (!shot.members.has(member)) problems.say(['recipes', id, 'member'], `names "${member}", who is not in the cast`);
}

function lookAtMember(shot: Shot, member: Member, id: string, problems: Problems): void {
  if (member.parent !== null && !shot.members.has(member.parent))
    problems.say(['members', id, 'parent'], `names "${member.parent}", who is not in the cast`);
  const channels = channelsOf(member, shot.rigs);
  const open = openChannels(channels);
  if (open.twice) problems.say(['members', id, 'custom'], 'has the same channel twice');
  for (const name of Object.keys(member.values))
    if (name === ORIENTATION || !open.ids.has(name))
      problems.say(['members', id, 'values', name], `is not a channel of "${member.name}"`);
  const deformers = new Set(member.deformers.map((d) => d.id));
  if (deformers.size !== member.deformers.length)
    problems.say(['members', id, 'deformers'], 'has the same deformer twice');
}

interface Open {
  /** The channels that are open, and the orientation. */
  readonly ids: ReadonlySet<string>;
  readonly twice: boolean;
}
const known = new WeakMap<ReturnType<typeof channelsOf>, Open>();

/** What can be keyed of a list of channels; found once for all members who have the same. */
function openChannels(channels: ReturnType<typeof channelsOf>): Open {
  let open = known.get(channels);
  if (!open) {
    const ids = channels.filter((c) => !c.closed).map((c) => c.id);
    const twice = new Set(channels.map((c) => c.id)).size !== channels.length;
    open = { ids: new Set([...ids, ORIENTATION]), twice };
    known.set(channels, open);
  }
  return open;
}

/** Looks at a record that is filed under the path of a channel: whether there is such a channel, and whether it holds what it must. */
export function lookAtPath(shot: Shot, table: ByPath, path: string, problems: Problems): void {
  const { member: id, channel } = splitPath(path);
  const member = shot.members.get(id);
  if (!member) problems.say([table, path], `belongs to "${id}", who is not in the cast`);
  else if (!openChannels(channelsOf(member, shot.rigs)).ids.has(channel))
    problems.say([table, path], `is not a channel of "${member.name}"`);
  else if (channel !== ORIENTATION && holdsOrientations(shot, table, path) !== false)
    problems.say([table, path], 'holds orientations, but its channel is a number');
  else if (channel === ORIENTATION && holdsOrientations(shot, table, path) !== true)
    problems.say([table, path], 'must hold orientations');
}

/** Whether what is filed for a channel holds orientations; null where it holds both them and numbers. */
function holdsOrientations(shot: Shot, table: ByPath, path: string): boolean | null {
  if (table === 'curves') return shot.curves.at(path).type === 'orientation';
  if (table !== 'loose') return false;
  const held = new Set(shot.loose.at(path).map(({ value }) => typeof value !== 'number'));
  return held.size === 1 ? held.has(true) : null;
}

export function lookAtClips(shot: Shot, problems: Problems): void {
  for (const problem of [...clipProblems(shot), ...trackProblems(shot)]) problems.say(problem.path, problem.sentence);
}

export function lookAtFormulas(shot: Shot, problems: Problems): void {
  const formula = formulasProblem(shot);
  if (formula) problems.say(['formulas', formula.path], formula.sentence);
}
