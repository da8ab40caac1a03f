import { clipProblems } from '../clip/problems.ts';
import { formulasProblem } from '../formula/problem.ts';
import { castingProblems } from './casting.ts';
import { channelsOf, ORIENTATION, splitPath } from './channels.ts';
import { parentLoop } from './hierarchy.ts';
import { migrate } from './migrate.ts';
import { MOST_PROBLEMS, type Parsed, type Problem, pointer, problemsOf } from './problem.ts';
import { limits, type Shot, ShotSchema } from './shot.ts';

/**
 * Reads a shot from outside: brings it up to this version, checks its form, its size and that everything it refers to
 * is there. What is returned is safe to compile.
 */
export function parseShot(json: unknown): Parsed<Shot> {
  let current: unknown;
  try {
    current = migrate(json);
  } catch (error) {
    return { ok: false, problems: [{ pointer: '', sentence: (error as Error).message }] };
  }
  const parsed = ShotSchema.safeParse(current);
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error) };
  const problems = inconsistencies(parsed.data);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: parsed.data };
}

/** What a shot of the right form can still have wrong: references to nobody, loops, spans the wrong way round. */
function inconsistencies(shot: Shot): Problem[] {
  const problems: Problem[] = [];
  const say = (path: readonly PropertyKey[], sentence: string) => {
    if (problems.length < MOST_PROBLEMS) problems.push({ pointer: pointer(path), sentence });
  };

  if (Object.keys(shot.members).length > limits.members) say(['members'], `has more than ${limits.members} members`);
  if (Object.keys(shot.curves).length > limits.curves) say(['curves'], `has more than ${limits.curves} curves`);
  if (shot.range.first > shot.range.last) say(['range'], 'ends before it begins');
  if (shot.play.first > shot.play.last) say(['play'], 'ends before it begins');
  if (shot.play.first < shot.range.first || shot.play.last > shot.range.last)
    say(['play'], 'reaches outside the range');

  if (Object.keys(shot.sets).length > limits.sets) say(['sets'], `has more than ${limits.sets} control sets`);
  for (const [id, set] of Object.entries(shot.sets)) {
    if (set.id !== id) say(['sets', id, 'id'], `is "${set.id}", but it is filed under "${id}"`);
  }

  for (const list of ['formulas', 'recipes', 'sounds', 'aside', 'clips'] as const) {
    if (Object.keys(shot[list]).length > limits[list]) say([list], `has more than ${limits[list]} of them`);
  }
  for (const list of ['recipes', 'sounds', 'aside', 'clips'] as const) {
    for (const [id, part] of Object.entries(shot[list])) {
      if (part.id !== id) say([list, id, 'id'], `is "${part.id}", but it is filed under "${id}"`);
    }
  }
  for (const [id, recipe] of Object.entries(shot.recipes)) {
    if (!(recipe.member in shot.members))
      say(['recipes', id, 'member'], `names "${recipe.member}", who is not in the cast`);
  }

  const channels = new Map<string, Set<string>>();
  for (const [id, member] of Object.entries(shot.members)) {
    if (member.id !== id) say(['members', id, 'id'], `is "${member.id}", but it is filed under "${id}"`);
    if (member.parent !== null && !(member.parent in shot.members)) {
      say(['members', id, 'parent'], `names "${member.parent}", who is not in the cast`);
    }
    const all = channelsOf(member);
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
    const names = loop.map((id) => `"${shot.members[id].name}"`).join(', ');
    say(['members', loop[0], 'parent'], `goes round in a circle: ${names}`);
  }

  const checkPath = (list: 'curves' | 'loose' | 'formulas', path: string, isOrientation: boolean) => {
    const { member, channel } = splitPath(path);
    const own = channels.get(member);
    if (!own) say([list, path], `belongs to "${member}", who is not in the cast`);
    else if (!own.has(channel)) say([list, path], `is not a channel of "${shot.members[member].name}"`);
    else if ((channel === ORIENTATION) !== isOrientation) {
      say([list, path], isOrientation ? 'holds orientations, but its channel is a number' : 'must hold orientations');
    }
  };
  for (const [path, curve] of Object.entries(shot.curves)) checkPath('curves', path, curve.type === 'orientation');
  for (const [path, value] of Object.entries(shot.loose)) checkPath('loose', path, typeof value !== 'number');
  for (const path of Object.keys(shot.formulas)) checkPath('formulas', path, false);
  for (const problem of castingProblems(shot)) say(problem.path, problem.sentence);
  for (const problem of clipProblems(shot)) say(problem.path, problem.sentence);
  const formula = formulasProblem(shot);
  if (formula) say(['formulas', formula.path], formula.sentence);
  return problems;
}
