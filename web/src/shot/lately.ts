import { difference, type Patch, type Shot } from '@varrup/core';

/** What edits have changed lately, so that whoever follows a document need not walk through it once more. */

interface Way {
  readonly before: Shot;
  readonly patches: readonly Patch[];
}

const ways = new WeakMap<Shot, Way>();

/** Further back than this a difference is found anew rather than put together. */
const FAR = 64;

/** Notes what an edit, or its undoing, has done. */
export function noteWay(before: Shot, after: Shot, patches: readonly Patch[]): void {
  ways.set(after, { before, patches });
}

/** The patches that lead from one version of a document to another: those of the edits between them where they are known. */
export function patchesBetween(before: Shot, after: Shot): readonly Patch[] {
  const steps: (readonly Patch[])[] = [];
  for (let at = after; steps.length <= FAR; ) {
    if (at === before) return steps.length === 1 ? steps[0] : steps.reverse().flat();
    const way = ways.get(at);
    if (!way) break;
    steps.push(way.patches);
    at = way.before;
  }
  return difference(before, after).patches;
}
