import type { Curve, Key, NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { controlsOf } from '../document/casting.ts';
import { channelPath, constantValue, findChannel, splitPath } from '../document/channels.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import type { ClipTrack } from '../document/track.ts';
import { slerp } from '../pose/affine.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../pose/angles.ts';
import { clipAtWorkOf } from './at-work.ts';
import { joinedPieces, pieceOf, throughSlopes } from './pieces.ts';
import { type Planted, plantedFeet } from './planted.ts';
import { type Played, playedOf } from './played.ts';

/** What the tracks of a rig give: curves of its controls, and how far it gets. */
export interface Given {
  readonly curves: ReadonlyMap<string, Curve>;
  /** How far it has got at each frame, metres along its own +Z; null where nothing of it travels. */
  readonly travel: NumberCurve | null;
}

/** The layers of a rig from the lowest up: tracks that are heard, each with its spans as they play. */
export function layersOf(shot: Shot, rig: string): Played[] {
  const tracks = tracksOf(shot, rig);
  const alone = tracks.some((t) => t.alone);
  const heard = tracks.filter((t) => !t.muted && (!alone || t.alone));
  return heard.flatMap((track) => playedOf(track, shot.clips)).filter(({ span }) => span.strength > 0);
}

/** The tracks of a rig, the lowest first. */
export const tracksOf = (shot: Pick<Shot, 'tracks'>, rig: string): ClipTrack[] =>
  shot.tracks
    .values()
    .filter((t) => t.rig === rig)
    .sort((a, b) => a.rank - b.rank || a.id.localeCompare(b.id));

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
  return givenBy(shot, member.parent)?.curves.get(path);
}

/** The rigs of a shot that have tracks. */
export const riggedByTracks = (shot: Pick<Shot, 'tracks'>): Set<string> =>
  new Set(shot.tracks.values().map((track) => track.rig));

function makeGiven(shot: Shot, rig: string): Given | null {
  const tracks = tracksOf(shot, rig);
  if (tracks.length === 0 || clipAtWorkOf(shot, rig)) return null;
  const clips = tracks.flatMap((t) => t.spans.map((s) => shot.clips.get(s.clip)));
  const of = [...tracks, ...clips, ...controlsOf(shot, rig), shot.rigs];
  const before = bySituation.get(tracks[0]);
  if (before && before.of.length === of.length && before.of.every((one, i) => one === of[i])) return before.given;
  const layers = layersOf(shot, rig);
  const given = layers.length > 0 ? new Compiled(shot, rig, layers).given() : null;
  bySituation.set(tracks[0], { of, given });
  return given;
}

/** A stretch between two frames on which nothing of the arrangement begins or ends. */
interface Interval {
  readonly from: number;
  readonly to: number;
  readonly layers: readonly Played[];
}

/** How far to a side slopes are looked at, as a share of a stretch. */
const BESIDE = 1e-4;
/** How far from a cubic the way between two keys may be before there is one more between them; in the channel's unit. */
const NO_CUBIC = 2e-5;
const MOST_HALVED = 3;

/** A stretch between two frames, with the slopes at its ends. */
interface Stretch {
  readonly start: number;
  readonly end: number;
  readonly out: number;
  readonly into: number;
}

/** A way as cubics one after another, each half as long as the last where it is none. */
function stretchBetween(at: (frame: number) => number, start: number, end: number, halved: number): Stretch[] {
  const step = (end - start) * BESIDE;
  const [a, b] = [at(start), at(end)];
  const out = (-3 * a + 4 * at(start + step) - at(start + 2 * step)) / (2 * step);
  const into = (3 * b - 4 * at(end - step) + at(end - 2 * step)) / (2 * step);
  const long = end - start;
  const isCubic = [0.25, 0.5, 0.75].every((t) => {
    const u = 1 - t;
    const value = u * u * (1 + 2 * t) * a + t * t * (1 + 2 * u) * b + long * t * u * (u * out - t * into);
    return Math.abs(value - at(start + t * long)) < NO_CUBIC;
  });
  if (isCubic || halved === MOST_HALVED) return [{ start, end, out, into }];
  const middle = (start + end) / 2;
  return [...stretchBetween(at, start, middle, halved + 1), ...stretchBetween(at, middle, end, halved + 1)];
}

class Compiled {
  readonly #shot: Shot;
  readonly #layers: readonly Played[];
  readonly #readers = new Map<Curve, CurveReader>();
  readonly #intervals: readonly Interval[];
  readonly #planted: readonly Planted[];
  readonly #travel: NumberCurve | null;

