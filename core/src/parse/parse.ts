import { channelsOf, ORIENTATION, splitPath } from '../document/channels.ts';
import { parentLoop } from '../document/hierarchy.ts';
import { migrate } from '../document/migrate.ts';
import { documentOf, limits, type Shot, ShotSchema } from '../document/shot.ts';
import { Rigs } from '../rig/rigs.ts';
import { MOST_PROBLEMS, type Parsed, type Problem, pointer, problemsOf } from '../schema/problem.ts';
import { castingProblems } from './casting.ts';
import { clipProblems } from './clips.ts';
import { formulasProblem } from './formulas.ts';

/**
 * Reads a shot from outside, or looks one through again: brings it up to this version, checks its form, its size and that everything it refers to
 * is there. What is returned is safe to compile.
 * @param rigs those at hand; a document that links others is refused
 */
export function parseShot(json: unknown, rigs: Rigs): Parsed<Shot> {
  let current: unknown;
  try {
    current = migrate(isShot(json) ? documentOf(json) : json);
  } catch (error) {
    return { ok: false, problems: [{ pointer: '', sentence: (error as Error).message }] };
  }
  const parsed = ShotSchema.safeParse(current);
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error) };
  const shot = { ...parsed.data, rigs };
  const problems = inconsistencies(shot);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: shot };
}

const isShot = (given: unknown): given is Shot => (given as Partial<Shot> | null)?.rigs instanceof Rigs;

/** What a shot of the right form can still have wrong: references to nobody, loops, spans the wrong way round. */
function inconsistencies(shot: Shot): Problem[] {
  const problems: Problem[] = [];
  const say = (path: readonly PropertyKey[], sentence: string) => {
    if (problems.length < MOST_PROBLEMS) problems.push({ pointer: pointer(path), sentence });
  };

  if (shot.members.size > limits.members) say(['members'], `has more than ${limits.members} members`);
  if (shot.curves.size > limits.curves) say(['curves'], `has more than ${limits.curves} curves`);
  if (shot.range.first > shot.range.last) say(['range'], 'ends before it begins');
  if (shot.play.first > shot.play.last) say(['play'], 'ends before it begins');
  if (shot.play.first < shot.range.first || shot.play.last > shot.range.last)
    say(['play'], 'reaches outside the range');

  if (shot.sets.size > limits.sets) say(['sets'], `has more than ${limits.sets} control sets`);
  for (const [id, set] of shot.sets.entries()) {
    if (set.id !== id) say(['sets', id, 'id'], `is "${set.id}", but it is filed under "${id}"`);
  }

  for (const list of ['formulas', 'recipes', 'sounds', 'aside', 'clips'] as const) {
    if (shot[list].size > limits[list]) say([list], `has more than ${limits[list]} of them`);
  }
  for (const list of ['recipes', 'sounds', 'aside', 'clips'] as const) {
    for (const [id, part] of shot[list]) {
      if (part.id !== id) say([list, id, 'id'], `is "${part.id}", but it is filed under "${id}"`);
    }
  }
  for (const [id, recipe] of shot.recipes.entries()) {
    if (!shot.members.has(recipe.member))
      say(['recipes', id, 'member'], `names "${recipe.member}", who is not in the cast`);
  }

  const channels = new Map<string, Set<string>>();
  for (const [id, member] of shot.members.entries()) {
    if (member.id !== id) say(['members', id, 'id'], `is "${member.id}", but it is filed under "${id}"`);
    if (member.parent !== null && !shot.members.has(member.parent)) {
      say(['members', id, 'parent'], `names "${member.parent}", who is not in the cast`);
    }
    const all = channelsOf(member, shot.rigs);
    const own = new Set(all.filter((c) => !c.closed).map((c) => c.id));
    if (new Set(all.map((c) => c.id)).size !== all.length) say(['members', id, 'custom'], 'has the same channel twice');
    for (const name of Object.keys(member.values)) {
      if (!own.has(name)) say(['members', id, 'values', name], `is not a channel of "${member.name}"`);
    }
    const deformers = new Set(member.deformers.map((d) => d.id));
    if (deformers.size !== member.deformers.length) say(['members', id, 'deformers'], 'has the same deformer twice');
    own.add(ORIENTATION);
    channels.set(id, own);
  }
  const loop = parentLoop(shot.members);
  if (loop) {
    const names = loop.map((id) => `"${shot.members.at(id).name}"`).join(', ');
    say(['members', loop[0], 'parent'], `goes round in a circle: ${names}`);
  }

  const checkPath = (list: 'curves' | 'loose' | 'formulas', path: string, isOrientation: boolean) => {
    const { member, channel } = splitPath(path);
    const own = channels.get(member);
    if (!own) say([list, path], `belongs to "${member}", who is not in the cast`);
    else if (!own.has(channel)) say([list, path], `is not a channel of "${shot.members.at(member).name}"`);
    else if ((channel === ORIENTATION) !== isOrientation) {
      say([list, path], isOrientation ? 'holds orientations, but its channel is a number' : 'must hold orientations');
    }
  };
  for (const [path, curve] of shot.curves.entries()) checkPath('curves', path, curve.type === 'orientation');
  for (const [path, value] of shot.loose.entries()) checkPath('loose', path, typeof value !== 'number');
  for (const path of shot.formulas.keys()) checkPath('formulas', path, false);
  for (const problem of castingProblems(shot)) say(problem.path, problem.sentence);
  for (const problem of clipProblems(shot)) say(problem.path, problem.sentence);
  const formula = formulasProblem(shot);
  if (formula) say(['formulas', formula.path], formula.sentence);
  return problems;
}
