import type { Clip } from '../document/clip.ts';
import { scaleOf } from '../pose/affine.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import type { FrameNumbers, Operation } from '../rig/operation.ts';
import { type Course, CourseReader } from '../track/course.ts';
import { CompiledWay } from './way.ts';

/** How a rig gets on while it does a clip that travels. */

/** How far a clip has got at a frame, metres. */
export function travelled({ first, length, travel, cycles }: Clip, frame: number): number {
  const share = (frame - first) / length;
  return travel * (cycles ? share : Math.min(1, Math.max(0, share)));
}

/** The root of a rig that goes straight ahead, from where its member stands. */
export class StraightAhead implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #from: number;
  readonly #root: number;
  readonly #clip: Clip;

  constructor(slot: number, root: number, clip: Clip) {
    this.reads = [slot];
    this.writes = [root];
    this.#from = slot * 16;
    this.#root = root * 16;
    this.#clip = clip;
  }

  run({ world, at }: FrameNumbers): void {
    goAhead(world, this.#from, this.#root, travelled(this.#clip, at));
  }
}

/** The root of a rig that goes as its tracks take it, from where its member stands. */
export class AlongTracks implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #from: number;
  readonly #root: number;
  #course: Course | null = null;
  #reader = new CourseReader(null);

  constructor(slot: number, root: number) {
    this.reads = [slot];
    this.writes = [root];
    this.#from = slot * 16;
    this.#root = root * 16;
  }

  /** Tells how they take it. */
  goBy(course: Course | null): void {
    if (course === this.#course) return;
    this.#course = course;
    this.#reader = new CourseReader(course);
  }

  run({ world, at }: FrameNumbers): void {
    const reader = this.#reader;
    goAhead(world, this.#from, this.#root, reader.z(at));
    if (!reader.turns) return;
    const [aside, turn] = [reader.x(at), reader.turn(at)];
    const [from, root] = [this.#from, this.#root];
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    for (let r = 0; r < 3; r++) {
      const [x, z] = [world[from + r], world[from + 8 + r]];
      world[root + 12 + r] += x * aside;
      world[root + r] = x * c - z * s;
      world[root + 8 + r] = x * s + z * c;
    }
  }
}

/** Writes a matrix that stands so far along another one's +Z. */
function goAhead(world: Float64Array, from: number, to: number, far: number): void {
  for (let i = 0; i < 16; i++) world[to + i] = world[from + i];
  for (let r = 0; r < 3; r++) world[to + 12 + r] += world[from + 8 + r] * far;
}

/** A foot on a way: its control's place at rest, and when it is down, in frames of the clip. */
interface FootOnWay {
  readonly place: readonly [number, number, number];
  readonly stances: readonly { readonly from: number; readonly to: number }[];
  /** From its place to its heel and toe, along z. */
  readonly heel: number;
  readonly toe: number;
}

const smooth = (t: number) => {
  const s = Math.min(1, Math.max(0, t));
  return s * s * (3 - 2 * s);
};

/** Steeper than this is an edge and no slope. */
const STEEPEST = Math.tan((40 * Math.PI) / 180);
/** How far a foot is set forward or back so as not to stand on an edge, metres. */
const MOST_ASIDE = 0.25;

/** Feet that carry the same part of a body: those of two legs, or of the two hind or forelegs of four. */
interface Girdle {
  readonly feet: readonly FootOnWay[];
  /** How far forward its feet are at rest. */
  readonly forward: number;
  /** When one of its feet comes down, frames of the clip, in order. */
  readonly touchdowns: readonly number[];
}

/** Feet nearer to one another along z than this are of one girdle, metres. */
const ONE_GIRDLE = 0.1;

/** The girdles of a body, the hindmost first. */
function girdlesOf(feet: readonly FootOnWay[]): Girdle[] {
  const sorted = [...feet].sort((a, b) => a.place[2] - b.place[2]);
  const groups: FootOnWay[][] = [];
  for (const foot of sorted) {
    const last = groups.at(-1);
    if (last && foot.place[2] - last[0].place[2] < ONE_GIRDLE) last.push(foot);
    else groups.push([foot]);
  }
  return groups.map((own) => ({
    feet: own,
    forward: own.reduce((sum, f) => sum + f.place[2] / own.length, 0),
    touchdowns: [...new Set(own.flatMap((f) => f.stances.map((s) => s.from)))].sort((a, b) => a - b),
  }));
}

/** How far above the lower of its feet a body is carried at a touchdown, as a share of how much higher the other one is. */
const ABOVE_LOWER = 0.15;

/**
 * A walk along a way. A foot that is down stands still: its space goes straight on along the way's direction where it stands, at
 * the height of the ground there; between two steps it goes over from the one to the other. The body follows the way itself, at
 * the height its feet give it.
 */
export class Walk {
  readonly #clip: Clip;
  readonly #way: CompiledWay;
  readonly #feet: readonly FootOnWay[];
  /** The treads a foot stands on or is between: metres along the way, height, and pitch of the ground there. */
  readonly #from = new Float64Array(3);
  readonly #to = new Float64Array(3);
  readonly #place = new Float64Array(3);
  /** Four touchdowns around now: when, and how high. */
  readonly #times = new Float64Array(4);
  readonly #knots = new Float64Array(4);
  readonly #girdles: readonly Girdle[];

  constructor(clip: Clip, way: CompiledWay, feet: readonly FootOnWay[]) {
    this.#clip = clip;
    this.#way = way;
    this.#feet = feet;
    this.#girdles = girdlesOf(feet);
  }

  /** Finds where a foot stands in the stance that has its middle at a frame of the clip. */
  #tread(foot: FootOnWay, middle: number, scale: number, out: Float64Array): void {
    const { travel, length } = this.#clip;
    const d = ((travel * middle) / length + foot.place[2]) * scale;
    const [back, ahead] = [foot.heel * scale, foot.toe * scale];
    const slope = (by: number) =>
      (this.#way.heightAt(d + by + ahead) - this.#way.heightAt(d + by + back)) / (ahead - back);
    const even = (by: number) => {
      const rise = slope(by);
      const mean = this.#way.heightAt(d + by + back) + rise * -back;
      return Math.abs(rise) < STEEPEST && Math.abs(this.#way.heightAt(d + by) - mean) < 0.004;
    };
    let aside = 0;
    for (let by = 0; by <= MOST_ASIDE; by += 0.01) {
      if (even(by)) {
        aside = by;
        break;
      }
      if (even(-by)) {
        aside = -by;
        break;
      }
    }
    out[0] = d + aside;
    out[1] = this.#way.heightAt(d + aside);
    out[2] = even(aside) ? Math.atan(slope(aside)) : 0;
  }

  /** Finds the treads a foot is on, or between, and how far it has gone over: 0 while it stands. */
  #treads(foot: FootOnWay, at: number, scale: number): number {
    const { first, length } = this.#clip;
    const time = at - first;
    const round = Math.floor(time / length);
    const phase = time - round * length;
    let [end, begin] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
    let [last, next] = [0, 0];
    for (let s = 0; s < foot.stances.length; s++) {
      const { from, to } = foot.stances[s];
      for (let k = -2; k <= 2; k++) {
        const shift = k * length;
        const middle = (round + k) * length + (from + to) / 2;
        if (from + shift <= phase && phase <= to + shift) {
          this.#tread(foot, middle, scale, this.#from);
          this.#to.set(this.#from);
          return 0;
        }
        if (to + shift < phase && to + shift > end) [end, last] = [to + shift, middle];
        if (from + shift > phase && from + shift < begin) [begin, next] = [from + shift, middle];
      }
    }
    this.#tread(foot, last, scale, this.#from);
    this.#tread(foot, next, scale, this.#to);
    return (phase - end) / (begin - end);
  }

  /** Height and pitch of a foot's space: it rises before it gets there, and sinks only after it is past the edge. */
  #heightAt(share: number): number {
    const [from, to] = [this.#from[1], this.#to[1]];
    const gone = to > from ? smooth(share / 0.5) : smooth((share - 0.5) / 0.5);
    return from + (to - from) * gone;
  }

  /** Writes the space of a foot to a node. */
  writeFoot(index: number, { world, at }: FrameNumbers, node: number, scale: number): void {
    const foot = this.#feet[index];
    const share = this.#treads(foot, at, scale);
    const gone = smooth(share);
    const from = this.#from;
    const to = this.#to;
    const here = (travelled(this.#clip, at) + foot.place[2]) * scale;
    const place = this.#place;
    // On each tread the space goes straight on as fast as the foot goes back in it, up or down the slope there: so the foot stands.
    this.#way.placeAt(from[0], place);
    const [x0, z0, h0] = place;
    const on = (here - from[0]) * Math.cos(from[2]);
    this.#way.placeAt(to[0], place);
    const [x1, z1, h1] = place;
    const ahead = (here - to[0]) * Math.cos(to[2]);
    const x = mix(x0 + Math.sin(h0) * on, x1 + Math.sin(h1) * ahead, gone);
    const z = mix(z0 + Math.cos(h0) * on, z1 + Math.cos(h1) * ahead, gone);
    const climbed = mix((here - from[0]) * Math.sin(from[2]), (here - to[0]) * Math.sin(to[2]), gone);
    const pitch = mix(from[2], to[2], gone);
    write(world, node * 16, x, this.#heightAt(share) + climbed, z, mix(h0, h1, gone), -pitch, scale);
    // The space is measured from the foot's place: its control stands in it at the side it stands on.
    shiftBy(world, node * 16, foot.place[0], foot.place[1], 0);
  }

  /** Writes the root of the rig: on the way, as high as its girdles are carried on the whole, and as steep. */
  writeRoot({ world, at }: FrameNumbers, node: number, scale: number): void {
    const far = travelled(this.#clip, at) * scale;
    this.#way.placeAt(far, this.#place);
    const [x, z, heading] = this.#place;
    if (this.#girdles.length === 0) {
      write(world, node * 16, x, this.#way.heightAt(far), z, heading, 0, scale);
      return;
    }
    const [hind, fore] = [this.#girdles[0], this.#girdles[this.#girdles.length - 1]];
    const [low, high] = [this.#carried(hind, at, scale), this.#carried(fore, at, scale)];
    const run = (fore.forward - hind.forward) * scale;
    const pitch = run > 0 ? Math.atan((high - low) / run) : 0;
    const middle = ((hind.forward + fore.forward) / 2) * scale;
    write(world, node * 16, x, (low + high) / 2 - middle * Math.sin(pitch), z, heading, -pitch, scale);
  }

  /**
   * How high a girdle is carried: at each touchdown hardly above the lower of its feet, so that the leg behind still reaches, and from one
   * touchdown to the next over to there (a cubic through them, its slopes those of a Catmull-Rom spline).
   */
  #carried(girdle: Girdle, at: number, scale: number): number {
    const { touchdowns } = girdle;
    const time = at - this.#clip.first;
    const count = touchdowns.length;
    let i = Math.floor(time / this.#clip.length) * count - 1;
    while (this.#touchdown(girdle, i + 1) <= time) i++;
    const v = this.#knots;
    const t = this.#times;
    for (let k = 0; k < 4; k++) {
      t[k] = this.#touchdown(girdle, i - 1 + k);
      v[k] = this.#heightAtTouchdown(girdle, t[k], scale);
    }
    const span = t[2] - t[1];
    const [leave, arrive] = [((v[2] - v[0]) / (t[2] - t[0])) * span, ((v[3] - v[1]) / (t[3] - t[1])) * span];
    const u = (time - t[1]) / span;
    const [u2, u3] = [u * u, u * u * u];
    return v[1] * (2 * u3 - 3 * u2 + 1) + leave * (u3 - 2 * u2 + u) + v[2] * (3 * u2 - 2 * u3) + arrive * (u3 - u2);
  }

  /** The frame from the clip's first at which a girdle's `i`th touchdown is; the rounds before it count below 0. */
  #touchdown({ touchdowns }: Girdle, i: number): number {
    const round = Math.floor(i / touchdowns.length);
    return touchdowns[i - round * touchdowns.length] + round * this.#clip.length;
  }

  #heightAtTouchdown({ feet }: Girdle, time: number, scale: number): number {
    const { length } = this.#clip;
    const round = Math.floor(time / length);
    let [lowest, highest] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const foot of feet) {
      // Where it stands, or stood last.
      let [begun, middle] = [Number.NEGATIVE_INFINITY, 0];
      for (const { from, to } of foot.stances) {
        for (let k = -2; k <= 0; k++) {
          const start = from + (round + k) * length;
          if (start <= time && start > begun) [begun, middle] = [start, start + (to - from) / 2];
        }
      }
      this.#tread(foot, middle, scale, this.#to);
      lowest = Math.min(lowest, this.#to[1]);
      highest = Math.max(highest, this.#to[1]);
    }
    return lowest + (highest - lowest) * ABOVE_LOWER;
  }
}

const mix = (a: number, b: number, share: number) => a + (b - a) * share;

/** Writes a matrix that turns about its own x by a pitch, then about +Y by a heading, sizes evenly, and moves. */
function write(
  out: Float64Array,
  at: number,
  x: number,
  y: number,
  z: number,
  heading: number,
  pitch: number,
  scale: number,
): void {
  const [ch, sh, cp, sp] = [Math.cos(heading), Math.sin(heading), Math.cos(pitch), Math.sin(pitch)];
  out[at] = ch * scale;
  out[at + 1] = 0;
  out[at + 2] = -sh * scale;
  out[at + 4] = sh * sp * scale;
  out[at + 5] = cp * scale;
  out[at + 6] = ch * sp * scale;
  out[at + 8] = sh * cp * scale;
  out[at + 9] = -sp * scale;
  out[at + 10] = ch * cp * scale;
  out[at + 12] = x;
  out[at + 13] = y;
  out[at + 14] = z;
}

function shiftBy(world: Float64Array, at: number, x: number, y: number, z: number): void {
  for (let r = 0; r < 3; r++) world[at + 12 + r] += world[at + r] * x + world[at + 4 + r] * y + world[at + 8 + r] * z;
}

/** What places a rig on its way: its root, and the spaces of its feet by control. */
export interface WalkSteps {
  readonly root: Operation;
  readonly feet: ReadonlyMap<string, (space: number) => Operation>;
}

/** The steps of a rig that does a clip over the stage. @param root the node of what its parts hang on */
export function walkSteps(clip: Clip, compiled: CompiledRig, slot: number, root: number): WalkSteps {
  if (!clip.way) return { root: new StraightAhead(slot, root, clip), feet: new Map() };
  const feet = compiled.rig.feet.flatMap((foot) => {
    const stances = clip.stances[foot.control] ?? [];
    const control = compiled.rig.controls[compiled.controlAt.get(foot.control)!];
    if (stances.length === 0 || control.in !== null) return [];
    const [heel, toe] = [foot.heel[2] - control.place[2], foot.toe[2] - control.place[2]];
    return [{ control: foot.control, place: control.place, stances, heel, toe }];
  });
  const walk = new Walk(clip, new CompiledWay(clip.way), feet);
  return {
    root: {
      reads: [slot],
      writes: [root],
      run: (now) => walk.writeRoot(now, root, scaleOf(now.world, slot * 16)),
    },
    feet: new Map(
      feet.map(({ control }, i) => [
        control,
        (space: number): Operation => ({
          reads: [slot],
          writes: [space],
          run: (now) => walk.writeFoot(i, now, space, scaleOf(now.world, slot * 16)),
        }),
      ]),
    ),
  };
}
