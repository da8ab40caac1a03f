import { CurveReader } from '../curve/sample.ts';
import type { ControlMember } from '../document/casting.ts';
import { channelPath, constantValue, findChannel } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { slerp } from '../pose/affine.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../pose/angles.ts';
import type { Planted } from './planted.ts';
import type { Played } from './played.ts';

/** What a span has for a channel: the keys of its clip, or where the channel rests. */
interface Part {
  readonly layer: Played;
  readonly reader: CurveReader | null;
  readonly rest: number;
  /** What the clip has at its beginning: what lies on top is measured from there. */
  readonly base: number;
  /** The one value that it has throughout; undefined where it changes. */
  readonly still: number | undefined;
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
  readonly #parts = new Map<string, ReadonlyMap<Played, Part>>();
  /** Turns that were worked out, by frame: all three angles are needed one after another. */
  readonly #turns = new Map<number, Angles>();

  constructor(shot: Shot, member: ControlMember, layers: readonly Played[]) {
    this.#shot = shot;
    this.member = member;
    this.layers = layers.filter(({ span }) => span.controls === null || span.controls.includes(member.shape.control));
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
    const parts = this.#parts.get(channel) ?? this.#allParts(channel);
    const found = parts.get(layer);
    if (!found) throw new Error('The span does not move this control.');
    return found;
  }

  #allParts(channel: string): ReadonlyMap<Played, Part> {
    const rest = this.rest(channel);
    const readers = new Map<unknown, CurveReader>();
    const parts = new Map(
      this.layers.map((layer): [Played, Part] => {
        const curve = layer.clip.kept?.curves[channelPath(this.member.id, channel)];
        if (curve?.type !== 'number') return [layer, { layer, reader: null, rest, base: rest, still: rest }];
        const reader = readers.get(curve) ?? new CurveReader(curve);
        readers.set(curve, reader);
        const [{ value }] = curve.keys;
        const still = curve.keys.length === 1 ? value : undefined;
        return [layer, { layer, reader, rest, base: reader.at(layer.clip.first), still }];
      }),
    );
    this.#parts.set(channel, parts);
    return parts;
  }

  /**
   * The one span that says all of a channel between two frames; null where it only rests, undefined where it takes several, or one that comes or
   * goes.
   */
  only(channel: string, from: number, to: number): Played | null | undefined {
    const channels = channel.startsWith('turn.') ? AXES : [channel];
    let only: Played | null = null;
    for (const layer of this.layers) {
      if (!layer.plays((from + to) / 2)) continue;
      const isSame = (under: Played | null) =>
        channels.every((c) => {
          const [own, low] = [this.#part(layer, c).still, under ? this.#part(under, c).still : this.rest(c)];
          return own !== undefined && own === low;
        });
      if (layer.span.how === 'onTop') {
        if (channels.some((c) => this.#part(layer, c).still === undefined)) return undefined;
      } else if (layer.isEven(from, to)) only = layer;
      else if (!isSame(only) && !(only && layer.isAlike(only, from, to))) return undefined;
    }
    return only;
  }

  /** What a channel comes to at a frame. @param foot the foot it belongs to, where that goes by itself there */
  value(channel: string, frame: number, foot: Planted | null): number {
    if (!foot && this.member.rotation === 'angles' && channel.startsWith('turn.'))
      return this.#turn(frame)['xyz'.indexOf(channel[5])];
    const parts = this.#parts.get(channel) ?? this.#allParts(channel);
    let value = foot ? foot.value(channel, frame) : this.rest(channel);
    for (const layer of this.layers) {
      if (!layer.plays(frame) || (foot && layer.carries)) continue;
      const part = parts.get(layer)!;
      const own = part.reader ? part.reader.at(layer.clipFrame(frame)) : part.rest;
      const weight = layer.weight(frame);
      value += (own - (layer.span.how === 'instead' ? value : part.base)) * weight;
    }
    return value;
  }

  /** The angles, blended the shortest way. */
  #turn(frame: number): Angles {
    const there = this.#turns.get(frame);
    if (there) return there;
    const parts = AXES.map((c) => this.#parts.get(c) ?? this.#allParts(c));
    let angles = AXES.map((c) => this.rest(c)) as Angles;
    for (const layer of this.layers) {
      if (!layer.plays(frame)) continue;
      const weight = layer.weight(frame);
      const at = layer.clipFrame(frame);
      const own = parts.map((p) => {
        const { reader, rest } = p.get(layer)!;
        return reader ? reader.at(at) : rest;
      }) as Angles;
      if (layer.span.how === 'onTop')
        angles = angles.map((v, i) => v + (own[i] - parts[i].get(layer)!.base) * weight) as Angles;
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
