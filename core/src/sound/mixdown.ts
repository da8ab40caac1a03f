import type { Shot } from '../document/shot.ts';
import { heardPart, type PlacedSound, type SoundSource } from '../document/sound.ts';
import { SAMPLE_RATE, synthesise } from './synthesise.ts';

/** The samples of sounds that were brought in, by hash: one channel at {@link SAMPLE_RATE}. */
export type Recordings = ReadonlyMap<string, Float32Array>;

/** A sound's samples; none where it was brought in and is not at hand. Not to be changed. */
export const samplesOf = (sound: SoundSource, recordings: Recordings): Float32Array =>
  typeof sound === 'string' ? synthesise(sound) : (recordings.get(sound.media) ?? SILENCE);

const SILENCE = new Float32Array(0);

/** Seconds a sound lasts. */
export const soundLength = (sound: SoundSource): number =>
  typeof sound === 'string' ? synthesise(sound).length / SAMPLE_RATE : sound.seconds;

/** Seconds of a placed sound that are heard. */
export function heardSeconds(placed: Pick<PlacedSound, 'sound' | 'part'>): number {
  const { from, until } = heardPart(placed, soundLength(placed.sound));
  return until - from;
}

/** How loud a placed sound is at a second of it, while it comes and goes too. */
export function gainAt(
  { gain, fade }: Pick<PlacedSound, 'gain' | 'fade'>,
  { from, until }: { readonly from: number; readonly until: number },
  seconds: number,
): number {
  if (!fade) return gain;
  const came = fade.in > 0 ? Math.min(1, (seconds - from) / fade.in) : 1;
  const goes = fade.out > 0 ? Math.min(1, (until - seconds) / fade.out) : 1;
  return gain * Math.max(0, came) * Math.max(0, goes);
}

/**
 * All of a shot's sounds from one frame up to another, mixed: one channel of samples, from -1 to 1. What would be louder is bent
 * softly below 1 instead of being cut.
 * @param speed how fast it is played: at a half everything comes half as fast, at its own pitch
 */
export function mixdown(
  shot: Shot,
  first: number,
  until: number,
  recordings: Recordings = new Map(),
  speed = 1,
): Float32Array {
  const perFrame = SAMPLE_RATE / (shot.rate * speed);
  const out = new Float32Array(Math.max(0, Math.round((until - first) * perFrame)));
  for (const placed of shot.sounds.values()) {
    const samples = samplesOf(placed.sound, recordings);
    const heard = heardPart(placed, samples.length / SAMPLE_RATE);
    // The sample that is heard on the sound's frame, and where that comes in the mix.
    const start = Math.round(heard.from * SAMPLE_RATE);
    const begin = Math.round((placed.frame - first) * perFrame) - start;
    const from = Math.max(start, -begin);
    const to = Math.min(Math.round(heard.until * SAMPLE_RATE), out.length - begin);
    for (let i = from; i < to; i++) out[begin + i] += samples[i] * gainAt(placed, heard, i / SAMPLE_RATE);
  }
  for (let i = 0; i < out.length; i++) if (Math.abs(out[i]) > KNEE) out[i] = Math.sign(out[i]) * bent(Math.abs(out[i]));
  return out;
}

/** What is quieter than this is left as it is. */
const KNEE = 0.8;
const bent = (v: number) => KNEE + (1 - KNEE) * Math.tanh((v - KNEE) / (1 - KNEE));

/** The loudest sample of each of some equal parts, for drawing. */
export function loudness(samples: Float32Array, parts: number): Float32Array {
  const out = new Float32Array(parts);
  for (let p = 0; p < parts; p++) {
    const [from, to] = [Math.floor((p * samples.length) / parts), Math.floor(((p + 1) * samples.length) / parts)];
    for (let i = from; i < to; i++) out[p] = Math.max(out[p], Math.abs(samples[i]));
  }
  return out;
}

const beats = new WeakMap<Shot['sounds'], Map<number, readonly number[]>>();
const NONE: readonly number[] = [];

/** The whole frames nearest to the beats of a shot's sounds, in order; those that are heard. The same list as long as the sounds are the same. */
export function beatFrames({ sounds, rate }: Pick<Shot, 'sounds' | 'rate'>): readonly number[] {
  if (sounds.size === 0) return NONE;
  const known = beats.get(sounds) ?? new Map<number, readonly number[]>();
  beats.set(sounds, known);
  const there = known.get(rate);
  if (there) return there;
  const frames = sounds.values().flatMap((placed) => {
    const { from, until } = heardPart(placed, soundLength(placed.sound));
    const heard = placed.beats?.filter((beat) => beat >= from && beat < until) ?? [];
    return heard.map((beat) => Math.round(placed.frame + (beat - from) * rate));
  });
  const list = [...new Set(frames)].sort((a, b) => a - b);
  known.set(rate, list);
  return list;
}
