import { migrate } from '../document/migrate.ts';
import { documentOf, type Shot, ShotSchema } from '../document/shot.ts';
import { Rigs } from '../rig/rigs.ts';
import { type Parsed, problemsOf } from '../schema/problem.ts';
import { inconsistencies } from './inconsistencies.ts';

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
