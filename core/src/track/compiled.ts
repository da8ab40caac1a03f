import type { Curve, Key } from '../curve/key.ts';
import { type ControlMember, controlsOf } from '../document/casting.ts';
import { channelPath, channelsOf, ORIENTATION, splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { Blend } from './blend.ts';
import { type Course, CourseReader, courseOf } from './course.ts';
import { joinedPieces, pieceOf, throughCubics, throughSlopes } from './pieces.ts';
import { type Planted, plantedFeet } from './planted.ts';
import type { Played } from './played.ts';
import type { TurnedBlend } from './turned.ts';

/** What the tracks of a rig give: curves of its controls, and how far it gets. */
export interface Given {
  /** The channels that get a curve. */
  readonly paths: ReadonlySet<string>;
  readonly curves: ReadonlyMap<string, Curve>;
  /** The curve of one channel, without working out the others. */
  curve(path: string): Curve | undefined;
  /** Whether anything of it takes the rig along. */
  readonly travels: boolean;
  /** How it takes the rig along; null where nothing of it does. */
  readonly course: Course | null;
  /** What a channel, of one number, comes to at a frame, read there and then: the same as its curve says, to what that may be off. */
  at(path: string, frame: number): number;
}

/** A stretch between two frames on which nothing of the arrangement begins or ends. */
interface Interval {
  readonly from: number;
  readonly to: number;
}

/** Feet near a frame, as they were last asked for. */
interface Near {
  readonly frame: number;
  readonly feet: ReadonlyMap<string, Planted>;
}

/**
 * An arrangement worked out: each thing when it is first asked for. Where only a frame of it is wanted, as while a span is drawn to and fro, no curve is made.
 */
export class Arrangement implements Given {
  readonly paths: ReadonlySet<string>;
  readonly travels: boolean;
  readonly #shot: Shot;
  readonly #layers: readonly Played[];
  readonly #intervals: readonly Interval[];
  readonly #blends: ReadonlyMap<string, Blend>;
  /** Of each path whose control and which channel it is. */
  readonly #targets = new Map<string, { readonly blend: Blend; readonly channel: string }>();
  /** Controls that turn as a whole, by the paths of their orientations. */
  readonly #turned = new Map<string, TurnedBlend>();
  readonly #made = new Map<string, Curve>();
  #course: Course | null | undefined;
  #asked: Parameters<typeof plantedFeet>[0] | null = null;
  #feet: ReadonlyMap<string, Planted> | null = null;
  #near: Near = { frame: Number.NaN, feet: new Map() };

  /** @param layers the spans as they play, the lowest first */
  constructor(shot: Shot, rig: string, layers: readonly Played[]) {
    this.#shot = shot;
    this.#layers = layers;
    this.#intervals = intervalsOf(layers);
    this.#blends = new Map(controlsOf(shot, rig).map((c) => [c.id, new Blend(shot, c, layers)]));
    for (const kept of new Set(layers.map((l) => l.clip.kept)))
      for (const { path, member, channel } of kept ? pathsIn(kept) : []) {
        const blend = this.#targets.has(path) ? undefined : this.#blends.get(member);
        if (!blend) continue;
        if (channel === ORIENTATION) this.#turned.set(path, blend.turned(shot));
        else if (channelsIn(shot.rigs, blend.member).has(channel)) this.#targets.set(path, { blend, channel });
      }
    this.paths = new Set([...this.#targets.keys(), ...this.#turned.keys()]);
    this.travels = layers.some((l) => l.carries && (l.span.turn !== 0 || (l.clip.travelling && l.clip.travel !== 0)));
  }

  get course(): Course | null {
    if (this.#course === undefined) this.#course = this.travels ? courseOf(this.#layers, this.#intervals) : null;
    return this.#course;
  }

  get curves(): ReadonlyMap<string, Curve> {
    for (const path of this.paths) this.curve(path);
    return this.#made;
  }

  curve(path: string): Curve | undefined {
    const known = this.#made.get(path);
    const made = known ?? this.#makeCurve(path);
    if (made && !known) this.#made.set(path, made);
    return made;
  }

  #makeCurve(path: string): Curve | undefined {
    const held = { before: 'hold', after: 'hold' } as const;
    const turned = this.#turned.get(path);
    if (turned) return { type: 'orientation', keys: turned.keysOver(this.#intervals), ...held };
    const target = this.#targets.get(path);
    if (!target) return undefined;
    const { blend, channel } = target;
    const { control } = blend.member.shape;
    const isFoot = this.#layers.some((l) => Object.hasOwn(l.clip.stances, control));
    const foot = (isFoot && this.#allFeet.get(blend.member.id)) || null;
    return { type: 'number', keys: keysOf(blend, channel, this.#intervals, foot), ...held };
  }

  at(path: string, frame: number): number {
    const { blend, channel } = this.#targets.get(path)!;
    const first = this.#intervals[0].from;
    const last = this.#intervals[this.#intervals.length - 1].to - 1e-9;
    const within = Math.min(last, Math.max(first, frame));
    const foot = this.#feetNear(within).get(blend.member.id);
    return blend.value(channel, within, foot?.covers(within) ? foot : null);
  }

  get #allFeet(): ReadonlyMap<string, Planted> {
    this.#feet ??= byControl(plantedFeet(this.#ask));
    return this.#feet;
  }

  #feetNear(frame: number): ReadonlyMap<string, Planted> {
    if (this.#feet) return this.#feet;
    if (this.#near.frame !== frame) this.#near = { frame, feet: byControl(plantedFeet(this.#ask, frame)) };
    return this.#near.feet;
  }

  /** What is asked of it to hold its feet. */
  get #ask(): Parameters<typeof plantedFeet>[0] {
    if (this.#asked) return this.#asked;
    const blends = this.#blends;
    this.#asked = {
      layers: this.#layers,
      controls: [...blends.values()].map((blend): ControlMember => blend.member),
      blended: this.#intervals.filter((interval) => isBlended(this.#layers, interval)),
      read: (layer, control, channel, at) => blends.get(control.id)!.read(layer, channel, at),
      course: new CourseReader(this.course),
      place: ({ shape }) => {
        const [x, , z] = this.#shot.rigs.control(shape)?.place ?? [0, 0, 0];
        return [x, z];
      },
    };
    return this.#asked;
  }
}

interface Path {
  readonly path: string;
  readonly member: string;
  readonly channel: string;
}

/** The paths of what a clip keeps, taken apart once. */
const taken = new WeakMap<NonNullable<Clip['kept']>, readonly Path[]>();

function pathsIn(kept: NonNullable<Clip['kept']>): readonly Path[] {
  const known = taken.get(kept);
  if (known) return known;
  const made = Object.keys(kept.curves).map((path) => ({ path, ...splitPath(path) }));
  taken.set(kept, made);
  return made;
}

/** The channels of a control, by their ids, looked for once. */
const channelIds = new WeakMap<Shot['rigs'], WeakMap<ControlMember, ReadonlySet<string>>>();

function channelsIn(rigs: Shot['rigs'], member: ControlMember): ReadonlySet<string> {
  const own = channelIds.get(rigs) ?? new WeakMap<ControlMember, ReadonlySet<string>>();
  channelIds.set(rigs, own);
  const known = own.get(member);
  if (known) return known;
  const made = new Set(channelsOf(member, rigs).map((c) => c.id));
  own.set(member, made);
  return made;
}

const byControl = (feet: readonly Planted[]): ReadonlyMap<string, Planted> =>
  new Map(feet.map((foot) => [foot.control, foot]));

/** Whether the body goes over from one span to another in an interval, and the two do not do the same; or it turns. */
function isBlended(layers: readonly Played[], { from, to }: Interval): boolean {
  let [only, blended]: [Played | null, boolean] = [null, false];
  for (const layer of layers) {
    if (!layer.carries || !layer.plays((from + to) / 2)) continue;
    // Where it turns no foot stands as in the clip, which goes straight on.
    if (layer.span.turn !== 0) return true;
    if (!only || layer.isEven(from, to)) [only, blended] = [layer, false];
    else if (!layer.isAlike(only, from, to)) blended = true;
  }
  return blended;
}

/** The keys of a channel: where one span has it alone exactly those of its clip. */
function keysOf(blend: Blend, channel: string, all: readonly Interval[], foot: Planted | null): Key[] {
  const cuts = foot ? [...foot.regions.flatMap((r) => [r.from, r.to]), ...foot.turns] : [];
  const pieces = cutAt(all, cuts).map(({ from, to }) => {
    const held = foot?.covers((from + to) / 2) ? foot : null;
    const only = held ? undefined : blend.only(channel, from, to);
    if (only !== undefined) return exact(blend, channel, from, to, only);
    const inside = (f: number) => Math.min(to - 1e-9, Math.max(from, f));
    return throughCubics((f) => blend.value(channel, inside(f), held), from, to);
  });
  return joinedPieces(pieces);
}

/** A stretch that one span alone has, or none: exactly as its clip is. */
function exact(blend: Blend, channel: string, from: number, to: number, only: Played | null): Key[] {
  const curve = only?.clip.kept?.curves[channelPath(blend.member.id, channel)];
  if (!only || curve?.type !== 'number') {
    const rest = blend.rest(channel);
    return throughSlopes([from, to], [rest, rest], [0, 0]);
  }
  const start = only.clipFrame(from);
  const speed = only.speed((from + to) / 2);
  // At its end it may go on from elsewhere in the clip.
  const end = start + speed * (to - from);
  const keys = pieceOf(curve, start, end, (f) => from + (f - start) / speed, 1 / speed);
  return keys.map((k, i) => (i === keys.length - 1 ? { ...k, frame: to } : k));
}

/** The shot's time cut wherever something of the arrangement begins, ends or changes. */
function intervalsOf(layers: readonly Played[]): Interval[] {
  const cuts = [...new Set(layers.flatMap((l) => l.turns))].sort((a, b) => a - b);
  return cuts.slice(1).flatMap((to, i): Interval[] => (to - cuts[i] < 1e-6 ? [] : [{ from: cuts[i], to }]));
}

/** Intervals cut at some more frames. */
const cutAt = (intervals: readonly Interval[], at: readonly number[]): Interval[] =>
  intervals.flatMap(({ from, to }) => {
    const inside = [...new Set(at)].filter((f) => f > from + 1e-6 && f < to - 1e-6).sort((a, b) => a - b);
    return [from, ...inside].map((start, i) => ({ from: start, to: inside[i] ?? to }));
  });
