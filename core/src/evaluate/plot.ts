import type { Shot } from '../document/shot.ts';
import { compileFormula } from '../formula/compile.ts';
import { envOf } from '../formula/functions.ts';
import { Elsewhere } from './elsewhere.ts';

/** What a channel holds at evenly spaced moments, both ends included, in the unit animators see. */
export function channelSeries(shot: Shot, path: string, first: number, last: number, count: number): Float64Array {
  const reader = new Elsewhere(shot).shown(path);
  return Float64Array.from({ length: count }, (_, i) =>
    reader.at(first + ((last - first) * i) / Math.max(1, count - 1)),
  );
}

/** What a formula gives by itself over two seconds, to be looked at; an input in it swings once. Null where it is wrong. */
export function exampleSeries(text: string, count: number): Float64Array | null {
  const made = compileFormula(text, ['input']);
  if (!made.ok) return null;
  const input = (time: number) => Math.sin(((time - 1) / 24) * 2 * Math.PI);
  const env = envOf({ rate: 24, first: 1, last: 48 }, [{ at: input }]);
  return Float64Array.from({ length: count }, (_, i) => {
    env.frame = 1 + (48 * i) / (count - 1);
    env.values[0] = input(env.frame);
    return made.formula.run(env);
  });
}
