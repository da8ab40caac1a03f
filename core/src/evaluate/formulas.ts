import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { FormulaEnv, Term } from '../formula/functions.ts';
import { formulaOrder } from '../formula/order.ts';
import { compiledFormula } from '../formula/problem.ts';
import { type Elsewhere, envOf, settled, shownUnit } from './elsewhere.ts';
import type { Layout } from './layout.ts';

/** One formula in its place: what it reads from a frame's values, and where it writes. */
interface PlacedFormula {
  readonly run: Term;
  readonly env: FormulaEnv;
  readonly target: number;
  readonly scale: number;
  readonly mode: 'instead' | 'add';
  /** Where its inputs stand in the values; -1 for one that is not there. */
  readonly sources: Int32Array;
  readonly scales: Float64Array;
}

/** Lays a shot's formulas out, each after those it reads. */
export function placeFormulas(shot: Shot, layout: Layout, elsewhere: Elsewhere): PlacedFormula[] {
  const order = formulaOrder(shot.formulas);
  if ('loop' in order) throw new Error(`Formulas go round in a circle: ${order.loop.join(', ')}.`);
  const placeOf = (path: string) => {
    const { member, channel } = splitPath(path);
    const slot = layout.slotOf.get(member);
    const place = slot === undefined ? undefined : layout.channelAt[slot].get(channel);
    return slot === undefined || place === undefined ? -1 : layout.base[slot] + place;
  };
  return order.order.flatMap((path): PlacedFormula[] => {
    const formula = shot.formulas[path];
    const made = compiledFormula(formula);
    const target = placeOf(path);
    if (!made.ok || target < 0 || path in shot.loose) return [];
    return [
      {
        run: made.formula.run,
        env: envOf(
          shot,
          formula.inputs.map((i) => elsewhere.shown(i.path)),
        ),
        target,
        scale: shownUnit(shot, path),
        mode: formula.mode,
        sources: Int32Array.from(formula.inputs, (i) => placeOf(i.path)),
        scales: Float64Array.from(formula.inputs, (i) => shownUnit(shot, i.path)),
      },
    ];
  });
}

/** Computes all formulas of a moment into its values. */
export function runFormulas(formulas: readonly PlacedFormula[], time: number, values: Float64Array): void {
  for (let f = 0; f < formulas.length; f++) {
    const { run, env, target, scale, mode, sources, scales } = formulas[f];
    for (let i = 0; i < sources.length; i++) env.inputs[i] = sources[i] < 0 ? 0 : values[sources[i]] * scales[i];
    const base = values[target];
    env.frame = time;
    env.keyed = base * scale;
    values[target] = settled(run(env) / scale, base, mode);
  }
}
export type { PlacedFormula };
