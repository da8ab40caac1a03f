import type { Shot } from '../document/shot.ts';
import { spansMoving } from '../track/says.ts';
import type { Check, Draft, Finding } from './check.ts';
import { checks } from './checks.ts';
import { Watched } from './watched.ts';

/** The most findings of one check that are listed: with more, something is wrong with the check's tolerance. */
export const MOST_FINDINGS = 200;
/** How near to the frame of an ignored finding another is taken for the same. */
const SAME_PLACE = 2;

/** What a check takes for all right in a shot, in its unit. */
export const toleranceOf = (shot: Shot, check: Check): number =>
  (Object.hasOwn(shot.watch.tolerances, check.id) ? shot.watch.tolerances[check.id] : check.tolerance) ?? 0;

/**
 * Looks a shot through with every check. Yields often, so that the caller can do something else in between, or give up.
 * @returns the findings, in the order of the checks and then of frames; those to be ignored are left out
 */
export function* lookThrough(shot: Shot): Generator<null, Finding[]> {
  const watched = new Watched(shot);
  yield* watched.look();
  const findings: Finding[] = [];
  for (const check of checks) {
    const tolerance = toleranceOf(shot, check);
    const own: Finding[] = [];
    for (const draft of check.look(watched, tolerance)) {
      if (draft === null) yield null;
      else if (own.length < MOST_FINDINGS && !isIgnored(shot, check.id, draft))
        own.push(found(shot, check, draft, tolerance));
    }
    own.sort((a, b) => (a.frame ?? 0) - (b.frame ?? 0));
    findings.push(...own);
  }
  return findings;
}

/** The same, at once. */
export function findingsOf(shot: Shot): Finding[] {
  const steps = lookThrough(shot);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

function found(shot: Shot, check: Check, draft: Draft, tolerance: number): Finding {
  // What tracks give is mended in their clips: there are no keys of the channel's own to do it with.
  const isOwn = draft.path !== undefined && shot.curves.has(draft.path);
  const clips = isOwn || draft.frame === null ? null : spansMoving(shot, draft.member, draft.frame);
  return {
    id: `${check.id} ${draft.member} ${draft.frame ?? ''} ${draft.path ?? ''}`,
    check: check.id,
    member: draft.member,
    path: draft.path ?? null,
    frame: draft.frame,
    until: draft.until ?? null,
    value: draft.value,
    tolerance,
    text: clips ? `${draft.text} It is in ${clips}.` : draft.text,
    fixable: check.fix !== undefined && !draft.unfixable && clips === null,
  };
}

const isIgnored = (shot: Shot, check: string, draft: Draft): boolean =>
  shot.watch.ignored.some(
    (i) =>
      i.check === check &&
      i.member === draft.member &&
      (i.frame === null || draft.frame === null
        ? i.frame === draft.frame
        : Math.abs(i.frame - draft.frame) <= SAME_PLACE),
  );
