import type { NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import type { ControlMember } from '../document/casting.ts';
import { channelPath, constantValue, findChannel } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { slerp } from '../pose/affine.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../pose/angles.ts';
import { shareOf } from './part-edge.ts';
import type { Planted } from './planted.ts';
import type { Played } from './played.ts';
import { TurnedBlend } from './turned.ts';

/** What a span has for a channel: the keys of its clip, or where the channel rests. */
interface Part {
  /** Null where its clip says nothing of the channel: then it has what lies below its track. */
  readonly reader: CurveReader | null;
  readonly rest: number;
  /** What the clip has at its beginning: what lies on top is measured from there. */
  readonly base: number;
  /** The one value that it has throughout; undefined where it changes. */
  readonly still: number | undefined;
}

/** Readers of curves, one for each for as long as there is the curve. */
const readers = new WeakMap<NumberCurve, CurveReader>();

function readerOf(curve: NumberCurve): CurveReader {
  const known = readers.get(curve);
  if (known) return known;
  const made = new CurveReader(curve);
  readers.set(curve, made);
  return made;
}

const AXES = ['turn.x', 'turn.y', 'turn.z'] as const;
const a = new Float64Array(4);
const b = new Float64Array(4);

/** A control as the spans of an arrangement have it, one over another. */
export class Blend {
  readonly member: ControlMember;
  /** The spans that move it, the lowest first. */
  readonly layers: readonly Played[];
  readonly #shot: Shot;
  readonly #parts = new Map<string, Map<Played, Part>>();
  /** Turns that were worked out, by frame: all three angles are needed one after another. */
  readonly #turns = new Map<number, Angles>();

  /** How much of a span with a soft edge comes to this control. */
  readonly #shares = new Map<Played, number>();

  constructor(shot: Shot, member: ControlMember, layers: readonly Played[]) {
    this.#shot = shot;
    this.member = member;
    const { control } = member.shape;
    this.layers = layers.filter(({ span }) => span.controls === null || span.controls.includes(control));
    const link = shot.members.get(member.parent ?? '');
    const rig = link?.kind === 'rig' ? shot.rigs.find(link.shape)?.rig : undefined;
    for (const layer of this.layers) this.#shares.set(layer, shareOf(layer.span, control, rig));
  }

  #weight(layer: Played, frame: number): number {
    return this.#shares.get(layer)! * layer.weight(frame);
  }

  /** Whether all of a span is here throughout two frames. */
  #isEven(layer: Played, from: number, to: number): boolean {
    return this.#shares.get(layer) === 1 && layer.isEven(from, to);
  }

  /** The same of its orientation, for a control that turns as a whole. */
  turned(shot: Shot): TurnedBlend {
    return new TurnedBlend(shot, this.member, this.layers, (layer) => this.#shares.get(layer)!);
  }

  rest(channel: string): number {
    const found = findChannel(this.member, channel, this.#shot.rigs);
    const value = found ? constantValue(this.member, found) : 0;
    return typeof value === 'number' ? value : 0;
  }

  /** What a span's clip has in a channel at one of its frames. */
  read(layer: Played, channel: string, clipFrame: number): number {
    const { reader, rest } = this.#part(layer, channel);
    return reader ? reader.at(clipFrame) : rest;
  }

  #part(layer: Played, channel: string): Part {
    const parts = this.#parts.get(channel) ?? new Map<Played, Part>();
    this.#parts.set(channel, parts);
    const known = parts.get(layer);
    if (known) return known;
    const made = this.#makePart(layer, channel);
    parts.set(layer, made);
    return made;
  }

  #makePart(layer: Played, channel: string): Part {
    const rest = this.rest(channel);
    const curve = layer.clip.kept?.curves[channelPath(this.member.id, channel)];
    if (curve?.type !== 'number') return { reader: null, rest, base: rest, still: undefined };
    const reader = readerOf(curve);
    const still = curve.keys.length === 1 ? curve.keys[0].value : undefined;
    const base = layer.span.how === 'onTop' ? this.#base(layer, channel, reader) : rest;
    return { reader, rest, base, still };
  }

  /** What a span on top has its difference to: its own clip at a frame, or another clip, which rests where it has no keys. */
  #base({ span, clip }: Played, channel: string, own: CurveReader): number {
    const other = span.base.clip === null ? undefined : this.#shot.clips.get(span.base.clip);
    if (!other) return own.at(clip.first + span.base.frame);
    const curve = other.kept?.curves[channelPath(this.member.id, channel)];
    return curve?.type === 'number' ? readerOf(curve).at(other.first + span.base.frame) : this.rest(channel);
  }

  /**
   * The one span that says all of a channel between two frames; null where it only rests, undefined where it takes several, or one that comes or
   * goes.
   */
  only(channel: string, from: number, to: number): Played | null | undefined {
    const channels = channel.startsWith('turn.') ? AXES : [channel];
    let [only, below, track]: [Played | null, Played | null, string | null] = [null, null, null];
    for (const layer of this.layers) {
      if (!layer.plays((from + to) / 2)) continue;
      if (layer.track !== track) [track, below] = [layer.track, only];
      const parts = channels.map((c) => this.#part(layer, c));
      if (parts.every((p) => p.reader === null)) {
        // It says nothing here: what lies below its track does.
        if (only === below || layer.span.how === 'onTop') continue;
        if (!this.#isEven(layer, from, to)) return undefined;
        only = below;
      } else if (layer.span.how === 'onTop') {
        if (parts.some((p) => p.reader !== null && p.still === undefined)) return undefined;
      } else if (this.#isEven(layer, from, to)) {
        // Where it has some of the angles only, the others are those below.
        if (parts.some((p) => p.reader === null) && below !== null) return undefined;
        only = layer;
      } else if (!this.#isStill(channels, layer, only) && !(only && layer.isAlike(only, from, to))) return undefined;
    }
    return only;
  }

  /** Whether a span has, and never leaves, what another one below it has. */
  #isStill(channels: readonly string[], layer: Played, under: Played | null): boolean {
    return channels.every((c) => {
      const low = under ? this.#part(under, c) : null;
      const value = low?.reader ? low.still : this.rest(c);
      const own = this.#part(layer, c);
      return value !== undefined && (own.reader ? own.still === value : low?.reader === null || low === null);
    });
  }

  /** What a channel comes to at a frame. @param foot the foot it belongs to, where that goes by itself there */
  value(channel: string, frame: number, foot: Planted | null): number {
    if (!foot && this.member.rotation === 'angles' && channel.startsWith('turn.'))
      return this.#turn(frame)['xyz'.indexOf(channel[5])];
    let value = foot ? foot.value(channel, frame) : this.rest(channel);
    /** What lies below the track: what a span has that says nothing of the channel. */
    let below = value;
    let track: string | null = null;
    for (const layer of this.layers) {
      if (!layer.plays(frame) || (foot && layer.carries)) continue;
      if (layer.track !== track) [track, below] = [layer.track, value];
      const { reader, base } = this.#part(layer, channel);
      const weight = this.#weight(layer, frame);
      if (layer.span.how === 'onTop') value += reader ? (reader.at(layer.clipFrame(frame)) - base) * weight : 0;
      else value += ((reader ? reader.at(layer.clipFrame(frame)) : below) - value) * weight;
    }
    return value;
  }

  /** The angles, blended the shortest way. */
  #turn(frame: number): Angles {
    const there = this.#turns.get(frame);
    if (there) return there;
    let angles = AXES.map((c) => this.rest(c)) as Angles;
    let below = angles;
    let track: string | null = null;
    for (const layer of this.layers) {
      if (!layer.plays(frame)) continue;
      if (layer.track !== track) [track, below] = [layer.track, angles];
      const weight = this.#weight(layer, frame);
      const at = layer.clipFrame(frame);
      const own = AXES.map((c, i) => this.#part(layer, c).reader?.at(at) ?? below[i]) as Angles;
      if (layer.span.how === 'onTop')
        angles = angles.map((v, i) => {
          const { reader, base } = this.#part(layer, AXES[i]);
          return reader ? v + (own[i] - base) * weight : v;
        }) as Angles;
      else if (weight >= 1) angles = own;
      else if (own.some((v, i) => Math.abs(v - angles[i]) > 1e-12)) {
        a.set(anglesToQuaternion(angles, this.member.order));
        b.set(anglesToQuaternion(own, this.member.order));
        slerp(a, 0, a, 0, b, 0, weight);
        angles = quaternionToAngles([a[0], a[1], a[2], a[3]], this.member.order, angles);
      }
    }
    this.#turns.set(frame, angles);
    return angles;
  }
}