  constructor(shot: Shot, rig: string, layers: readonly Played[]) {
    this.#shot = shot;
    this.#layers = layers;
    this.#intervals = intervalsOf(layers);
    this.#travel = this.#travelled();
    const reader = this.#travel ? new CurveReader(this.#travel) : null;
    this.#planted = plantedFeet({
      layers,
      controls: controlsOf(shot, rig),
      blended: this.#intervals.filter((i) => i.layers.filter(carries).length > 1),
      read: (layer, control, channel, at) => this.#read(layer, control, channel, at),
      far: (frame) => reader?.at(frame) ?? 0,
    });
  }

  given(): Given {
    const paths = new Set(this.#layers.flatMap(({ clip }) => Object.keys(clip.kept?.curves ?? {})));
    const curves = new Map<string, Curve>();
    for (const path of paths) {
      const curve = this.#curve(path);
      if (curve) curves.set(path, curve);
    }
    return { curves, travel: this.#travel };
  }

  #curve(path: string): Curve | null {
    const { member: id, channel } = splitPath(path);
    const member = this.#shot.members.get(id);
    if (!member || !findChannel(member, channel, this.#shot.rigs)) return null;
    const foot = this.#planted.find((p) => p.control === id);
    const intervals = foot
      ? cutAt(this.#intervals, [...foot.regions.flatMap((r) => [r.from, r.to]), ...foot.turns])
      : this.#intervals;
    const pieces = intervals.flatMap((interval): Key[][] => {
      const layers = interval.layers.filter((l) => moves(l, member));
      const only = onlyOne(layers, interval);
      if (foot?.covers((interval.from + interval.to) / 2)) return this.#sampled(path, interval, foot);
      if (only === undefined) return this.#sampled(path, interval, null);
      return [this.#exact(path, member, channel, interval, only)];
    });
    const keys = joinedPieces(pieces);
    return keys.length > 0 ? { type: 'number', keys, before: 'hold', after: 'hold' } : null;
  }

  /** A stretch that one span alone has, or none: exactly as its clip is. */
  #exact(path: string, member: Member, channel: string, { from, to }: Interval, only: Played | null): Key[] {
    const rest = this.#rest(member, channel);
    const curve = only?.clip.kept?.curves[path];
    if (!only || curve?.type !== 'number') return throughSlopes([from, to], [rest, rest], [0, 0]);
    const [start, end] = [only.clipFrame(from), only.clipFrame(to - 1e-9)];
    const speed = only.speed((from + to) / 2);
    return pieceOf(curve, start, end, (f) => from + (f - start) / speed, 1 / speed).map((k, i, all) =>
      i === all.length - 1 ? { ...k, frame: to } : k,
    );
  }

  /** A stretch on which several meet: a key a frame, and more where the way between two is no cubic. */
  #sampled(path: string, { from, to }: Interval, foot: Planted | null): Key[][] {
    const at = (frame: number) => this.#value(path, Math.min(to - 1e-9, Math.max(from, frame)), foot);
    const whole = framesIn(from, to);
    const [places, arrive, leave] = [[from], [0], [] as number[]];
    for (let i = 1; i < whole.length; i++) {
      for (const { end, out, into } of stretchBetween(at, whole[i - 1], whole[i], 0)) {
        places.push(end);
        leave.push(out);
        arrive.push(into);
      }
    }
    leave.push(0);
    return [throughSlopes(places, places.map(at), arrive, leave)];
  }

  #rest(member: Member, channel: string): number {
    const found = findChannel(member, channel, this.#shot.rigs);
    const value = found ? constantValue(member, found) : 0;
    return typeof value === 'number' ? value : 0;
  }

  /** What a channel comes to at a frame. @param foot the foot it belongs to, where that goes by itself there */
  #value(path: string, frame: number, foot: Planted | null): number {
    const { member: id, channel } = splitPath(path);
    const member = this.#shot.members.at(id);
    if (!foot && member.rotation === 'angles' && channel.startsWith('turn.'))
      return this.#turn(member, frame)['xyz'.indexOf(channel[5])];
    let value = foot ? foot.value(channel, frame) : this.#rest(member, channel);
    for (const layer of this.#layers) {
      if (!layer.plays(frame) || !moves(layer, member) || (foot && carries(layer))) continue;
      const own = this.#read(layer, member, channel, layer.clipFrame(frame));
      const weight = layer.weight(frame);
      if (layer.span.how === 'instead') value += (own - value) * weight;
      else value += (own - this.#read(layer, member, channel, layer.clip.first)) * weight;
    }
    return value;
  }

  /** The angles of a member, blended the shortest way. */
  #turn(member: Member, frame: number): Angles {
    const axes = ['turn.x', 'turn.y', 'turn.z'];
    let angles = axes.map((c) => this.#rest(member, c)) as Angles;
    for (const layer of this.#layers) {
      if (!layer.plays(frame) || !moves(layer, member)) continue;
      const weight = layer.weight(frame);
      const own = axes.map((c) => this.#read(layer, member, c, layer.clipFrame(frame))) as Angles;
      if (layer.span.how === 'onTop') {
        const base = axes.map((c) => this.#read(layer, member, c, layer.clip.first)) as Angles;
        angles = angles.map((v, i) => v + (own[i] - base[i]) * weight) as Angles;
      } else if (weight >= 1) angles = own;
      else if (own.some((v, i) => Math.abs(v - angles[i]) > 1e-12)) {
        const [a, b] = [angles, own].map((v) => Float64Array.from(anglesToQuaternion(v, member.order)));
        slerp(a, 0, a, 0, b, 0, weight);
        angles = quaternionToAngles([a[0], a[1], a[2], a[3]], member.order, angles);
      }
    }
    return angles;
  }

  #read(layer: Played, member: Member, channel: string, clipFrame: number): number {
    const curve = layer.clip.kept?.curves[channelPath(member.id, channel)];
    if (curve?.type !== 'number') return this.#rest(member, channel);
    const reader = this.#readers.get(curve) ?? new CurveReader(curve);
    this.#readers.set(curve, reader);
    return reader.at(clipFrame);
  }

  /** How far the body has got at each frame: its speed is blended as its poses are, and added up. */
  #travelled(): NumberCurve | null {
    const layers = this.#layers.filter((l) => l.clip.travelling && isWhole(l) && l.span.how === 'instead');
    if (layers.every((l) => l.clip.travel === 0)) return null;
    const speed = (frame: number) =>
      this.#layers.reduce((v, l) => {
        if (!l.plays(frame) || !isWhole(l) || l.span.how !== 'instead') return v;
        return v + ((l.clip.travelling ? l.travel(frame) : 0) - v) * l.weight(frame);
      }, 0);
    let far = 0;
    const pieces = this.#intervals.map(({ from, to, layers: here }) => {
      const even = onlyOne(here.filter(isWhole), { from, to, layers: here });
      const frames = even === undefined || even?.clip.cycles === false ? framesIn(from, to) : [from, to];
      const inside = (f: number) => Math.min(to - 1e-9, Math.max(from, f));
      const values = [far];
      for (let i = 1; i < frames.length; i++) values.push(values[i - 1] + added(speed, frames[i - 1], frames[i]));
      far = values[values.length - 1];
      return throughSlopes(
        frames,
        values,
        frames.map((f) => speed(inside(f))),
      );
    });
    return { type: 'number', keys: joinedPieces(pieces), before: 'hold', after: 'hold' };
  }
}

