import type { Shot } from '../document/shot.ts';
import { channelWords } from '../document/words.ts';
import type { CompiledFormula } from '../formula/compile.ts';
import { compiledFormula } from '../formula/compiled-formula.ts';
import { formulaOrder } from '../formula/order.ts';
import type { FormulaProblem } from '../formula/parse.ts';
import type { Formula } from '../schema/formula.ts';
import type { Table } from '../table/table.ts';

/** The most parts that may have to be worked out for one value, with all that is read at other moments. */
const MOST_WORK = 50_000;

/**
 * What is wrong with a formula for a channel of a shot; null where nothing is. Rings of formulas are named, and formulas that
 * read so much at other moments that they would never be done are refused.
 */
export function formulaProblem(shot: Shot, path: string, formula: Formula): FormulaProblem | null {
  const own = compiledFormula(formula);
  if (!own.ok) return own.problem;
  const whole = { at: 0, length: formula.text.length };
  const twice = calledTwice(formula);
  if (twice) return { ...whole, sentence: twice };
  const formulas = shot.formulas.with(path, formula);
  const order = formulaOrder(formulas);
  if ('loop' in order) {
    const ring = order.loop.map((p) => channelWords(shot, [p]));
    return { ...whole, sentence: `goes round in a circle: ${[...ring, ring[0]].join(' reads ')}` };
  }
  if (workOf(formulas, order.order) > MOST_WORK)
    return { ...whole, sentence: 'asks for too much: formulas that read formulas at other moments, many times over' };
  return null;
}

/** What is wrong where two of a formula's inputs have one name. */
function calledTwice({ inputs }: Formula): string | null {
  const names = inputs.map((i) => i.name);
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  return twice === undefined ? null : `two inputs are called ${twice}`;
}

/** The most work any of the formulas asks for, where each input is worked out anew each time it is read elsewhere. */
function workOf(formulas: Table<Formula>, order: readonly string[]): number {
  const work = new Map<string, number>();
  let most = 0;
  for (const path of order) {
    const made = compiledFormula(formulas.at(path));
    const own: CompiledFormula | null = made.ok ? made.formula : null;
    let sum = own?.parts ?? 0;
    formulas.at(path).inputs.forEach((input, i) => {
      sum += (1 + (own?.elsewhere[i] ?? 0)) * (work.get(input.path) ?? 1);
    });
    work.set(path, Math.min(sum, Number.MAX_SAFE_INTEGER));
    most = Math.max(most, sum);
  }
  return most;
}

/** What is wrong with all the formulas of a shot together, for reading a document. */
export function formulasProblem(shot: Shot): { path: string; sentence: string } | null {
  for (const [path, formula] of shot.formulas.entries()) {
    const made = compiledFormula(formula);
    if (!made.ok) return { path, sentence: `${made.problem.sentence} (character ${made.problem.at + 1})` };
    const twice = calledTwice(formula);
    if (twice) return { path, sentence: twice };
  }
  const [first] = shot.formulas.entries();
  if (!first) return null;
  const problem = formulaProblem(shot, first[0], first[1]);
  return problem && { path: first[0], sentence: problem.sentence };
}
