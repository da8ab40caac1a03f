import type { UndoableEdit } from './edit.ts';
import type { History } from './history.ts';
import { difference, type Patch } from './patch.ts';

/**
 * Where edits of two people meet. A document is taken as places that one of them can have without asking the other: a curve, a constant
 * of a member, another of its parts, a record, a part of the shot itself. Edits of different places fit one another in any order; what
 * two have both changed, somebody must choose.
 */

/** The place a patch changes, as a pointer. */
export function placeOf({ path }: Patch): string {
  const [, first, second, third, fourth] = path.split('/');
  if (second === undefined) return path;
  if (first === 'watch') return `/watch/${second}${second === 'tolerances' && third !== undefined ? `/${third}` : ''}`;
  if (first !== 'members' || third === undefined) return `/${first}/${second}`;
  const isConstant = third === 'values' && fourth !== undefined;
  return `/members/${second}/${third}${isConstant ? `/${fourth}` : ''}`;
}

/** The places of some patches, and all that they are part of. */
class Places {
  readonly #places = new Set<string>();
  readonly #around = new Set<string>();

  constructor(patches: Iterable<Patch>) {
    for (const patch of patches) {
      const place = placeOf(patch);
      if (this.#places.has(place)) continue;
      this.#places.add(place);
      for (const whole of wholesOf(place)) this.#around.add(whole);
    }
  }

  /** Whether a place is one of these, part of one, or has one as a part. */
  meet(place: string): boolean {
    return this.#places.has(place) || this.#around.has(place) || wholesOf(place).some((w) => this.#places.has(w));
  }
}

/** What a place is part of: `/members/a/values` and `/members/a`, of `/members/a/values/move.x`. */
function wholesOf(place: string): string[] {
  const out: string[] = [];
  for (let at = place.lastIndexOf('/'); at > 0; at = place.lastIndexOf('/', at - 1)) out.push(place.slice(0, at));
  // The table a record is in is nobody's alone.
  return out.filter((whole) => whole.lastIndexOf('/') > 0);
}

/** The places at which some patches meet others. */
export function meetings(mine: Iterable<Patch>, theirs: Iterable<Patch>): string[] {
  const others = new Places(theirs);
  const met = new Set<string>();
  for (const patch of mine) {
    const place = placeOf(patch);
    if (others.meet(place)) met.add(place);
  }
  return [...met];
}

/** Patches without those that change any of some places. */
export function apartFrom(patches: readonly Patch[], places: readonly string[]): Patch[] {
  const kept = new Places(places.map((path): Patch => ({ op: 'remove', path })));
  return patches.filter((patch) => !kept.meet(placeOf(patch)));
}

/** What makes some places of a document what they are in another. */
export function takingOver(document: unknown, other: unknown, places: readonly string[]): Patch[] {
  const kept = new Places(places.map((path): Patch => ({ op: 'remove', path })));
  return difference(document, other).patches.filter((patch) => kept.meet(placeOf(patch)));
}

/**
 * What can still be taken back and done again after edits of others: all steps but those that meet them, and those that meet such a step.
 */
export function fitting({ past, future }: History, theirs: readonly Patch[]): History {
  const fit = (newestLast: readonly UndoableEdit[]): UndoableEdit[] => {
    const changed = [...theirs];
    const out: UndoableEdit[] = [];
    for (const edit of newestLast.toReversed()) {
      if (meetings(edit.patches, changed).length === 0) out.push(edit);
      else changed.push(...edit.patches);
    }
    return out.reverse();
  };
  return { past: fit(past), future: fit(future) };
}
