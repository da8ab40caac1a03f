import type { Curve, NumberCurve } from '../curve/key.ts';
import { valueAt } from '../curve/sample.ts';
import type { AnyKey } from '../curve/turn-back.ts';
import { controlsOf } from '../document/casting.ts';
import { channelPath, splitPath } from '../document/channels.ts';
import type { Clip, Stance } from '../document/clip.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { channelValue } from '../evaluate/channel-value.ts';
import { mirrorImage } from '../rig/image.ts';
import { alike, type Circle, circleOf, laidOut } from './circle.ts';
import { type Counterpart, counterparts, opposite, putImage } from './halves.ts';
import { soleChannels, soleOf } from './sole.ts';
import { type GroundWay, groundSpeed, holdStance, isOneTurn, moves, turns } from './stances.ts';

/**
 * What holds in every cycling clip after every edit, whatever command made it: its curves cycle with the clip's length, the two
 * ends of the seam are one key, keys beyond an end have come in at the other, feet on the ground go with it, and where halves are
 * mirrored, keys of one step are keys of both. What has no keys is left alone: a pose is put together before it is keyed.
 * @param before the shot before the edit @param after as the edit left it
 */
export function sealed(before: Shot, after: Shot): Shot {
  if (after.curves === before.curves && after.clips === before.clips && after.members === before.members) return after;
  let next = after;
  for (const clip of after.clips.values()) {
    if (clip.kept === null && clip.cycles) next = new Sealing(before, next, clip).done();
  }
  return next;
}

class Sealing {
  readonly #before: Shot;
  readonly #after: Shot;
  readonly #clip: Clip;
  /** Its rig's controls: which member each is. */
  readonly #controls: ReadonlyMap<string, string>;
  /** Circles of the curves that the edit, or what follows from it, has changed. */
  readonly #circles = new Map<string, Circle>();
  readonly #touched = new Map<string, Set<number>>();

  constructor(before: Shot, after: Shot, clip: Clip) {
    this.#before = before;
    this.#after = after;
    this.#clip = clip;
    this.#controls = new Map(controlsOf(after, clip.rig).map((c) => [c.id, c.shape.control]));
  }

