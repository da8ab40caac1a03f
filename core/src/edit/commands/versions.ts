import type { Curve, NumberCurve } from '../../curve/key.ts';
import { keyIndexAt, withKey } from '../../curve/reshape.ts';
import { valueAt } from '../../curve/sample.ts';
import { withSplit } from '../../curve/split.ts';
import { controlsOf } from '../../document/casting.ts';
import { splitPath } from '../../document/channels.ts';
import type { Shot, Span } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

/** What is brought back of a version: all of it, or the motion of some members, or of some frames. */
export interface BroughtBack {
  readonly version: Shot;
  /** What it is called. */
  readonly name: string;
  /** The members whose motion is brought back, with all their controls; null for the whole shot. */
  readonly members: readonly string[] | null;
  /** The frames on which it is; null for all. */
  readonly frames: Span | null;
}

/**
 * Brings back what a version had: one step, that can itself be taken back. Notes and suggestions are never brought back: what somebody has said
 * since stays said.
 */
export const bringBack = defineCommand<BroughtBack>({
  name: 'version.bringBack',
  label: ({ name, members, frames }, shot) => {
    const what = members === null ? '' : ` of ${memberWords(shot, members)}`;
    const when = frames === null ? '' : ` on frames ${frames.first} to ${frames.last}`;
    return `bring back ${name}${what}${when}`.slice(0, 400);
  },
  apply(shot, { version, members, frames }) {
    if (members === null && frames === null) return wholly(shot, version);
    const meant = members === null ? null : withControls(shot, version, members);
    const takes = (path: string) => meant === null || meant.has(splitPath(path).member);
    const there = (path: string) =>
      shot.members.has(splitPath(path).member) && version.members.has(splitPath(path).member);
    const curves = shot.curves.edit();
    const paths = new Set([...shot.curves.keys(), ...version.curves.keys()]);
    for (const path of paths) {
      if (!takes(path) || !there(path)) continue;
      const [now, then] = [shot.curves.get(path), version.curves.get(path)];
      const next = frames === null ? then : spliced(now, then, frames);
      if (next) curves.set(path, next);
      else curves.delete(path);
    }
    if (frames !== null) return { ...shot, curves: curves.done() };
    const kept = shot.members.edit();
    for (const id of meant ?? []) {
      const [now, then] = [shot.members.get(id), version.members.get(id)];
      if (now && then) kept.set(id, { ...now, values: then.values, orientation: then.orientation });
    }
    const loose = shot.loose.filter((_, path) => !takes(path));
    return { ...shot, curves: curves.done(), members: kept.done(), loose };
  },
});

function wholly(shot: Shot, version: Shot): Shot {
  const { id, name, notes, suggestions } = shot;
  // What was drawn for notes stays with them.
  const drawn = shot.strokes.filter((stroke) => notes.has(stroke.on));
  return {
    ...version,
    id,
    name,
    notes,
    suggestions,
    strokes: version.strokes.withAll(drawn.entries()),
    rigs: shot.rigs,
  };
}

/** Members with the controls of those that are rigs, now or then. @throws Refused where none of them was there */
function withControls(shot: Shot, version: Shot, members: readonly string[]): Set<string> {
  const meant = new Set(members);
  for (const of of [shot, version])
    for (const id of members) if (of.members.has(id)) for (const control of controlsOf(of, id)) meant.add(control.id);
  if (![...meant].some((id) => version.members.has(id)))
    throw new Refused('None of them was in the cast then: bring the whole version back, or branch it.');
  return meant;
}

/** A curve with what another has on some frames. At both ends of them it has a key, so that nothing beyond is drawn along. */
function spliced(now: Curve | undefined, then: Curve | undefined, { first, last }: Span): Curve | undefined {
  if (now?.type !== 'number' || then?.type !== 'number') return splicedTurns(now, then, { first, last });
  const inside = withHeld(withHeld(then, first), last).keys.filter((k) => k.frame >= first && k.frame <= last);
  const { keys } = withHeld(withHeld(now, first - 1), last + 1);
  return { ...now, keys: [...keys.filter((k) => k.frame < first), ...inside, ...keys.filter((k) => k.frame > last)] };
}

/** A curve with a key on a frame, which changes nothing; beyond its keys it is what it goes on as there. */
function withHeld(curve: NumberCurve, frame: number): NumberCurve {
  const split = withSplit(curve, frame);
  return keyIndexAt(split.keys, frame) >= 0 ? split : withKey(split, frame, valueAt(split, frame));
}

function splicedTurns(now: Curve | undefined, then: Curve | undefined, { first, last }: Span): Curve | undefined {
  if (now?.type !== 'orientation' || then?.type !== 'orientation') return now ?? then;
  const within = then.keys.filter((k) => k.frame >= first && k.frame <= last);
  const keys = now.keys.filter((k) => k.frame < first || k.frame > last);
  return { ...now, keys: [...keys.filter((k) => k.frame < first), ...within, ...keys.filter((k) => k.frame > last)] };
}
