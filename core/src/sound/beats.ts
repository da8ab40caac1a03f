import { SAMPLE_RATE } from './synthesise.ts';

/**
 * Finds the beats of a sound: where it gets louder at once, in several bands of pitch; how far apart those places mostly are; and the row of
 * beats, about so far apart, that lies on as much of that as it can (Ellis 2007, *Beat tracking by dynamic programming*).
 */

/** Looks a second. */
const LOOKS = 100;
/** Beats a minute that are looked for, and those that are likeliest where several would do. */
const TEMPO = { least: 50, most: 200, likely: 110 };
/** How dearly an uneven beat is paid for. */
const EVEN = 100;

/** The frequencies between bands, in hertz: drum, voice, strings, hiss. */
const EDGES = [180, 900, 3_500];

/**
 * @param samples one channel at {@link SAMPLE_RATE}
 * @returns seconds, in order; none where nothing ever gets louder
 */
export function findBeats(samples: Float32Array): number[] {
  const onsets = onsetStrength(samples);
  if (onsets.length < LOOKS || !onsets.some((v) => v > 0)) return [];
  const period = likelyPeriod(onsets);
  return period === null ? [] : beatsThrough(onsets, period).map((i) => i / LOOKS);
}

/** How much louder it gets, look by look, in all bands together: its average is none, its spread one. */
function onsetStrength(samples: Float32Array): Float32Array {
  const hop = SAMPLE_RATE / LOOKS;
  const out = new Float32Array(Math.floor(samples.length / hop));
  const keep = EDGES.map((hertz) => 1 - Math.exp((-2 * Math.PI * hertz) / SAMPLE_RATE));
  const low = new Float64Array(EDGES.length);
  const last = new Float64Array(EDGES.length + 1).fill(Number.NEGATIVE_INFINITY);
  for (let look = 0; look < out.length; look++) {
    const energy = new Float64Array(EDGES.length + 1);
    for (let i = look * hop; i < (look + 1) * hop; i++) {
      let under = 0;
      for (let b = 0; b < EDGES.length; b++) {
        low[b] += (samples[i] - low[b]) * keep[b];
        energy[b] += (low[b] - under) ** 2;
        under = low[b];
      }
      energy[EDGES.length] += (samples[i] - under) ** 2;
    }
    for (let b = 0; b < energy.length; b++) {
      const loud = Math.log(energy[b] / hop + 1e-6);
      if (look > 0) out[look] += Math.max(0, loud - last[b]);
      last[b] = loud;
    }
  }
  return levelled(out);
}

/** Smoothed over three looks, its average over half a second taken off, what is left of it above none and of spread one. */
function levelled(raw: Float32Array): Float32Array {
  const out = raw.map((v, i) => 0.25 * (raw[i - 1] ?? 0) + 0.5 * v + 0.25 * (raw[i + 1] ?? 0));
  const half = LOOKS / 4;
  const about = out.map((_, i) => {
    const part = out.subarray(Math.max(0, i - half), i + half + 1);
    return part.reduce((sum, v) => sum + v, 0) / part.length;
  });
  let squares = 0;
  for (let i = 0; i < out.length; i++) {
    out[i] = Math.max(0, out[i] - about[i]);
    squares += out[i] ** 2;
  }
  const spread = Math.sqrt(squares / Math.max(1, out.length));
  return spread > 1e-9 ? out.map((v) => v / spread) : out.fill(0);
}

/** Looks from beat to beat: where the onsets agree best with themselves moved by so much, the likely tempo weighed in. */
function likelyPeriod(onsets: Float32Array): number | null {
  let [best, period] = [0, null as number | null];
  for (let lag = Math.round((60 / TEMPO.most) * LOOKS); lag <= (60 / TEMPO.least) * LOOKS; lag++) {
    let agree = 0;
    for (let i = lag; i < onsets.length; i++) agree += onsets[i] * onsets[i - lag];
    const octaves = Math.log2(((60 / lag) * LOOKS) / TEMPO.likely);
    const weight = Math.exp(-0.5 * (octaves / 0.9) ** 2);
    const score = (agree / Math.max(1, onsets.length - lag)) * weight;
    if (score > best) [best, period] = [score, lag];
  }
  return period;
}

/** The row of beats that collects most, its gaps paid for by how far they are from the period. */
function beatsThrough(onsets: Float32Array, period: number): number[] {
  const best = Float64Array.from(onsets);
  const from = new Int32Array(onsets.length).fill(-1);
  for (let i = 0; i < onsets.length; i++) {
    let most = 0;
    for (let j = Math.max(0, i - 2 * period); j <= i - Math.round(period / 2); j++) {
      const score = best[j] - EVEN * Math.log((i - j) / period) ** 2;
      if (score > most) [most, from[i]] = [score, j];
    }
    best[i] += most;
  }
  let at = best.length - 1;
  for (let i = Math.max(0, best.length - 2 * period); i < best.length; i++) if (best[i] > best[at]) at = i;
  const out: number[] = [];
  for (; at >= 0; at = from[at]) out.push(at);
  return out.reverse();
}
