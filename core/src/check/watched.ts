import { type Landing, landingsOf } from '../bounce/landings.ts';
import { clipAtWork } from '../clip/at-work.ts';
import { channelPath, ORIENTATION, splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import { camerasOf } from '../document/cut.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { placeOf } from '../evaluate/layout.ts';
import { Program } from '../evaluate/program.ts';
import { Ground, movingMembers, type Touch } from '../ground/ground.ts';
import type { Rigs } from '../rig/rigs.ts';
import { isSolid } from '../surface/support.ts';
import { changingPaths } from '../track/arrangement.ts';
import { type FilmingCamera, WatchedBody } from './bodies.ts';
import { cyclesIn, type WatchedCycle } from './cycles.ts';

/** Longer shots are watched over these many frames, from their first. */
export const MOST_WATCHED = 6_000;
/** A body that is soft lies in what it lies on by up to this, metres. */
const LIES = 0.03;
/** What is further from the ground than this on the whole frames beside a low point does not land at it. Metres. */
const CLOSE = 0.8;
/** Places of moving things that are noted at most. */
const MOST_WAYS = 200_000;
/** Frames looked at before others get a turn. */
const SLICE = 20;

/** A member's landings, in order. */
export interface Landings {
  readonly member: string;
  readonly path: string;
  readonly landings: readonly Landing[];
  /** Those that follow one another as one bounce. */
  readonly runs: readonly (readonly Landing[])[];
}

/**
 * A shot, looked at once for all the checks: where whoever moves is at every whole frame, how they stand to the ground, and where
 * they land.
 */
export class Watched {
  readonly shot: Shot;
  readonly first: number;
  readonly last: number;
  /** Members with a move of their own, by id: three numbers a frame, in the world. */
  readonly places = new Map<string, Float64Array>();
  /** Gaps to the ground at whole frames, for solid members with a move of their own. */
  readonly gaps = new Map<string, Float64Array>();
  readonly landings: Landings[] = [];
  /** The rigs that are animated. */
  readonly bodies: WatchedBody[] = [];
  /** What channels of rigs hold at every whole frame, by path: those that change. */
  readonly #values = new Map<string, Float64Array>();
  /** What cycles, one round of each. */
  readonly cycles: WatchedCycle[] = [];

  /** Those that are whole: what is still being posed is no cycle yet. */
  get wholeCycles(): WatchedCycle[] {
    return this.cycles.filter((c) => !c.isBegun);
  }
  readonly program: Program;
  readonly frame: Frame;
  readonly ground: Ground;
  /** Rigs whose cycle is kept in place in the shot: where they get to is not where they will be seen. */
  readonly keptInPlace: ReadonlySet<string>;
  /** What is full and has a way: sixteen numbers a frame. */
  readonly #ways = new Map<string, Float64Array>();
  #moving: ReadonlySet<string> = new Set();
  /** Where cameras are and how wide they see, seventeen numbers a frame. */
  readonly #cameras = new Map<string, Float64Array>();

  constructor(given: Shot) {
    // A cycle that is kept in place is looked at as the walk it is: arcs, balance and speeds are those of a body that gets on.
    const shot = withTravel(given, (clip) => ({ ...clip, travelling: true, way: clip.travelling ? clip.way : null }));
    this.shot = shot;
    this.keptInPlace = new Set(
      given.clips.values().flatMap((c) => (!c.travelling && clipAtWork(given, c.rig)?.id === c.id ? [c.rig] : [])),
    );
    this.first = shot.range.first;
    this.last = Math.min(shot.range.last, this.first + MOST_WATCHED);
    this.program = new Program(shot);
    this.frame = this.program.createFrame();
    this.ground = new Ground(shot);
  }

  get frames(): number {
    return this.last - this.first + 1;
  }

  /** Members that have a curve or formula of their move, and so a way of their own. */
  get travellers(): string[] {
    return [...this.places.keys()];
  }

  member(id: string): Member {
    return this.shot.members.at(id);
  }

  name(id: string): string {
    return this.shot.members.at(id).name;
  }

  /** Whether faults of a member's way are told at a frame: of a cycle those of one round, its seam included, and not each repeat. */
  isTold(id: string, frame: number): boolean {
    const { kind, parent } = this.member(id);
    const clip = kind === 'control' && parent !== null ? clipAtWork(this.shot, parent) : null;
    return !clip || !repeatsAlike(clip) || (frame > clip.first && frame <= clip.first + clip.length);
  }

  /** Brings the frame to a moment. */
  at(time: number): Frame {
    if (this.frame.at !== time) this.program.evaluate(time, this.frame);
    return this.frame;
  }

  touch(id: string, time: number): Touch | null {
    return this.ground.touch(this.at(time), id);
  }

  gap(id: string, frame: number): number | null {
    const stored = this.gaps.get(id);
    if (stored && Number.isInteger(frame) && frame >= this.first && frame <= this.last)
      return stored[frame - this.first];
    return this.touch(id, frame)?.gap ?? null;
  }

  /**
   * Whether a rig touches what lies under it at a frame: the rig itself, or the one a control is of. What it lies on may be the floor, or
   * anything of the set.
   */
  isStanding(member: string, frame: number): boolean {
    const rig = this.shot.members.get(member)?.kind === 'rig' ? member : this.shot.members.get(member)?.parent;
    const body = this.bodies.find((b) => b.rig === rig);
    if (!body || !Number.isInteger(frame) || frame < this.first || frame > this.last) return false;
    const now = this.at(frame);
    const count = body.placed.compiled.rig.joints.length;
    for (let j = 0; j < count; j++) {
      const lowest = body.lowest[(frame - this.first) * count + j];
      if (!Number.isFinite(lowest)) continue;
      const at = (body.placed.joints + j) * 16;
      const ground = this.ground.heightAt(now, now.world[at + 12], now.world[at + 14], lowest + LIES);
      if (Math.abs(lowest - ground) < LIES) return true;
    }
    return false;
  }

  /** How a camera of the cast films at a frame, counted from the first; null where it is none. */
  camera(id: string, i: number): FilmingCamera | null {
    const noted = this.#cameras.get(id);
    return noted ? { world: noted, at: i * 17, view: noted[i * 17 + 16] } : null;
  }

  /** Things that are full: all that have a body of their own but sheets. */
  get solids(): Member[] {
    return this.shot.members.values().filter((m) => isSolid(m) && m.kind !== 'plane');
  }

  /** Where a thing that is full is at every frame, sixteen numbers each; null where it stands still, undefined where it moves and was not watched. */
  wayOf(id: string): Float64Array | null | undefined {
    return this.#moving.has(id) ? this.#ways.get(id) : null;
  }

  /** Looks at every frame; yields now and then. */
  *look(): Generator<null> {
    const driven = new Set<string>();
    for (const path of changingPaths(this.shot)) {
      const { member, channel } = splitPath(path);
      if (channel.startsWith('move.') && this.shot.members.get(member)) driven.add(member);
    }
    const moving = movingMembers(this.shot);
    this.#moving = moving;
    for (const id of driven) {
      // Where a knee or an elbow points is a direction: nobody sees the way its control goes.
      if (!moving.has(id) || isPole(this.member(id), this.shot.rigs)) continue;
      this.places.set(id, new Float64Array(this.frames * 3));
      if (isSolid(this.member(id))) this.gaps.set(id, new Float64Array(this.frames));
    }
    this.#findBodies();
    const { layout } = this.frame;
    const travellers = [...this.places].map(([id, places]) => ({ places, at: layout.slotOf.get(id)! * 16 + 12 }));
    const channels = [...this.#values].map(([path, values]) => ({ values, place: placeOf(layout, path) }));
    for (const { id } of camerasOf(this.shot)) this.#cameras.set(id, new Float64Array(this.frames * 17));
    const solids = this.bodies.length > 0 ? this.solids.filter((m) => moving.has(m.id)) : [];
    if (solids.length * this.frames <= MOST_WAYS)
      for (const { id } of solids) this.#ways.set(id, new Float64Array(this.frames * 16));
    for (let f = this.first; f <= this.last; f++) {
      const frame = this.at(f);
      const i = f - this.first;
      for (const [id, way] of this.#ways) {
        const at = layout.slotOf.get(id)! * 16;
        for (let k = 0; k < 16; k++) way[i * 16 + k] = frame.world[at + k];
      }
      for (const [id, noted] of this.#cameras) {
        const slot = layout.slotOf.get(id)!;
        for (let k = 0; k < 16; k++) noted[i * 17 + k] = frame.world[slot * 16 + k];
        noted[i * 17 + 16] = frame.value(id, 'view') ?? 0;
      }
      for (const { places, at } of travellers) for (let r = 0; r < 3; r++) places[i * 3 + r] = frame.world[at + r];
      for (const body of this.bodies) body.note(this.shot, frame, i);
      for (const { values, place } of channels) values[i] = place < 0 ? 0 : frame.values[place];
      for (const [id, gaps] of this.gaps) gaps[i] = this.ground.touch(frame, id)?.gap ?? Number.POSITIVE_INFINITY;
      if (i % SLICE === SLICE - 1) yield null;
    }
    for (const id of this.gaps.keys()) {
      this.#findLandings(id);
      yield null;
    }
    yield* this.#lookAtCycles();
  }

  /** Looks at one round of each cycle, with every rig kept in place. */
  *#lookAtCycles(): Generator<null> {
    if (this.frame.layout.rigs.length === 0) return;
    const still = withTravel(this.shot, (clip) => ({ ...clip, travelling: false }));
    const program = new Program(still);
    const { layout } = program;
    this.cycles.push(...cyclesIn(still, layout.rigs, layout.ids));
    if (this.cycles.length === 0) return;
    const frame = program.createFrame();
    const first = Math.min(...this.cycles.map((c) => c.first));
    const last = Math.max(...this.cycles.map((c) => c.first + c.length));
    for (let f = first; f <= last; f++) {
      const own = this.cycles.filter((c) => f >= c.first && f <= c.first + c.length);
      if (own.length === 0) continue;
      program.evaluate(f, frame);
      for (const cycle of own) cycle.note(frame, f - cycle.first);
      if (f % SLICE === 0) yield null;
    }
  }

  /** The values of a rig's channel at every whole frame; undefined for one that does not change. */
  valuesOf(path: string): Float64Array | undefined {
    return this.#values.get(path);
  }

  #findBodies(): void {
    const animated = new Set<string>();
    for (const path of changingPaths(this.shot)) {
      const { member, channel } = splitPath(path);
      const found = this.shot.members.get(member);
      if (found?.kind === 'rig') animated.add(member);
      if (found?.kind !== 'control' || found.parent === null) continue;
      animated.add(found.parent);
      if (channel !== ORIENTATION) this.#values.set(path, new Float64Array(this.frames));
    }
    const { layout } = this.frame;
    for (const placed of layout.rigs) {
      const id = layout.ids[placed.slot];
      if (animated.has(id)) this.bodies.push(new WatchedBody(id, placed, this.frames, this.#toldOf(id)));
    }
  }

  /** The frames in which faults of a rig are told, from the first watched one: of a cycle one round, and not each repeat. */
  #toldOf(rig: string): readonly [number, number] {
    const clip = clipAtWork(this.shot, rig);
    if (!clip || !repeatsAlike(clip)) return [0, this.frames - 1];
    const from = Math.min(Math.max(0, clip.first - this.first), this.frames - 1);
    return [from, Math.min(from + clip.length - 1, this.frames - 1)];
  }

  /** Whether a member is near the ground around a frame, as far as the whole frames beside it tell. */
  #isClose(id: string, frame: number): boolean {
    return [Math.floor(frame), Math.ceil(frame)].some((f) => (this.gap(id, f) ?? 0) < CLOSE);
  }

  #findLandings(id: string): void {
    const path = channelPath(id, 'move.y');
    const curve = this.shot.curves.get(path);
    if (curve?.type !== 'number' || this.shot.formulas.has(path) || curve.keys.length < 2) return;
    const { landings, runs } = landingsOf(curve, this.shot.rate, (frame, closely) =>
      closely && !this.#isClose(id, frame) ? null : this.touch(id, frame),
    );
    const seen = (l: Landing) => l.contact.frame >= this.first && l.contact.frame <= this.last;
    if (landings.some(seen)) this.landings.push({ member: id, path, landings: landings.filter(seen), runs });
  }

  /** The landing of a member at or next to a frame. */
  landingNear(id: string, frame: number, within = 1): Landing | null {
    const own = this.landings.find((l) => l.member === id);
    return own?.landings.find((l) => frame >= l.contact.frame - within && frame <= l.contact.until + within) ?? null;
  }
}

/** Whether every round of a clip is like the first: it repeats, and goes over no slopes and steps. */
const repeatsAlike = ({ cycles, way }: Clip): boolean => cycles && way === null;

/** Whether a member is the control a limb's knee or elbow points to. */
function isPole(member: Member, rigs: Rigs): boolean {
  if (member.kind !== 'control') return false;
  return rigs.find(member.shape)?.rig.limbs.some((l) => l.pole === member.shape.control) ?? false;
}

/** The shot with the clips that are at work and repeat changed. */
function withTravel(shot: Shot, change: (clip: Clip) => Clip): Shot {
  const clips = shot.clips.map((c) => (c.cycles && c.kept === null ? change(c) : c));
  return clips === shot.clips ? shot : { ...shot, clips };
}

/** A shot looked at from end to end, at once. */
export function lookedAt(shot: Shot): Watched {
  const watched = new Watched(shot);
  for (const _ of watched.look());
  return watched;
}
