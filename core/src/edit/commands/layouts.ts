import { withDescendants } from '../../document/hierarchy.ts';
import type { Shot } from '../../document/shot.ts';
import { chance } from '../../schema/chance.ts';
import { newId } from '../../schema/ids.ts';
import { type PlacedCopy, withoutControls } from './members.ts';

/** Where copies stand: in a row or a grid, round a middle, or strewn. */

/** Where a copy stands. */
type Place = Omit<PlacedCopy, 'ids'>;

/** Copies at places. Who is copied is looked up once, so that the hundredth copy costs what it has in it. */
function copiesAt(shot: Shot, ids: readonly string[], places: readonly Place[]): PlacedCopy[] {
  const copied = [...withDescendants(shot, withoutControls(shot, ids))];
  return places.map((place) => ({ ...place, ids: Object.fromEntries(copied.map((id) => [id, newId()])) }));
}

/** Copies for a grid of so many members along each axis, so far apart; the original stands in its first corner. */
export function gridOf(
  shot: Shot,
  ids: readonly string[],
  counts: readonly [number, number, number],
  steps: readonly [number, number, number],
): PlacedCopy[] {
  const places: Place[] = [];
  for (let z = 0; z < counts[2]; z++) {
    for (let y = 0; y < counts[1]; y++) {
      for (let x = 0; x < counts[0]; x++) {
        if (x + y + z === 0) continue;
        places.push({ offset: [x * steps[0], y * steps[1], z * steps[2]], turn: 0 });
      }
    }
  }
  return copiesAt(shot, ids, places);
}

/**
 * Copies for a ring of so many, the original among them: its middle lies behind the original, away from whoever looks along -Z.
 * @param count with the original, at least 2 @param radius metres @param turned whether each is turned with the ring
 */
export function ringOf(
  shot: Shot,
  ids: readonly string[],
  { count, radius, turned }: { readonly count: number; readonly radius: number; readonly turned: boolean },
): PlacedCopy[] {
  const places = Array.from({ length: count - 1 }, (_, i): Place => {
    const angle = ((i + 1) * 2 * Math.PI) / count;
    const offset = [radius * Math.sin(angle), 0, radius * (Math.cos(angle) - 1)] as const;
    return { offset, turn: turned ? angle : 0 };
  });
  return copiesAt(shot, ids, places);
}

/** One copy that is the mirror image, across the middle of its parent's space. */
export const mirrorCopy = (shot: Shot, ids: readonly string[], mirror: 'x' | 'z'): PlacedCopy[] =>
  copiesAt(shot, ids, [{ offset: [0, 0, 0], turn: 0, mirror }]);

export interface Strewing {
  readonly count: number;
  /** How far from the original at most, metres. */
  readonly radius: number;
  /** How far from one another at least, metres. */
  readonly apart: number;
  /** Whether each is turned by chance. */
  readonly turned: boolean;
  /** Another number, another place for each; the same one, the same. */
  readonly seed: number;
}

/** So often a place is looked for before it is given up. */
const TRIES = 200;

/** Copies strewn about the original, at {@link strewnPlaces}. */
export const strewn = (shot: Shot, ids: readonly string[], how: Strewing): PlacedCopy[] =>
  copiesAt(shot, ids, strewnPlaces(how));

/**
 * Places about a middle, none nearer to another than wanted (dart throwing: Cook, "Stochastic Sampling in Computer Graphics",
 * ACM TOG 5, 1986). Fewer than wanted where there is no room for more.
 */
export function strewnPlaces({ count, radius, apart, turned, seed }: Strewing): Place[] {
  const lots = chance(seed);
  const taken: (readonly [number, number])[] = [[0, 0]];
  const places: Place[] = [];
  for (let missed = 0; places.length < count && missed < TRIES; ) {
    const [angle, out, turn] = [2 * Math.PI * lots(), radius * Math.sqrt(lots()), 2 * Math.PI * lots()];
    const [x, z] = [out * Math.cos(angle), out * Math.sin(angle)];
    if (taken.some(([a, b]) => Math.hypot(x - a, z - b) < apart)) {
      missed++;
      continue;
    }
    missed = 0;
    taken.push([x, z]);
    places.push({ offset: [x, 0, z], turn: turned ? turn : 0 });
  }
  return places;
}
