import { laidOut } from '../clip/circle.ts';
import { withSeam } from '../clip/shift.ts';
import type { Key, NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import type { Clip } from '../document/clip.ts';

type Frames = Pick<Clip, 'first' | 'length' | 'halves'>;

/** Whether a key lies on the way or is one of the poses. */
export type Role = Key['role'];

/** Keys of a cycle as they are put together, by `control.channel` and by phase; laid out at the end. */
export class CycleKeys {
  readonly #clip: Frames;
  readonly #channels = new Map<string, Map<number, Key>>();

  constructor(clip: Frames) {
    this.#clip = clip;
  }

  get length(): number {
    return this.#clip.length;
  }

  /** A whole frame of the cycle, from 0 up to its length. */
  phase(frame: number): number {
    const { length } = this.#clip;
    return ((Math.round(frame) % length) + length) % length;
  }

  put(channel: string, at: number, value: number, kind: 'smooth' | 'flat' = 'smooth', role: Role = 'key'): void {
    const phase = this.phase(at);
    this.set(channel, phase, {
      frame: phase,
      value: value === 0 ? 0 : value,
      in: { kind },
      out: { kind },
      joined: true,
      role,
    });
  }

  /** Sets a key as it is. */
  set(channel: string, at: number, key: Key): void {
    const phase = this.phase(at);
    const own = this.#channels.get(channel) ?? new Map<number, Key>();
    own.set(phase, { ...key, frame: this.#clip.first + phase });
    this.#channels.set(channel, own);
  }

  /** The keys of a channel, changed in place. */
  change(channel: string, change: (value: number, phase: number) => number): void {
    const own = this.#channels.get(channel);
    for (const [phase, key] of own ?? []) own!.set(phase, { ...key, value: change(key.value, phase) });
  }

  drop(channel: string): void {
    this.#channels.delete(channel);
  }

  has(channel: string): boolean {
    return this.#channels.has(channel);
  }

  /** What a channel shows at a phase, as far as it is put together. */
  reader(channel: string): (phase: number) => number {
    const curve = this.#curve(channel);
    if (!curve) return () => 0;
    const reader = new CurveReader(curve);
    return (phase) => reader.at(this.#clip.first + phase);
  }

  #curve(channel: string): NumberCurve | null {
    const own = this.#channels.get(channel);
    return own ? (laidOut(own, 'number', this.#clip as Clip) as NumberCurve | null) : null;
  }

  /** Every channel as it goes, for a trial. */
  *trial(): Iterable<[channel: string, curve: NumberCurve]> {
    for (const channel of this.#channels.keys()) {
      const curve = this.#curve(channel);
      if (curve) yield [channel, curve];
    }
  }

  /** Every channel with its keys from the clip's first frame to its last, one of them at the seam. */
  *curves(): Iterable<[channel: string, curve: NumberCurve]> {
    for (const channel of this.#channels.keys()) {
      const curve = this.#curve(channel);
      if (curve) yield [channel, withSeam(curve, this.#clip as Clip) as NumberCurve];
    }
  }
}
