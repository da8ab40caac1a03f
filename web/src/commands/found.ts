/**
 * How well what is called something answers to words somebody types, from 0 (not at all) to 1: the words as they stand, before all of
 * them somewhere at the beginning of words, before all of them anywhere. What only has the letters in it does not answer.
 */
export function answers(called: string, typed: string): number {
  const text = called.toLowerCase();
  const wanted = typed.toLowerCase().trim();
  if (wanted === '') return 1;
  if (text.startsWith(wanted)) return 1;
  if (` ${text}`.includes(` ${wanted}`)) return 0.9;
  if (text.includes(wanted)) return 0.7;
  const words = wanted.split(/\s+/);
  const begins = new Set(text.split(/[^\p{L}\d]+/u));
  if (words.every((word) => [...begins].some((b) => b.startsWith(word)))) return 0.5;
  return words.every((word) => text.includes(word)) ? 0.3 : 0;
}

/** Something that can be found, and how well it answers. */
export interface Found<T> {
  readonly is: T;
  readonly score: number;
}

/** Those of a list that answer to what is typed, the best first and at most so many; all of them, as they stand, where nothing is typed. */
export function found<T>(list: readonly T[], called: (one: T) => string, typed: string, most: number): Found<T>[] {
  const all = list.map((one) => ({ is: one, score: answers(called(one), typed) }));
  if (typed.trim() === '') return all;
  return all
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, most);
}

/** What was found, under the words of its groups in the order of the best in each. */
export function grouped<T>(all: readonly Found<T>[], groupOf: (one: T) => string): [group: string, ones: T[]][] {
  const groups = new Map<string, T[]>();
  for (const { is } of all) groups.set(groupOf(is), [...(groups.get(groupOf(is)) ?? []), is]);
  return [...groups];
}

/** The frame somebody means with a number, as `37`, `frame 37` or `1.5 s`; null where it is none. */
export function frameTyped(typed: string, rate: number): number | null {
  const [, number, seconds] = /^(?:frame\s+)?(-?\d{1,6}(?:\.\d+)?)(\s*s)?$/.exec(typed.trim().toLowerCase()) ?? [];
  if (number === undefined) return null;
  return seconds ? Math.round(1 + Number(number) * rate) : Math.round(Number(number));
}
