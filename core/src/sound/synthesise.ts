import type { SoundName } from '../document/sound.ts';
import { chance } from '../schema/chance.ts';

/** The sounds that come with Varrup, computed: one channel, from -1 to 1, the same every time. */

/** Samples a second. */
export const SAMPLE_RATE = 48_000;

const makers: Record<SoundName, () => Float32Array> = { thud, knock, creak, splash };
const made = new Map<SoundName, Float32Array>();

/** A sound's samples. Made once; not to be changed. */
export function synthesise(name: SoundName): Float32Array {
  const known = made.get(name) ?? loud(makers[name]());
  made.set(name, known);
  return known;
}

const seconds = (s: number) => new Float32Array(Math.round(s * SAMPLE_RATE));

/** Brings the loudest sample to nine tenths, and lets both ends go to nothing. */
function loud(samples: Float32Array): Float32Array {
  const most = samples.reduce((m, v) => Math.max(m, Math.abs(v)), 1e-9);
  const fade = Math.min(480, samples.length >> 2);
  return samples.map((v, i) => {
    const end = Math.min(1, (samples.length - 1 - i) / fade);
    const start = Math.min(1, i / 24);
    return (v / most) * 0.9 * end * start;
  });
}

/** Something heavy and soft on something hard: a falling low tone under a dull burst. */
function thud(): Float32Array {
  const out = seconds(0.5);
  const noise = chance(11);
  let phase = 0;
  let dull = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / SAMPLE_RATE;
    phase += (2 * Math.PI * (46 + 70 * Math.exp(-t * 28))) / SAMPLE_RATE;
    dull += (noise() * 2 - 1 - dull) * 0.045;
    out[i] = Math.sin(phase) * Math.exp(-t * 9) + 1.6 * dull * Math.exp(-t * 34);
  }
  return out;
}

/** Wood on wood or cork on stone: a few tones that die at once. */
function knock(): Float32Array {
  const out = seconds(0.22);
  const noise = chance(23);
  const tones = [
    { hertz: 410, loud: 1, dies: 38 },
    { hertz: 873, loud: 0.55, dies: 52 },
    { hertz: 1490, loud: 0.3, dies: 80 },
  ];
  for (let i = 0; i < out.length; i++) {
    const t = i / SAMPLE_RATE;
    let v = 0.5 * (noise() * 2 - 1) * Math.exp(-t * 420);
    for (const { hertz, loud: l, dies } of tones) v += l * Math.sin(2 * Math.PI * hertz * t) * Math.exp(-t * dies);
    out[i] = v;
  }
  return out;
}

/** A rope or a plank under load: it sticks and slips, faster and slower, in a hollow body. */
function creak(): Float32Array {
  const out = seconds(0.9);
  const random = chance(37);
  const body = [resonance(620, 0.995), resonance(1130, 0.993), resonance(1870, 0.99)];
  let next = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / SAMPLE_RATE;
    let slip = 0;
    if (i >= next) {
      slip = 0.6 + 0.4 * random();
      const rate = 34 + 46 * Math.sin(Math.PI * (t / 0.9)) ** 2 + 9 * random();
      next = i + SAMPLE_RATE / rate;
    }
    const swell = Math.sin(Math.PI * Math.min(1, t / 0.9)) ** 0.7;
    out[i] = swell * body.reduce((sum, ring, k) => sum + ring(slip) / (k + 1), 0);
  }
  return out;
}

/** Into the water: a rush that opens and dies, and drops after it. */
function splash(): Float32Array {
  const out = seconds(1.1);
  const random = chance(53);
  let [low, high] = [0, 0];
  for (let i = 0; i < out.length; i++) {
    const t = i / SAMPLE_RATE;
    const open = 0.05 + 0.32 * Math.exp(-t * 5);
    low += (random() * 2 - 1 - low) * open;
    high += (low - high) * 0.03;
    out[i] = (low - high) * Math.min(1, t * 60) * Math.exp(-t * 4.2);
  }
  for (let drop = 0; drop < 9; drop++) {
    const from = Math.round((0.16 + 0.75 * random()) * SAMPLE_RATE);
    const [hertz, strength] = [700 + 1500 * random(), 0.1 + 0.16 * random()];
    for (let i = 0; i < 2400 && from + i < out.length; i++) {
      const t = i / SAMPLE_RATE;
      out[from + i] += strength * Math.sin(2 * Math.PI * (hertz + 9000 * t) * t) * Math.exp(-t * 90);
    }
  }
  return out;
}

/** A body that rings at a pitch when it is struck: a filter with two poles. */
function resonance(hertz: number, holds: number): (struck: number) => number {
  const turn = 2 * holds * Math.cos((2 * Math.PI * hertz) / SAMPLE_RATE);
  let [a, b] = [0, 0];
  return (struck) => {
    const now = struck + turn * a - holds * holds * b;
    b = a;
    a = now;
    return now;
  };
}
