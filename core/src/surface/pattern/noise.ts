/** Chance for patterns: numbers from 0 to 1 that hang on whole numbers alone, and noise that begins again at the edge of a tile. */

/** A number from 0 to 1 for a place of a grid (Jarzynski & Olano, "Hash Functions for GPU Rendering", JCGT 9, 2020: pcg). */
export function lot(x: number, y: number, seed: number): number {
  let state = (Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(seed, 0xcb1ab31f)) >>> 0;
  state = (Math.imul(state, 747796405) + 2891336453) >>> 0;
  const word = Math.imul((state >>> ((state >>> 28) + 4)) ^ state, 277803737) >>> 0;
  return (((word >>> 22) ^ word) >>> 0) / 4294967296;
}

/** A place on a tile of size one, from 0 to 1 each way, gives a number from 0 to 1. */
export type Noise = (u: number, v: number) => number;

/**
 * Smooth noise with so many waves across and down a tile; it begins again where the tile does. Its lots are drawn once.
 * @param across a whole number above 0 @param down a whole number above 0
 */
export function noise(across: number, down: number, seed: number): Noise {
  // One more each way, the first again.
  const width = across + 1;
  const lots = new Float64Array(width * (down + 1));
  for (let j = 0; j <= down; j++)
    for (let i = 0; i <= across; i++) lots[j * width + i] = lot(i % across, j % down, seed);
  return (u, v) => {
    const x = (u - Math.floor(u)) * across;
    const y = (v - Math.floor(v)) * down;
    const i = Math.min(Math.floor(x), across - 1);
    const j = Math.min(Math.floor(y), down - 1);
    const [s, t] = [eased(x - i), eased(y - j)];
    const at = j * width + i;
    const top = lots[at] + (lots[at + 1] - lots[at]) * s;
    const bottom = lots[at + width] + (lots[at + width + 1] - lots[at + width]) * s;
    return top + (bottom - top) * t;
  };
}

const eased = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** Noise of several sizes over one another, each twice as fine and half as strong. */
export function roughNoise(across: number, down: number, seed: number, layers = 4): Noise {
  const all = Array.from({ length: layers }, (_, layer) => noise(across << layer, down << layer, seed + layer));
  const whole = 2 - 2 ** (1 - layers);
  return (u, v) => {
    let [sum, strength] = [0, 1];
    for (let layer = 0; layer < layers; layer++) {
      sum += strength * all[layer](u, v);
      strength /= 2;
    }
    return sum / whole;
  };
}
