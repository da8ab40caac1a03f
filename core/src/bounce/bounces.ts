import { type Extreme, extremesOf } from '../curve/extremes.ts';
import type { NumberCurve } from '../curve/key.ts';

/** A fall or a rise: how far, in the channel's unit, and how long, in frames. */
export interface Leg {
  readonly height: number;
  readonly frames: number;
  /** The top it comes from or goes to. */
  readonly top: number;
}

/** One landing of something that bounces. */
export interface Contact {
  /** The frame of contact, whole or not. */
  readonly frame: number;
  /** Until when it lies; the same where it leaves at once. */
  readonly until: number;
  /** The channel's value there. */
  readonly value: number;
  readonly fall: Leg;
  /** The rebound; null where there is none. */
  readonly rise: Leg | null;
  /** Value per frame just before, below 0, and just after. */
  readonly arrive: number;
  readonly leave: number;
}

/** A rise that takes more than this many times its fall is lifted, not thrown back. */
const MOST_HANG = 2.5;
/** Falls and rises smaller than this part of the largest are no bounces but noise. */
const LEAST = 0.004;

/**
 * The landings of a channel that goes up and down, in order: each a fall from a top, and what comes back up, if anything.
 * Whether there is any ground is not asked here.
 */
export function contactsOf(curve: NumberCurve): Contact[] {
  const all = extremesOf(curve);
  const range = Math.max(...all.map((e) => e.value)) - Math.min(...all.map((e) => e.value));
  const extremes = withoutRipples(all, range * LEAST);
  return extremes.flatMap((e, i): Contact[] => {
    const before = extremes[i - 1];
    const after = extremes[i + 1];
    if (e.kind !== 'bottom' || !before) return [];
    const fall = { height: before.value - e.value, frames: e.frame - before.until, top: before.until };
    if (fall.frames <= 0) return [];
    const rise = after && { height: after.value - e.value, frames: after.frame - e.until, top: after.frame };
    const thrown = rise && e.until - e.frame < 1 && rise.frames <= MOST_HANG * fall.frames && rise.frames > 0;
    return [
      {
        frame: e.frame,
        until: e.until,
        value: e.value,
        fall,
        rise: thrown ? rise : null,
        arrive: e.slopeIn,
        leave: e.slopeOut,
      },
    ];
  });
}

/** Extremes without ups and downs too small to see. */
function withoutRipples(extremes: readonly Extreme[], least: number): Extreme[] {
  const out: Extreme[] = [];
  for (const e of extremes) {
    const last = out.at(-1);
    if (last && last.kind === e.kind) {
      // What lay between the two was a ripple: the first of them stays, but where the other goes clearly further.
      const further = last.kind === 'top' ? e.value - last.value : last.value - e.value;
      if (further > least / 10) out[out.length - 1] = e;
    } else if (!last || Math.abs(last.value - e.value) >= least) out.push(e);
  }
  return out;
}

/** The even acceleration, in value per frame², that makes a leg take its frames. */
export const gravityOf = (leg: Leg): number => (2 * leg.height) / (leg.frames * leg.frames);

/** The speed, in value per frame, that a leg has at its lower end. */
export const speedOf = (leg: Leg): number => (2 * leg.height) / leg.frames;

/**
 * The contacts that belong to one bounce: from the one that is followed by rebounds on, without a pause. Each after the first is
 * reached by the rebound of the one before.
 */
export function bouncesOf(contacts: readonly Contact[]): Contact[][] {
  const runs: Contact[][] = [];
  for (const contact of contacts) {
    const last = runs.at(-1)?.at(-1);
    if (last?.rise && Math.abs(last.rise.top - contact.fall.top) < 1e-6) runs.at(-1)!.push(contact);
    else runs.push([contact]);
  }
  return runs.filter((run) => run.some((c) => c.rise));
}
