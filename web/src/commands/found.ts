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

/** The frame somebody means with a number, as `37`, `frame 37` or `1.5 s`; null where it is none. */
export function frameTyped(typed: string, rate: number): number | null {
  const [, number, seconds] = /^(?:frame\s+)?(-?\d{1,6}(?:\.\d+)?)(\s*s)?$/.exec(typed.trim().toLowerCase()) ?? [];
  if (number === undefined) return null;
  return seconds ? Math.round(1 + Number(number) * rate) : Math.round(Number(number));
}
