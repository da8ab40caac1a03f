import type { Clip } from '../document/clip.ts';
import type { Anatomy, Leg } from './anatomy.ts';

/** When a foot is down: frames of the cycle. */
export interface Fall {
  readonly leg: Leg;
  /** The frame it touches down on, from 0 up to the length. */
  readonly from: number;
  /** How many frames it stays down. */
  readonly frames: number;
}

/** What a footfall is made of: shares of the cycle. */
export interface Footfall {
  /** When each foot touches down. */
  readonly falls: readonly number[];
  /** How long feet stay down. */
  readonly down: number;
  /** From -1 to 1: the left foot is sore, or the right one; it stays down for less, and the other hurries to relieve it. */
  readonly limp: number;
}

/** The least frames a foot is down, and in the air. */
const LEAST = { down: 2, air: 3 } as const;

/** When the feet of a body are down in a cycle of so many frames. */
export function fallsOf({ legs }: Anatomy, length: number, { falls, down, limp }: Footfall): Fall[] {
  const sore = limp < 0 ? 'left' : 'right';
  return legs.map((leg, i) => {
    const isSore = limp !== 0 && leg.side === sore;
    const hurry = limp !== 0 && !isSore ? -0.1 * Math.abs(limp) : 0;
    const stays = down * (isSore ? 1 - 0.3 * Math.abs(limp) : 1);
    const from = Math.round((falls[i] + hurry) * length);
    const frames = Math.min(Math.max(Math.round(stays * length), LEAST.down), length - LEAST.air);
    return { leg, from: ((from % length) + length) % length, frames };
  });
}

/** Whether each foot does what its partner does half a cycle later. */
export const areOpposite = (falls: readonly Fall[], length: number): boolean =>
  falls.every(({ leg, from, frames }) => {
    const other = falls.find((f) => f.leg.girdle === leg.girdle && f.leg.side !== leg.side)!;
    return frames === other.frames && (((other.from - from) % length) + length) % length === length / 2;
  });

export const stancesOf = (falls: readonly Fall[]): Clip['stances'] =>
  Object.fromEntries(falls.map(({ leg, from, frames }) => [leg.control, [{ from, to: from + frames }]]));

/** How far forward a foot is: 1 where it touches down, -1 where it leaves the ground. */
export function forwardness({ from, frames }: Fall, phase: number, length: number): number {
  const along = (((phase - from) % length) + length) % length;
  if (along <= frames) return 1 - (2 * along) / frames;
  return -Math.cos((Math.PI * (along - frames)) / (length - frames));
}

/** How much a foot carries: 0 in the air, 1 in the middle of its stance. */
export function load({ from, frames }: Fall, phase: number, length: number): number {
  const along = (((phase - from) % length) + length) % length;
  if (along >= frames) return 0;
  const edge = Math.max(1, Math.min(frames / 2, length / 8));
  return Math.min(1, along / edge, (frames - along) / edge);
}

/** One time that the feet of a girdle come down: apart, or nearly together. */
export interface Beat {
  /** Where it begins, and the four poses of it, in frames of the cycle. */
  readonly contact: number;
  readonly down: number;
  readonly passing: number;
  readonly up: number;
  /** The foot it begins with. */
  readonly fall: Fall;
  /** Two feet at once. */
  readonly together: boolean;
}

/**
 * The beats of a girdle in a cycle. Feet that come down within a quarter of a cycle of one another make one beat, of the whole
 * cycle; otherwise each makes its own.
 * @param heavy from 0 to 1: the weight comes down later
 */
export function beatsOf(falls: readonly Fall[], length: number, heavy: number): Beat[] {
  const [a, b] = [...falls].sort((x, y) => x.from - y.from);
  const gap = (((b.from - a.from) % length) + length) % length;
  const near = Math.min(gap, length - gap);
  if (near < length / 4) {
    const lead = gap <= length - gap ? a : b;
    const frames = lead.frames + near;
    const at = (share: number) => Math.round(lead.from + share);
    return [
      {
        contact: lead.from,
        down: at(Math.max(1, frames / 2)),
        passing: at(frames),
        up: at((frames + length) / 2),
        fall: lead,
        together: true,
      },
    ];
  }
  return [
    [a, gap],
    [b, length - gap],
  ].map(([f, span]) => {
    const fall = f as Fall;
    const at = (share: number) => fall.from + Math.round(share * (span as number));
    return { contact: fall.from, down: at(0.25 + 0.09 * heavy), passing: at(0.5), up: at(0.75), fall, together: false };
  });
}
