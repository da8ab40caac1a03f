import type { Curve } from '../curve/key.ts';
import { controlsOf } from '../document/casting.ts';
import { splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import type { ClipTrack } from '../document/track.ts';
import { clipAtWorkOf } from './at-work.ts';
import { Arrangement, type Given } from './compiled.ts';
import { type Played, playedOf } from './played.ts';

export type { Given } from './compiled.ts';

/** The layers of a rig from the lowest up: tracks that are heard, each with its spans as they play. */
export function layersOf(shot: Shot, rig: string): Played[] {
  const tracks = tracksOf(shot, rig);
  const alone = tracks.some((t) => t.alone);
  const heard = tracks.filter((t) => !t.muted && (!alone || t.alone));
  const feet = footControls(shot, rig);
  const hasBody = ({ travel, kept }: Clip) =>
    feet.length === 0 ||
    travel !== 0 ||
    Object.keys(kept?.curves ?? {}).some((p) => feet.includes(splitPath(p).member));
  return heard.flatMap((track) => playedOf(track, shot.clips, hasBody)).filter(({ span }) => span.strength > 0);
}

/** The controls of a rig that are its feet. */
function footControls(shot: Shot, rig: string): string[] {
  const member = shot.members.get(rig);
  const found = member?.kind === 'rig' ? shot.rigs.find(member.shape) : undefined;
  const names = new Set(found?.rig.feet.map((foot) => foot.control));
  return controlsOf(shot, rig)
    .filter((c) => names.has(c.shape.control))
    .map((c) => c.id);
}

/** The tracks of a rig, the lowest first. */
export const tracksOf = (shot: Pick<Shot, 'tracks'>, rig: string): ClipTrack[] =>
  shot.tracks
    .values()
    .filter((t) => t.rig === rig)
    .sort((a, b) => a.rank - b.rank || a.id.localeCompare(b.id));

/** For which rigs' own keys are not heard, found once for each version of the tracks. */
const silent = new WeakMap<Shot['tracks'], ReadonlySet<string>>();

/** The rigs whose own keys are silent: by themselves, or since only tracks that are alone are heard. While a clip is at work the keys are its. */
export function silentRigs({ tracks }: Pick<Shot, 'tracks'>): ReadonlySet<string> {
  const known = silent.get(tracks);
  if (known) return known;
  const made = new Set<string>();
  for (const rig of riggedByTracks({ tracks })) {
    const own = tracks.values().filter((t) => t.rig === rig);
    const alone = own.some((t) => t.alone);
    const keys = own.find((t) => t.own);
    if (keys?.muted || (alone && !keys?.alone)) made.add(rig);
  }
  silent.set(tracks, made);
  return made;
}

/** Whether the keys that a channel has are not heard. */
export function isSilenced(shot: Shot, path: string): boolean {
  if (shot.tracks.size === 0) return false;
  const member = shot.members.get(splitPath(path).member);
  const rig = member?.kind === 'control' ? member.parent : null;
  return rig !== null && silentRigs(shot).has(rig) && !clipAtWorkOf(shot, rig);
}

/** What was found last for a rig's lowest track, and what it was found from. */
interface Found {
  readonly of: readonly unknown[];
  readonly given: Given | null;
}
const bySituation = new WeakMap<ClipTrack, Found>();
const byShot = new WeakMap<Shot, Map<string, Given | null>>();

/**
 * What the tracks of a rig give; null where it has none that play, or while one of its clips is at work. It is worked out anew only where a track
 * or clip of this rig, or a constant of its controls, is another one.
 */
export function givenBy(shot: Shot, rig: string): Given | null {
  if (shot.tracks.size === 0) return null;
  const own = byShot.get(shot) ?? new Map<string, Given | null>();
  byShot.set(shot, own);
  let given = own.get(rig);
  if (given === undefined) {
    given = makeGiven(shot, rig);
    own.set(rig, given);
  }
  return given;
}

/** The curve that the tracks of its rig give a control's channel, where they do. */
export function givenCurve(shot: Shot, path: string): Curve | undefined {
  if (shot.tracks.size === 0) return undefined;
  const member = shot.members.get(splitPath(path).member);
  if (member?.kind !== 'control' || member.parent === null) return undefined;
  return givenBy(shot, member.parent)?.curve(path);
}

/** The channels of a shot that may have another value at another frame: by keys, by a formula, or by what tracks give. */
export function changingPaths(shot: Shot): Set<string> {
  const paths = new Set([...shot.curves.keys(), ...shot.formulas.keys()]);
  for (const rig of riggedByTracks(shot)) for (const path of givenBy(shot, rig)?.paths ?? []) paths.add(path);
  return paths;
}

/** The rigs of a shot that have tracks. */
export const riggedByTracks = (shot: Pick<Shot, 'tracks'>): Set<string> =>
  new Set(shot.tracks.values().map((track) => track.rig));

function makeGiven(shot: Shot, rig: string): Given | null {
  const tracks = tracksOf(shot, rig);
  if (tracks.length === 0 || clipAtWorkOf(shot, rig)) return null;
  const clips = tracks.flatMap((t) =>
    t.spans.flatMap((s) => [shot.clips.get(s.clip), shot.clips.get(s.base.clip ?? '')]),
  );
  const of = [...tracks, ...clips, ...controlsOf(shot, rig), shot.rigs];
  const before = bySituation.get(tracks[0]);
  if (before && before.of.length === of.length && before.of.every((one, i) => one === of[i])) return before.given;
  const layers = layersOf(shot, rig);
  const given = layers.length > 0 ? new Arrangement(shot, rig, layers) : null;
  bySituation.set(tracks[0], { of, given });
  return given;
}
