import { describe, expect, test } from 'vitest';
import { emptyShot, type PlacedSound, type Shot, soundNames } from '../document/index.ts';
import { addSounds, changeSound, removeSounds } from '../edit/index.ts';
import { mediaKindOf } from '../media/index.ts';
import { beatFrames, loudness, mixdown, SAMPLE_RATE, soundLength, synthesise, writeWav } from './index.ts';

const sound = (id: string, frame: number, gain = 1): PlacedSound => ({ id, name: id, sound: 'knock', frame, gain });
const withSounds = (...sounds: PlacedSound[]): Shot => addSounds.apply(emptyShot('s', 'S'), { sounds });
const loudest = (samples: Float32Array) => samples.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

describe('the sounds that come with it', () => {
  test.each(soundNames)('%s is heard at once, never clips, ends in silence and does not hum on a level', (name) => {
    const samples = synthesise(name);
    expect(loudest(samples)).toBeLessThanOrEqual(0.9001);
    expect(loudest(samples)).toBeGreaterThan(0.85);
    expect(Math.abs(samples.at(-1)!)).toBeLessThan(1e-3);
    expect(loudest(samples.subarray(0, SAMPLE_RATE / 6))).toBeGreaterThan(0.1);
    expect(Math.abs(samples.reduce((s, v) => s + v, 0) / samples.length)).toBeLessThan(0.02);
    expect(soundLength(name)).toBeLessThan(1.5);
  });

  test('are four, none like another', () => {
    const pitch = (samples: Float32Array) =>
      samples.reduce((n, v, i) => n + (i > 0 && v * samples[i - 1] < 0 ? 1 : 0), 0) / samples.length;
    const pitches = soundNames.map((n) => pitch(synthesise(n))).sort((a, b) => a - b);
    for (let i = 1; i < pitches.length; i++) expect(pitches[i] / pitches[i - 1]).toBeGreaterThan(1.15);
  });
});

describe('a mix', () => {
  test('has each sound begin on its frame, to the sample', () => {
    const mix = mixdown(withSounds(sound('a', 13)), 1, 49);
    const begin = Math.round((12 / 24) * SAMPLE_RATE);
    expect(loudest(mix.subarray(0, begin))).toBe(0);
    expect(mix[begin + 200]).toBeCloseTo(synthesise('knock')[200], 6);
    expect(mix.length).toBe(2 * SAMPLE_RATE);
  });

  test('begins in the middle of a sound that has begun before', () => {
    const mix = mixdown(withSounds(sound('a', 1)), 3, 10);
    const gone = Math.round((2 / 24) * SAMPLE_RATE);
    expect(mix[50]).toBeCloseTo(synthesise('knock')[gone + 50], 6);
  });

  test('of many loud sounds stays below 1', () => {
    const many = Array.from({ length: 30 }, (_, i) => sound(`s${i}`, 5 + i * 0.02, 4));
    expect(loudest(mixdown(withSounds(...many), 1, 25))).toBeLessThanOrEqual(1);
  });

  test('follows how loud a sound is, and where it is moved to', () => {
    const quiet = changeSound.apply(withSounds(sound('a', 5)), { id: 'a', change: { gain: 0.25, frame: 9 } });
    expect(loudest(mixdown(quiet, 1, 9))).toBe(0);
    expect(loudest(mixdown(quiet, 9, 20))).toBeCloseTo(loudest(synthesise('knock')) / 4, 6);
    expect(removeSounds.apply(quiet, { ids: ['a'] }).sounds.toJSON()).toEqual({});
  });

  test('is drawn by the loudest sample of each part', () => {
    const parts = loudness(Float32Array.of(0, 0.5, -0.9, 0.1, 0, 0), 3);
    expect([...parts].map((v) => Math.round(v * 10) / 10)).toEqual([0.5, 0.9, 0]);
  });

  test('holds a sound that was brought in where it is at hand; elsewhere it is silent', () => {
    const media = 'a'.repeat(64);
    const brought = { ...sound('a', 13), sound: { media, seconds: 0.5 } };
    const tone = Float32Array.from({ length: SAMPLE_RATE / 2 }, (_, i) => 0.4 * Math.sin(i / 20));
    const mix = mixdown(withSounds(brought), 1, 49, new Map([[media, tone]]));
    const begin = Math.round((12 / 24) * SAMPLE_RATE);
    expect(loudest(mix.subarray(0, begin))).toBe(0);
    expect(mix.slice(begin, begin + tone.length)).toEqual(tone);
    expect(loudest(mix.subarray(begin + tone.length))).toBe(0);
    expect(loudest(mixdown(withSounds(brought), 1, 49))).toBe(0);
    expect(soundLength(brought.sound)).toBe(0.5);
  });

  test('hears only the part of a sound that is wanted, from its frame on', () => {
    const whole = mixdown(withSounds(sound('a', 13)), 1, 49);
    const part = mixdown(withSounds({ ...sound('a', 13), part: { from: 0.05, until: 0.1 } }), 1, 49);
    const begin = Math.round((12 / 24) * SAMPLE_RATE);
    const cut = Math.round(0.05 * SAMPLE_RATE);
    expect(part.subarray(begin, begin + 100)).toEqual(whole.subarray(begin + cut, begin + cut + 100));
    expect(loudest(part.subarray(begin + cut + 1))).toBe(0);
    expect(loudest(part.subarray(0, begin))).toBe(0);
  });

  test('lets a sound come and go as slowly as asked', () => {
    const media = 'b'.repeat(64);
    const even = new Float32Array(SAMPLE_RATE).fill(0.5);
    const faded = { ...sound('a', 1), sound: { media, seconds: 1 }, fade: { in: 0.5, out: 0.25 } };
    const mix = mixdown(withSounds(faded), 1, 25, new Map([[media, even]]));
    const at = (seconds: number) => mix[Math.round(seconds * SAMPLE_RATE)];
    expect([at(0), at(0.25), at(0.5), at(0.7), at(0.875)]).toEqual(
      [0, 0.25, 0.5, 0.5, 0.25].map((v) => expect.closeTo(v, 3)),
    );
  });

  test('has its beats on the frames nearest to them, where they are heard', () => {
    const media = 'c'.repeat(64);
    const song = {
      ...sound('a', 13),
      sound: { media, seconds: 4 },
      beats: [0.2, 1, 1.51, 3],
      part: { from: 0.5, until: 2 },
    };
    expect(beatFrames(withSounds(song, sound('b', 1)))).toEqual([25, 37]);
    expect(beatFrames(withSounds())).toEqual([]);
  });

  test('is written as a WAV of 16 bits, cut where it is too loud', () => {
    const bytes = writeWav(Float32Array.of(0, 0.5, -0.5, 2), 48_000);
    const view = new DataView(bytes.buffer);
    expect(mediaKindOf(bytes)).toBe('wav');
    expect(view.getUint32(4, true)).toBe(bytes.length - 8);
    expect([view.getUint16(22, true), view.getUint32(24, true), view.getUint16(34, true)]).toEqual([1, 48_000, 16]);
    expect([0, 1, 2, 3].map((i) => view.getInt16(44 + i * 2, true))).toEqual([0, 16_384, -16_383, 32_767]);
  });
});
