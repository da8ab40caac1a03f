import { smoothKey } from '../../curve/key.ts';
import { thinned } from '../../curve/thin.ts';
import type { Shot } from '../../document/shot.ts';
import { channelWords } from '../../document/words.ts';
import { Elsewhere, shownUnit } from '../../evaluate/elsewhere.ts';
import { formulaProblem } from '../../parse/formulas.ts';
import type { Formula } from '../../schema/formula.ts';
import { withinBounds } from '../../schema/numbers.ts';
import { defineCommand } from '../edit.ts';

/** Gives a channel a formula, or another one. A formula with something wrong changes nothing. */
export const setFormula = defineCommand<{ path: string; formula: Formula }>({
  name: 'formula.set',
  label: ({ path }, shot) => `formula for ${channelWords(shot, [path])}`,
  apply: (shot, { path, formula }) =>
    formulaProblem(shot, path, formula) === null ? { ...shot, formulas: shot.formulas.with(path, formula) } : shot,
});

/** Takes formulas away; the channels' keys or constants have their way again. */
export const removeFormulas = defineCommand<{ paths: readonly string[] }>({
  name: 'formula.remove',
  label: ({ paths }, shot) => `take the formula of ${channelWords(shot, paths)} away`,
  apply: (shot, { paths }) => paths.reduce(withoutFormula, shot),
});

/**
 * Turns formulas into keys: one on each frame that plays, thinned to what is needed. The channel moves by no more than the
 * tolerance anywhere.
 * @param tolerance in the interface's unit; 0 keeps a key on each frame
 */
export const bakeFormulas = defineCommand<{ paths: readonly string[]; tolerance: number }>({
  name: 'formula.bake',
  label: ({ paths }, shot) => `turn the formula of ${channelWords(shot, paths)} into keys`,
  apply(shot, { paths, tolerance }) {
    const elsewhere = new Elsewhere(shot);
    const { first, last } = shot.play;
    let next = shot;
    for (const path of paths) {
      if (!shot.formulas.has(path)) continue;
      const reader = elsewhere.of(path);
      const keys = Array.from({ length: last - first + 1 }, (_, i) =>
        smoothKey(first + i, withinBounds(reader.at(first + i))),
      );
      const dense = { type: 'number' as const, keys, before: 'hold' as const, after: 'hold' as const };
      const curve = tolerance > 0 ? thinned(dense, tolerance / shownUnit(shot, path)).curve : dense;
      next = withoutFormula({ ...next, curves: next.curves.with(path, curve) }, path);
    }
    return next;
  },
});

function withoutFormula(shot: Shot, path: string): Shot {
  if (!shot.formulas.has(path)) return shot;
  const formulas = shot.formulas.without(path);
  return { ...shot, formulas };
}
