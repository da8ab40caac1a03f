import { encode } from 'fast-png';
import type { Cover } from '../../document/material.ts';
import { colourNumbers } from '../../schema/numbers.ts';
import { paintedTile, patternTile, TILE } from '../../surface/index.ts';

/** As many are kept ready; the one that was wanted longest ago goes first. */
const MOST_READY = 24;
const ready = new Map<string, Uint8Array>();

/** A pattern in its two colours as a PNG. Made once for those who want it soon again; not to be changed. */
export function patternPicture(
  { pattern, grain, second }: Extract<Cover, { is: 'pattern' }>,
  colour: string,
): Uint8Array {
  const name = `${pattern} ${grain} ${colour} ${second}`;
  const known = ready.get(name);
  const made = known ?? drawn(paintedTile(patternTile(pattern, grain), colourNumbers(colour), colourNumbers(second)));
  ready.delete(name);
  ready.set(name, made);
  for (const oldest of ready.keys()) {
    if (ready.size <= MOST_READY) break;
    ready.delete(oldest);
  }
  return made;
}

const drawn = (data: Uint8Array): Uint8Array => encode({ width: TILE, height: TILE, data, channels: 4, depth: 8 });