  done(): Shot {
    const clip = this.#clip;
    const anew = this.#before.clips.get(clip.id) !== clip;
    if (anew) for (const [path] of curvesOf(this.#after, controlsOf(this.#after, clip.rig))) this.#take(path, anew);
    else {
      this.#before.curves.changesTo(this.#after.curves, (path) => {
        if (this.#controls.has(splitPath(path).member)) this.#take(path, anew);
      });
    }
    this.#holdFeet(anew);
    if (clip.halves === 'mirrored' && !anew) this.#mirror();
    return this.#laid();
  }

  /** Puts a curve on its circle, and notes where the edit has changed it. */
  #take(path: string, anew: boolean): void {
    const [old, now] = [anew ? undefined : this.#before.curves.get(path), this.#after.curves.get(path)];
    const circle: Circle = now ? circleOf(now, this.#clip, old) : new Map();
    this.#circles.set(path, circle);
    const was: Circle = old ? circleOf(old, this.#clip, undefined) : new Map();
    const touched = new Set<number>();
    for (const [phase, key] of circle) {
      const there = was.get(phase);
      if (there !== key && !(there && alike(there, key))) touched.add(phase);
    }
    for (const phase of was.keys()) if (!circle.has(phase)) touched.add(phase);
    this.#touched.set(path, touched);
  }

  /** The circle of a curve, to be changed. */
  #circle(path: string): Circle {
    const circle = this.#look(path);
    this.#circles.set(path, circle);
    return circle;
  }

  /** The circle of a curve, to be read. */
  #look(path: string): Circle {
    const there = this.#circles.get(path);
    if (there) return there;
    const curve = this.#after.curves.get(path);
    return curve ? circleOf(curve, this.#clip, curve) : new Map();
  }

  #holdFeet(anew: boolean): void {
    for (const [id, control] of this.#controls) {
      for (const stance of this.#clip.stances[control] ?? []) this.#holdFoot(id, stance, anew);
    }
  }

  #holdFoot(id: string, stance: Stance, anew: boolean): void {
    for (const channel of turns) {
      const path = channelPath(id, channel);
      if ((anew || this.#circles.has(path)) && this.#staysTurned(path, channel, stance, anew))
        this.#holdChannel(path, stance, { speed: 0, shift: null });
    }
    const roll = this.#rollOf(id, stance);
    moves.forEach((channel, axis) => {
      const path = channelPath(id, channel);
      if (!anew && !this.#circles.has(path) && !roll?.changed) return;
      const shift = roll && ((phase: number) => roll.at(phase)[axis]);
      this.#holdChannel(path, stance, { speed: groundSpeed(this.#clip, channel), shift });
    });
  }

  #holdChannel(path: string, stance: Stance, way: GroundWay): void {
    const curve = this.#after.curves.get(path);
    if (curve?.type !== 'number') return;
    const circle = this.#circle(path);
    const old = new Map(circle);
    const touched = this.#touched.get(path) ?? new Set<number>();
    const shown = (phase: number) => valueAt(curve, this.#clip.first + phase);
    holdStance(circle, stance, this.#clip, way, touched, shown);
    for (const phase of new Set([...old.keys(), ...circle.keys()]))
      if (old.get(phase) !== circle.get(phase)) touched.add(phase);
    this.#touched.set(path, touched);
  }

  /**
   * Whether a foot's turn is held through a stance: where its keys there say but one. What says which way the toes point is taken
   * along by a hand that changes it at one of them; what rolls the foot is not.
   */
  #staysTurned(path: string, channel: string, stance: Stance, anew: boolean): boolean {
    const { length } = this.#clip;
    if (isOneTurn(this.#look(path), stance, length)) return true;
    const old = channel === 'turn.y' && !anew ? this.#before.curves.get(path) : undefined;
    return old !== undefined && isOneTurn(circleOf(old, this.#clip, old), stance, length);
  }

  /** How a foot's control gives way to its roll in a stance; null where its control does not roll it. */
  #rollOf(id: string, stance: Stance): { changed: boolean; at(phase: number): readonly number[] } | null {
    const { first, length } = this.#clip;
    const rolls = (['turn.x', 'turn.z'] as const).some(
      (channel) => !isOneTurn(this.#look(channelPath(id, channel)), stance, length),
    );
    const member = this.#after.members.at(id);
    const rig = this.#after.members.at(this.#clip.rig);
    const compiled = rig.kind === 'rig' && rolls ? this.#after.rigs.at(rig.shape) : null;
    const sole = compiled && member.kind === 'control' ? soleOf(compiled, member) : null;
    if (!sole) return null;
    const curves = new Map(soleChannels.map((c) => [c, this.#numberCurve(channelPath(id, c))]));
    const known = new Map<number, readonly number[]>();
    const work = (phase: number) =>
      sole.shift((channel) => {
        const curve = curves.get(channel);
        if (curve) return valueAt(curve, first + phase);
        const value = channelValue(this.#after, channelPath(id, channel), first + phase);
        return typeof value === 'number' ? value : 0;
      });
    return {
      changed: soleChannels.some((c) => this.#circles.has(channelPath(id, c))),
      at(phase) {
        const there = known.get(phase) ?? work(phase);
        known.set(phase, there);
        return there;
      },
    };
  }

  /** A curve as its circle has it now; null for a channel without keys. */
  #numberCurve(path: string): NumberCurve | null {
    const curve = laidOut(this.#look(path), 'number', this.#clip);
    return curve?.type === 'number' ? curve : null;
  }

  #mirror(): void {
    const clip = this.#clip;
    const counterpart = counterparts(this.#after, clip);
    // What is read here is what the edit has done; images must not be mirrored back.
    for (const [path, touched] of [...this.#touched]) {
      const other = counterpart(path);
      if (!other) continue;
      const theirs = this.#touched.get(other.path);
      for (const phase of touched) {
        const at = opposite(clip, phase);
        // Where an edit has done both sides at once, the first half leads, and what is its image already stays.
        if (theirs?.has(at) && (phase >= clip.length / 2 || this.#areImages(path, phase, other.path, at))) continue;
        if (other.path !== path) this.#anchor(path, phase, other);
        putImage(this.#circle(path), phase, this.#circle(other.path), clip, other.sign);
      }
    }
  }

  /**
   * Where one side is keyed and the other has no keys yet, the other is keyed on the same frame as it stands: otherwise the image
   * that comes to it half a cycle later would be all it has, and would hold everywhere.
   */
  #anchor(path: string, phase: number, other: Counterpart): void {
    const key = this.#circle(path).get(phase);
    const theirs = this.#circle(other.path);
    if (!key || theirs.size > 0 || typeof key.value !== 'number') return;
    const value = channelValue(this.#after, other.path, this.#clip.first + phase);
    if (typeof value !== 'number') return;
    theirs.set(phase, { ...key, value, in: { kind: 'smooth' }, out: { kind: 'smooth' }, joined: true } as AnyKey);
    const back = counterparts(this.#after, this.#clip)(other.path);
    if (back) putImage(theirs, phase, this.#circle(path), this.#clip, back.sign);
  }

  #areImages(path: string, phase: number, other: string, at: number): boolean {
    const sign = counterparts(this.#after, this.#clip)(path)?.sign;
    const [a, b] = [this.#circle(path).get(phase), this.#circle(other).get(at)];
    if (!a || !b || sign === undefined) return a === b;
    if (typeof a.value !== 'number' || typeof b.value !== 'number') return false;
    return Math.abs((mirrorImage(a.value, sign) as number) - b.value) < 1e-9;
  }

  #laid(): Shot {
    if (this.#circles.size === 0) return this.#after;
    const curves = this.#after.curves.edit();
    for (const [path, circle] of this.#circles) {
      const was: Curve | undefined = this.#after.curves.get(path);
      const [first] = circle.values();
      const now = first && laidOut(circle, typeof first.value === 'number' ? 'number' : 'orientation', this.#clip);
      if (!now) curves.delete(path);
      else if (!was || !sameCurve(was, now)) curves.set(path, now);
    }
    return { ...this.#after, curves: curves.done() };
  }
}

const sameCurve = (a: Curve, b: Curve): boolean =>
  a.before === b.before &&
  a.after === b.after &&
  a.period === b.period &&
  a.keys.length === b.keys.length &&
  a.keys.every((k, i) => k === b.keys[i] || (k.frame === b.keys[i].frame && alike(k, b.keys[i])));