/** Whether a span moves the whole body, and so carries it along. */
const isWhole = ({ span }: Played): boolean => span.controls === null;

/** Whether a span has the body in its own way: such ones say where its feet are. */
const carries = (layer: Played): boolean => isWhole(layer) && layer.span.how === 'instead';

/** Whether a span moves a control. */
const moves = ({ span }: Played, member: Member): boolean =>
  span.controls === null || (member.kind === 'control' && span.controls.includes(member.shape.control));

/** The one span that says all of an interval; null where none plays, undefined where it takes several, or one that comes or goes. */
function onlyOne(layers: readonly Played[], { from, to }: Interval): Played | null | undefined {
  const top = layers[layers.length - 1];
  if (!top) return null;
  return top.span.how === 'instead' && top.isEven(from, to) ? top : undefined;
}

/** The shot's time cut wherever something of the arrangement begins, ends or changes. */
function intervalsOf(layers: readonly Played[]): Interval[] {
  const cuts = [...new Set(layers.flatMap((l) => l.turns))].sort((a, b) => a - b);
  return cuts.slice(1).flatMap((to, i): Interval[] => {
    const from = cuts[i];
    if (to - from < 1e-6) return [];
    return [{ from, to, layers: layers.filter((l) => l.plays((from + to) / 2)) }];
  });
}

/** Intervals cut at some more frames. */
const cutAt = (intervals: readonly Interval[], at: readonly number[]): Interval[] =>
  intervals.flatMap((interval) => {
    const { from, to, layers } = interval;
    const inside = [...new Set(at)].filter((f) => f > from + 1e-6 && f < to - 1e-6).sort((a, b) => a - b);
    return [from, ...inside].map((start, i) => ({ from: start, to: inside[i] ?? to, layers }));
  });

/** Both ends, and the whole frames between them. */
export function framesIn(from: number, to: number): number[] {
  const out = [from];
  for (let f = Math.floor(from) + 1; f < to - 1e-6; f++) out.push(f);
  return [...out, to];
}

/** Places and shares of the Gauss–Legendre rule of eight points: exact for the products of easings there can be. */
const GAUSS = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
] as const;

function added(speed: (frame: number) => number, from: number, to: number): number {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  return half * GAUSS.reduce((sum, [x, w]) => sum + w * (speed(middle - half * x) + speed(middle + half * x)), 0);
}
