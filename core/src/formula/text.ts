import type { Formula } from '../schema/formula.ts';
import type { FormulaCall } from './compile.ts';
import { fittedPeriod } from './waves.ts';

/** Changes of a formula's text at known places. */

/** The waves in a formula whose strength and period are plain numbers: they can be dragged. */
export const draggableWaves = (calls: readonly FormulaCall[]): FormulaCall[] =>
  calls.filter(
    (c) => ['wave', 'triangle', 'noise'].includes(c.name) && c.arguments.slice(0, 2).every((a) => a.value !== null),
  );

/** Puts a number in the place of an argument of a call. */
export function withArgument(text: string, call: FormulaCall, index: number, value: number): string {
  const place = call.arguments[index];
  return text.slice(0, place.start) + numberText(value) + text.slice(place.end);
}

/** As few digits as tell it apart to nine places. */
export const numberText = (value: number): string => String(Number(value.toFixed(9)));

/**
 * The text with the periods of all its waves fitted into so many frames, so that it closes there. A fraction is written as a
 * division, which is exact; chance is told to repeat.
 */
export function fittedText(formula: Pick<Formula, 'text'>, calls: readonly FormulaCall[], length: number): string {
  const edits: { start: number; end: number; text: string }[] = [];
  for (const call of calls) {
    if (!['wave', 'triangle', 'saw', 'noise'].includes(call.name)) continue;
    const period = call.arguments[1];
    if (period?.value === null || period === undefined) continue;
    const rounds = Math.round(length / fittedPeriod(period.value, length));
    const whole = length / rounds;
    edits.push({ ...period, text: Number.isInteger(whole) ? String(whole) : `${length} / ${rounds}` });
    if (call.name !== 'noise') continue;
    const [, , seed, closes] = call.arguments;
    if (closes) edits.push({ ...closes, text: String(length) });
    else edits.push({ start: call.end - 1, end: call.end - 1, text: seed ? `, ${length}` : `, 1, ${length}` });
  }
  return edits
    .sort((a, b) => b.start - a.start)
    .reduce((text, e) => text.slice(0, e.start) + e.text + text.slice(e.end), formula.text);
}
