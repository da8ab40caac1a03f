import type { Formula } from '../schema/formula.ts';
import { compileFormula } from './compile.ts';

/** What of a formula says what it computes. */
type Readable = Pick<Formula, 'text' | 'inputs'>;

const compiled = new WeakMap<Readable, ReturnType<typeof compileFormula>>();

/** A formula compiled; done once for each version of it. */
export function compiledFormula(formula: Readable): ReturnType<typeof compileFormula> {
  const known =
    compiled.get(formula) ??
    compileFormula(
      formula.text,
      formula.inputs.map((i) => i.name),
    );
  compiled.set(formula, known);
  return known;
}
