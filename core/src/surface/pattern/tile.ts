import type { PatternName } from '../../document/material.ts';
import { lightOf, paintOf } from '../../schema/srgb.ts';
import { patterns } from './patterns.ts';

/** How many points a tile has along one side, where it lies on forms. */
export const TILE = 512;

/** As many are kept ready; the one that was wanted longest ago goes first. */
const MOST_READY = 40;
const ready = new Map<string, Uint8Array>();

/**
 * The tile of a pattern as points, row by row from the top: of each how far it is from the first colour to the second and how much of its
 * light it keeps, from 0 to 255. Made once; not to be changed.
 * @param grain from 0 to 1 @param size how many points it has along one side
 */
export function patternTile(pattern: PatternName, grain: number, size = TILE): Uint8Array {
  const name = `${pattern} ${grain} ${size}`;
  const known = ready.get(name);
  const made = known ?? drawn(pattern, grain, size);
  ready.delete(name);
  ready.set(name, made);
  for (const oldest of ready.keys()) {
    if (ready.size <= MOST_READY) break;
    ready.delete(oldest);
  }
  return made;
}

function drawn(pattern: PatternName, grain: number, size: number): Uint8Array {
  const at = patterns[pattern](grain);
  const out = new Uint8Array(size * size * 2);
  const here = new Float64Array(2);
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      at((x + 0.5) / size, (y + 0.5) / size, here);
      out[(y * size + x) * 2] = Math.round(here[0] * 255);
      out[(y * size + x) * 2 + 1] = Math.round(here[1] * 255);
    }
  }
  return out;
}

/**
 * A tile in its two colours, as pictures have them: four numbers a point, red, green, blue and 255. Colours are mixed as light is.
 * @param first from 0 to 1, as paints say it (sRGB) @param second the same
 */
export function paintedTile(tile: Uint8Array, first: ArrayLike<number>, second: ArrayLike<number>): Uint8Array {
  const out = new Uint8Array((tile.length / 2) * 4);
  for (let c = 0; c < 3; c++) {
    const [a, b] = [lightOf(first[c]), lightOf(second[c])];
    for (let p = 0; p < tile.length / 2; p++) {
      const mix = tile[p * 2] / 255;
      out[p * 4 + c] = Math.round(255 * paintOf((a + (b - a) * mix) * (tile[p * 2 + 1] / 255)));
    }
  }
  for (let p = 3; p < out.length; p += 4) out[p] = 255;
  return out;
}
