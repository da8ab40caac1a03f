import type { OrientationCurve, OrientationKey } from '../curve/key.ts';
import { type CompiledOrientation, compileOrientation, orientationAt } from '../curve/orientation.ts';
import type { ControlMember } from '../document/casting.ts';
import { channelPath, ORIENTATION } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { slerp } from '../pose/affine.ts';
import { quaternionBetween, quaternionMultiply } from '../pose/quaternion.ts';
import type { Quaternion } from '../schema/numbers.ts';
import type { Played } from './played.ts';

/** Controls that turn as a whole, by orientations: as the spans of an arrangement have them. */

const compiled = new WeakMap<OrientationCurve, CompiledOrientation>();

function compiledOf(curve: OrientationCurve): CompiledOrientation {
  const known = compiled.get(curve) ?? compileOrientation(curve);
  compiled.set(curve, known);
  return known;
}

/** How finely what is mixed is laid as keys, frames: between them it turns the shortest way. */
const STEP = 0.25;

/** An orientation that spans give a control. */
export class TurnedBlend {
  readonly #layers: readonly {
    readonly layer: Played;
    readonly share: number;
    readonly curve: CompiledOrientation | null;
  }[];
  readonly #rest: Quaternion;
  readonly #bases = new Map<Played, Float64Array>();

  /** @param shareOf how much of a span comes to the control */
  constructor(shot: Shot, member: ControlMember, layers: readonly Played[], shareOf: (layer: Played) => number) {
    const path = channelPath(member.id, ORIENTATION);
    this.#rest = member.orientation;
    this.#layers = layers.map((layer) => {
      const curve = layer.clip.kept?.curves[path];
      return { layer, share: shareOf(layer), curve: curve?.type === 'orientation' ? compiledOf(curve) : null };
    });
    for (const { layer, curve } of this.#layers) {
      if (layer.span.how !== 'onTop' || !curve) continue;
      const { base } = layer.span;
      const other = base.clip === null ? undefined : shot.clips.get(base.clip);
      const from = other?.kept?.curves[path];
      const at = new Float64Array(this.#rest);
      if (!other) orientationAt(curve, layer.clip.first + base.frame, at, 0);
      else if (from?.type === 'orientation') orientationAt(compiledOf(from), other.first + base.frame, at, 0);
      this.#bases.set(layer, at);
    }
  }

  /** What it comes to at a frame, into `out`. */
  write(frame: number, out: Float64Array): void {
    out.set(this.#rest);
    below.set(this.#rest);
    let track: string | null = null;
    for (const { layer, share, curve } of this.#layers) {
      if (!layer.plays(frame)) continue;
      if (layer.track !== track) {
        track = layer.track;
        below.set(out);
      }
      const weight = share * layer.weight(frame);
      if (curve) orientationAt(curve, layer.clipFrame(frame), own, 0);
      else own.set(below);
      if (layer.span.how === 'instead') slerp(out, 0, out, 0, own, 0, weight);
      else if (curve) addOn(out, this.#bases.get(layer)!, weight);
    }
  }

  /** Keys of it over stretches that follow one another. */
  keysOver(stretches: readonly { readonly from: number; readonly to: number }[]): OrientationKey[] {
    const keys = new Map<number, OrientationKey>();
    const straight = { kind: 'linear' as const };
    for (const { from, to } of stretches) {
      const count = Math.max(1, Math.ceil((to - from) / STEP));
      for (let i = 0; i <= count; i++) {
        const frame = i === count ? to : from + ((to - from) * i) / count;
        this.write(i === count ? to - 1e-9 : frame, value);
        keys.set(frame, { frame, value: tuple(value), in: straight, out: straight, joined: true, role: 'key' });
      }
    }
    return [...keys.values()].sort((a, b) => a.frame - b.frame);
  }
}

const value = new Float64Array(4);
const below = new Float64Array(4);
const own = new Float64Array(4);

/** Turns by the share of what `own` differs by from a base. */
function addOn(out: Float64Array, base: Float64Array, weight: number): void {
  turn.set(quaternionBetween(tuple(base), tuple(own)));
  slerp(part, 0, still, 0, turn, 0, weight);
  out.set(quaternionMultiply(tuple(out), tuple(part)));
}

const still = Float64Array.of(0, 0, 0, 1);
const turn = new Float64Array(4);
const part = new Float64Array(4);
const tuple = (q: Float64Array): Quaternion => [q[0], q[1], q[2], q[3]];
