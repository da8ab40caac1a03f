import { describe, expect, test } from 'vitest';
import { chance } from '../schema/chance.ts';
import { findBeats, SAMPLE_RATE, synthesise } from './index.ts';

/** A sound of so many seconds with something at each of these times. */
function track(seconds: number, times: readonly number[], what: Float32Array, noise = 0): Float32Array {
  const hiss = chance(5);
  const out = Float32Array.from({ length: seconds * SAMPLE_RATE }, () => (hiss() * 2 - 1) * noise);
  for (const time of times) {
    const begin = Math.round(time * SAMPLE_RATE);
    for (let i = 0; i < what.length && begin + i < out.length; i++) out[begin + i] += what[i] * 0.7;
  }
  return out;
}
const every = (gap: number, seconds: number, first = 0.3) =>
  Array.from({ length: Math.floor((seconds - first) / gap) }, (_, i) => first + i * gap);

describe('beats', () => {
  test.each([72, 100, 128])('of %i a minute are found where they are, within two hundredths', (tempo) => {
    const times = every(60 / tempo, 12);
    const found = findBeats(track(12, times, synthesise('knock'), 0.02));
    for (const time of times.slice(1, -1)) expect(Math.min(...found.map((f) => Math.abs(f - time)))).toBeLessThan(0.02);
    expect(Math.abs(found.length - times.length)).toBeLessThanOrEqual(2);
  });

  test('go on through a beat that is left out', () => {
    const times = every(0.5, 10);
    const found = findBeats(track(10, times.toSpliced(8, 1), synthesise('knock')));
    expect(Math.min(...found.map((f) => Math.abs(f - times[8])))).toBeLessThan(0.04);
  });

  test('are none where nothing is heard, or too little', () => {
    expect(findBeats(new Float32Array(5 * SAMPLE_RATE))).toEqual([]);
    expect(findBeats(new Float32Array(100))).toEqual([]);
  });
});
