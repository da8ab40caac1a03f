import type { Key } from '@varrup/core';

/**
 * Keys for something that is thrown and bounces, as an animator sets them: a slow top, a sharp ground. Between contacts
 * height is a parabola, and a cubic with handles of a third draws a parabola exactly, wherever on it its keys stand. So
 * the top can be keyed on a whole frame.
 */

/** A frame and a height. */
export interface Point {
  readonly frame: number;
  readonly value: number;
}

/** The parabola from one point to another under a gravity, in value per frame². */
class Flight {
  readonly #from: Point;
  readonly #gravity: number;
  /** Speed upwards on leaving, in value per frame. */
  readonly launch: number;
  readonly topFrame: number;

  constructor(from: Point, to: Point, gravity: number) {
    const frames = to.frame - from.frame;
    this.#from = from;
    this.#gravity = gravity;
    this.launch = (to.value - from.value) / frames + (gravity * frames) / 2;
    this.topFrame = from.frame + this.launch / gravity;
  }

  value(frame: number): number {
    const t = frame - this.#from.frame;
    return this.#from.value + this.launch * t - (this.#gravity * t * t) / 2;
  }

  slope(frame: number): number {
    return this.launch - this.#gravity * (frame - this.#from.frame);
  }
}

/**
 * Keys of a height that lies still, falls, bounces from contact to contact and lies still again.
 * @param rest how long it lies before it falls: the frame it begins to lie, the frame it falls, its height
 * @param contacts the landings in order; at the last it stays
 */
export function bouncingHeight(
  rest: { from: number; until: number; value: number },
  contacts: readonly Point[],
  gravity: number,
): Key[] {
  const points: Point[] = [{ frame: rest.until, value: rest.value }, ...contacts];
  const flights = points.slice(1).map((to, i) => new Flight(points[i], to, gravity));
  // The frames that get a key, each with the flight before it and the flight after it.
  const stops: { frame: number; value: number; into?: Flight; out?: Flight; since: number; until: number }[] = [];
  flights.forEach((flight, i) => {
    const [from, to] = [points[i], points[i + 1]];
    const top = Math.round(flight.topFrame);
    const hasTop = i > 0 && top > from.frame && top < to.frame;
    const firstEnd = hasTop ? top : to.frame;
    stops.push({
      ...from,
      into: flights[i - 1],
      out: flight,
      since: stops.at(-1)?.frame ?? from.frame,
      until: firstEnd,
    });
    if (hasTop) {
      stops.push({
        frame: top,
        value: flight.value(top),
        into: flight,
        out: flight,
        since: from.frame,
        until: to.frame,
      });
    }
  });
  const end = points[points.length - 1];
  stops.push({ ...end, into: flights.at(-1), since: stops.at(-1)!.frame, until: end.frame });

  const lying: Key = {
    frame: rest.from,
    value: rest.value,
    in: { kind: 'flat' },
    out: { kind: 'flat' },
    joined: true,
    role: 'key',
  };
  return [lying, ...stops.map(shapedKey)];
}

function shapedKey(stop: {
  frame: number;
  value: number;
  into?: Flight;
  out?: Flight;
  since: number;
  until: number;
}): Key {
  const back = (stop.frame - stop.since) / 3;
  const on = (stop.until - stop.frame) / 3;
  return {
    frame: stop.frame,
    value: stop.value,
    in: stop.into ? { kind: 'free', frames: back, rise: -stop.into.slope(stop.frame) * back } : { kind: 'flat' },
    out: stop.out ? { kind: 'free', frames: on, rise: stop.out.slope(stop.frame) * on } : { kind: 'flat' },
    joined: stop.into === stop.out,
    role: 'key',
  };
}

/** The same keys for another channel that goes with this one at a fixed ratio, as a roll goes with its travel. */
export function inProportion(keys: readonly Key[], ratio: number, zero: number): Key[] {
  const handle = <H extends Key['in'] | Key['out']>(h: H): H =>
    h.kind === 'free' ? { ...h, rise: h.rise * ratio } : h;
  return keys.map((k) => ({ ...k, value: (k.value - zero) * ratio, in: handle(k.in), out: handle(k.out) }));
}
