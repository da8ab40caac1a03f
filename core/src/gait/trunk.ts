import type { Anatomy } from './anatomy.ts';
import type { CycleKeys } from './cycle-keys.ts';
import type { Gait } from './dials.ts';
import { type Beat, beatsOf, type Fall, forwardness, load } from './footfall.ts';

const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** How high a girdle is at the four poses of a beat, as shares of its bob. */
function heights({ heavy, spring }: Gait): Readonly<Record<'contact' | 'down' | 'passing' | 'up', number>> {
  const [weight, give] = [heavy / 100, spring / 100];
  return {
    contact: -0.15 + 0.1 * weight,
    down: -0.5 - 0.2 * weight - 0.15 * give,
    passing: 0.62 - 0.76 * weight + 0.06 * give,
    up: 0.5 - 0.1 * weight + 0.25 * give,
  };
}

const poses = ['contact', 'down', 'passing', 'up'] as const;

/** What a pair of legs does to what they carry, at a frame of the cycle. */
class Girdle {
  readonly beats: readonly Beat[];
  readonly #falls: readonly Fall[];
  readonly #length: number;
  /** What turns by one have to be multiplied with to turn as far as is asked for. */
  readonly #turnBy: number;

  constructor(falls: readonly Fall[], length: number, heavy: number) {
    this.#falls = falls;
    this.#length = length;
    this.beats = beatsOf(falls, length, heavy);
    const widest = Math.max(...this.frames.map((f) => Math.abs(this.#difference(f))));
    this.#turnBy = widest > 0.5 ? 1 / widest : 1;
  }

  /** The frames of its poses, in whole frames of the cycle. */
  get frames(): number[] {
    return this.beats.flatMap((beat) => poses.map((p) => beat[p]));
  }

  #of(side: 'left' | 'right'): Fall {
    return this.#falls.find((f) => f.leg.side === side)!;
  }

  #difference(frame: number): number {
    const length = this.#length;
    return (forwardness(this.#of('right'), frame, length) - forwardness(this.#of('left'), frame, length)) / 2;
  }

  /** How far the right side is turned forward, from -1 to 1. */
  turn(frame: number): number {
    return this.#difference(frame) * this.#turnBy;
  }

  /** On which foot the weight is: 1 on the left, -1 on the right one. */
  weight(frame: number): number {
    return load(this.#of('left'), frame, this.#length) - load(this.#of('right'), frame, this.#length);
  }

  /** How far forward its feet are on the whole. */
  ahead(frame: number): number {
    return this.#falls.reduce((s, f) => s + forwardness(f, frame, this.#length) / this.#falls.length, 0);
  }
}

/** The girdles of a body, by name. */
function girdles(falls: readonly Fall[], length: number, heavy: number): Map<'hips' | 'chest', Girdle> {
  const out = new Map<'hips' | 'chest', Girdle>();
  for (const name of ['hips', 'chest'] as const) {
    const own = falls.filter((f) => f.leg.girdle === name);
    if (own.length > 0) out.set(name, new Girdle(own, length, heavy));
  }
  return out;
}

/** How much the sore side is spared: it sinks less onto the sore foot, and falls onto the other. */
const spared = (gait: Gait, beat: Beat): number => {
  if (gait.limp === 0) return 0;
  const sore = gait.limp < 0 === (beat.fall.leg.side === 'left');
  return ((sore ? 1 : -1) * Math.abs(gait.limp)) / 100;
};

/** Writes body, hips and chest. Heights are about nothing: how high the body is at all is found later. */
export function writeTrunk(keys: CycleKeys, anatomy: Anatomy, gait: Gait, falls: readonly Fall[]): void {
  const parts = girdles(falls, keys.length, gait.heavy / 100);
  writeHeights(keys, anatomy, gait, parts);
  const hips = parts.get('hips')!;
  const leg = anatomy.legLength;
  for (const frame of hips.frames) {
    const weight = hips.weight(frame);
    keys.put('body.move.x', frame, (weight * gait.sway * leg) / 100);
    keys.put('hips.turn.z', frame, rad(gait.tilt) * weight);
    keys.put('hips.turn.y', frame, rad(gait.turn) * hips.turn(frame));
  }
  const chest = parts.get('chest');
  if (chest) {
    writeForehand(keys, gait, hips, chest);
    writeNod(keys, anatomy, gait, chest);
  } else if (anatomy.has('chest')) writeChest(keys, gait, hips);
}

function writeHeights(keys: CycleKeys, anatomy: Anatomy, gait: Gait, parts: ReadonlyMap<string, Girdle>): void {
  const bob = (gait.bob / 100) * anatomy.legLength;
  const at = heights(gait);
  const channels = [...parts].map(([name, girdle]) => {
    // In a channel of its own first: a body on four legs takes its height and its pitch from both.
    const channel = parts.size > 1 ? `${name}.height` : 'body.move.y';
    for (const beat of girdle.beats) {
      const give = beat.together ? 1.8 : 1;
      const sore = spared(gait, beat);
      for (const pose of poses) {
        const less = pose === 'down' ? 0.5 * sore : pose === 'up' ? -0.3 * Math.abs(sore) : 0;
        keys.put(channel, beat[pose], bob * give * (at[pose] + less));
      }
    }
    return channel;
  });
  // A body on four legs has nowhere to lean to: it only hangs a little.
  const leans = rad(gait.lean) * (parts.size > 1 ? 0.3 : 1);
  const nod = rad(1 + gait.heavy / 60);
  if (channels.length === 1) {
    for (const beat of parts.get('hips')!.beats) {
      keys.put('body.turn.x', beat.down, leans + nod);
      keys.put('body.turn.x', beat.up, leans - nod);
    }
    return;
  }
  const [hind, fore] = channels.map((c) => keys.reader(c));
  const frames = [...new Set([...parts.values()].flatMap((g) => g.frames.map((f) => keys.phase(f))))];
  for (const frame of frames) {
    const [h, f] = [hind(frame), fore(frame)];
    keys.put('body.move.y', frame, (h + f) / 2);
    keys.put('body.turn.x', frame, leans + Math.atan((h - f) / anatomy.span));
  }
  for (const channel of channels) keys.drop(channel);
}

/** The chest of two legs: against the hips, and later. */
function writeChest(keys: CycleKeys, gait: Gait, hips: Girdle): void {
  const lag = Math.round(gait.chestLag);
  for (const beat of hips.beats) {
    for (const pose of poses) {
      const frame = beat[pose];
      keys.put('chest.turn.y', frame + lag, -rad(gait.counter) * hips.turn(frame));
      keys.put('chest.turn.z', frame + lag, -rad(gait.tilt * 0.7) * hips.weight(frame));
    }
    keys.put('chest.turn.x', beat.down + lag, rad(gait.lean * 0.35 + 0.6 + gait.heavy / 50));
    keys.put('chest.turn.x', beat.up + lag, rad(gait.lean * 0.35 - 0.6));
  }
}

/** Hips and chest of four legs: each turns with its own legs, and the back bends where hind and forelegs come together. */
function writeForehand(keys: CycleKeys, gait: Gait, hips: Girdle, chest: Girdle): void {
  for (const frame of chest.frames) {
    keys.put('chest.turn.y', frame, rad(gait.counter) * chest.turn(frame));
    keys.put('chest.turn.z', frame, rad(gait.tilt * 0.6) * chest.weight(frame));
  }
  const lag = Math.round(gait.chestLag);
  const frames = [...new Set([...hips.frames, ...chest.frames].map((f) => keys.phase(f)))];
  for (const frame of frames) {
    // 1 where the hind feet are under the body and the forefeet behind it.
    const gathered = (hips.ahead(frame) - chest.ahead(frame)) / 2;
    keys.put('hips.turn.x', frame, -rad(gait.flex) * (gathered + stepping(hips, frame)));
    keys.put('chest.turn.x', frame + lag, rad(gait.flex) * (gathered - stepping(chest, frame)));
  }
}

/** Where feet of a pair go one after the other, each that steps under bends the back a little: how much, about nothing. */
const stepping = (girdle: Girdle, frame: number): number => 0.3 * (Math.abs(girdle.turn(frame)) - 0.5);

/** How many frames the head comes after the shoulders. */
const NOD_LAG = 2;

/** The head of four legs goes down and ahead as a forefoot takes the weight, and comes up before the next. */
function writeNod(keys: CycleKeys, { has, legLength }: Anatomy, gait: Gait, chest: Girdle): void {
  if (!has('head') || gait.nod === 0) return;
  const far = (gait.nod / 100) * legLength;
  for (const beat of chest.beats) {
    for (const [pose, down] of [
      ['down', 0.5],
      ['up', -0.5],
    ] as const) {
      keys.put('head.move.y', beat[pose] + NOD_LAG, -far * down);
      keys.put('head.move.z', beat[pose] + NOD_LAG, far * 0.6 * down);
    }
  }
}
