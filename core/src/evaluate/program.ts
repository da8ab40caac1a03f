import { controlsOf } from '../document/casting.ts';
import { channelPath, ORIENTATION, splitPath } from '../document/channels.ts';
import type { Member } from '../document/member.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import type { ChannelValue } from '../schema/channel.ts';
import type { Quaternion } from '../schema/numbers.ts';
import { Table } from '../table/table.ts';
import { givenBy, isSilenced, riggedByTracks, silentRigs } from '../track/arrangement.ts';
import { type PlacedDeformer, placeDeformers, prepareDeformers } from './deforming.ts';
import { DrivenNumbers } from './driven.ts';
import { Elsewhere } from './elsewhere.ts';
import { PlacedFormulas } from './formulas.ts';
import { Frame } from './frame.ts';
import { type Layout, makeLayout, nextLayout, placeOf, writeConstants, writeUnit } from './layout.ts';
import { isTurn, LiveTracks } from './live-tracks.ts';
import { type NewCurve, PlacedCurves, PlacedTurns } from './placed-curves.ts';
import { posedAt } from './posed.ts';
import { sourceOf } from './source.ts';

const NOTHING = Table.empty<ChannelValue>();

/** As many frames of tracks that have just changed are read before curves are made of them. */
const MOST_LIVE = 12;

/**
 * A shot compiled for evaluation. `update` takes the next version of the shot and recompiles what differs: documents
 * are immutable, so what is the same object is the same. `evaluate` computes a frame and allocates nothing.
 */
export class Program {
  #shot: Shot;
  #layout: Layout;
  /** What stands in a frame before the curves: constants, stand-ins, and what curves that never change hold. */
  #restValues = new Float64Array(0);
  #restOrientations = new Float64Array(0);
  /** Which rest it is: another one after each update, so that frames know whether they have it. */
  #rest = {};
  readonly #curves = new PlacedCurves();
  readonly #turns = new PlacedTurns();
  #elsewhere: Elsewhere;
  #formulas: PlacedFormulas | null = null;
  #deformers: PlacedDeformer[] = [];
  #driven: DrivenNumbers | null = null;
  /** Rigs whose tracks have just changed. */
  readonly #live = new Map<string, LiveTracks>();

  constructor(shot: Shot) {
    this.#shot = shot;
    this.#layout = makeLayout(shot);
    this.#elsewhere = new Elsewhere(shot);
    this.#settleTravel();
    this.#placeAll();
    this.#placeComputed();
    this.#placeDriven();
    this.#settleHolds();
  }

  get layout(): Layout {
    return this.#layout;
  }

  /** Goes over to another version of the shot. Frames of an older layout can no longer be used. */
  update(shot: Shot): void {
    const old = this.#shot;
    if (shot === old) return;
    this.#shot = shot;
    this.#rest = {};
    const layout = nextLayout(this.#layout, old, shot);
    const laidAnew = layout !== this.#layout;
    const samePlaces = layout.base === this.#layout.base;
    this.#layout = layout;
    this.#settleTravel();
    if (samePlaces) this.#readTracks(old, shot);
    else this.#live.clear();
    const changed = changedPaths(old, shot, this.#live);
    if (samePlaces) for (const path of changed) this.#place(path);
    else this.#placeAll();
    if (laidAnew || this.#computesAnew(old, shot)) this.#placeComputed();
    else {
      if (shot.formulas.size > 0)
        for (const live of this.#live.values()) for (const path of live.paths) changed.add(path);
      this.#elsewhere.changed(shot, changed);
    }
    if (laidAnew || shot.play !== old.play || shot.rate !== old.rate) this.#placeDriven();
    this.#settleHolds();
  }

  /** Rigs that were on tracks and are on others now are read there and then; those that were so already, as the shot is now. */
  #readTracks(old: Shot, shot: Shot): void {
    if (old.tracks.size === 0 || shot.tracks.size === 0) {
      this.#live.clear();
      return;
    }
    for (const rig of riggedByTracks(shot)) {
      const [a, b] = [givenBy(old, rig), givenBy(shot, rig)];
      const before = this.#live.get(rig);
      if (!a || !b) this.#live.delete(rig);
      else if (a !== b) this.#live.set(rig, new LiveTracks(shot, this.#layout, b));
      else if (before) this.#live.set(rig, new LiveTracks(shot, this.#layout, b, before.seen));
    }
    for (const rig of this.#live.keys()) if (!givenBy(shot, rig)) this.#live.delete(rig);
  }

  /** Makes curves of what tracks have become, so that every frame costs as little as keys do. */
  settle(): void {
    const lives = [...this.#live.values()];
    if (lives.length === 0) return;
    this.#live.clear();
    for (const live of lives) for (const path of live.paths) this.#place(path);
    this.#rest = {};
    // Who is held was held to what was read.
    this.#settleHolds();
  }

  /** Tells rigs that go as far as their tracks take them how far that is. */
  #settleTravel(): void {
    for (const [rig, step] of this.#layout.onTracks) step.goBy(givenBy(this.#shot, rig)?.course ?? null);
  }

  /**
   * Works out how held spaces stand to their carriers: at each change of carrier, in the order of time, from where everything
   * is just before it. So a change never moves anything, however the shot is edited around it.
   */
  #settleHolds(): void {
    const { held } = this.#layout;
    if (held.length === 0) return;
    for (const space of held) space.forget();
    const frames = [...new Set(held.flatMap((space) => space.frames))].sort((a, b) => a - b);
    const frame = this.createFrame();
    for (const at of frames) {
      this.evaluate(at, frame);
      for (const space of held) space.learn(frame);
    }
  }

  /** A frame of the right size, to be evaluated into again and again. */
  createFrame(): Frame {
    return new Frame(this.#layout);
  }

  /** Computes the numbers of `time` (a frame, whole or not) into `frame`. */
  evaluate(time: number, frame: Frame): void {
    if (frame.layout !== this.#layout) throw new Error('The frame belongs to another layout of the cast.');
    for (const live of this.#live.values()) {
      live.look(time);
      if (live.seen > MOST_LIVE) this.settle();
    }
    // What curves and rigs write they write at each frame, the rest stands. A formula adds to what it finds.
    if (frame.rest !== this.#rest || this.#formulas) {
      frame.values.set(this.#restValues);
      frame.orientations.set(this.#restOrientations);
      frame.rest = this.#rest;
    }
    this.#curves.run(time, frame.values);
    for (const live of this.#live.values()) live.run(time, frame.values);
    this.#formulas?.run(time, frame.values);
    this.#turns.run(time, frame.orientations);
    this.#driven?.run(time, frame.values);
    frame.at = time;
    const { steps } = this.#layout;
    for (let s = 0; s < steps.length; s++) steps[s].run(frame);
    prepareDeformers(this.#deformers, time, frame);
  }

  /** Whether what is computed from channels must be laid out anew: other changes of channels it hears of. */
  #computesAnew(old: Shot, shot: Shot): boolean {
    if (shot.formulas !== old.formulas || shot.over !== old.over) return shot.formulas.size + old.formulas.size > 0;
    return shot.formulas.size > 0 && (shot.play !== old.play || shot.rate !== old.rate);
  }

  /** Lays out what is computed from channels: formulas and deformers. */
  #placeComputed(): void {
    this.#elsewhere = new Elsewhere(this.#shot);
    this.#formulas =
      this.#shot.formulas.size > 0 ? new PlacedFormulas(this.#shot, this.#layout, this.#elsewhere) : null;
    this.#deformers = placeDeformers(this.#shot, this.#layout, this.#elsewhere);
  }

  #placeDriven(): void {
    this.#driven = DrivenNumbers.of(this.#shot, this.#layout);
  }

  /** Lays everything out where the layout says now, taking over the curves that are there already. */
  #placeAll(): void {
    const layout = this.#layout;
    const { members, rigs, curves, over = NOTHING } = this.#shot;
    this.#restValues = new Float64Array(layout.valueCount);
    this.#restOrientations = new Float64Array(layout.ids.length * 4);
    for (const id of layout.ids) writeConstants(layout, members.at(id), rigs, this.#restValues, this.#restOrientations);
    const given = givenPaths(this.#shot);
    const isGone = (path: string) => !curves.has(path) && !given.has(path);
    for (const path of [...this.#curves.paths]) if (isGone(path)) this.#curves.drop(path);
    for (const path of [...this.#turns.paths]) if (isGone(path)) this.#turns.drop(path);
    const fresh: NewCurve[] = [];
    for (const [path, source] of curves) {
      const target =
        source.type === 'number' &&
        !this.#curves.has(path) &&
        !over.has(path) &&
        !given.has(path) &&
        !isSilenced(this.#shot, path)
          ? placeOf(layout, path)
          : -1;
      if (source.type === 'number' && target >= 0) fresh.push({ path, source, target });
      else this.#place(path);
    }
    this.#curves.putAll(fresh, (target, value) => {
      this.#restValues[target] = value;
    });
    for (const path of given) if (!curves.has(path)) this.#place(path);
    for (const path of over.keys()) this.#place(path);
  }

  /** Places what a channel comes from: its rest value, and its curve where it has one. */
  #place(path: string): void {
    const { member: id, channel } = splitPath(path);
    const slot = this.#layout.slotOf.get(id);
    if (slot === undefined) {
      this.#curves.drop(path);
      this.#turns.drop(path);
      return;
    }
    const source = sourceOf(this.#shot, path);
    const held = source?.is === 'formula' ? source.on : source;
    if (channel === ORIENTATION) {
      if (held?.is === 'keys' && held.curve.type === 'orientation') this.#turns.put(path, held.curve, slot);
      else this.#turns.drop(path);
      const rest = held && held.is !== 'keys' ? (held.value as Quaternion) : this.#shot.members.at(id).orientation;
      writeUnit(rest, this.#restOrientations, slot * 4);
      return;
    }
    const place = this.#layout.channelAt[slot].get(channel);
    if (place === undefined) return;
    const target = this.#layout.base[slot] + place;
    if (held?.is === 'keys' && held.curve.type === 'number') {
      const still = this.#curves.put(path, held.curve, target);
      if (still !== null) this.#restValues[target] = still;
      return;
    }
    this.#curves.drop(path);
    if (held && held.is !== 'keys') this.#restValues[target] = held.value as number;
  }
}

/** The paths of channels that may differ between two versions of a shot with the same cast. */
function changedPaths(old: Shot, shot: Shot, live: ReadonlyMap<string, LiveTracks>): Set<string> {
  const paths = new Set<string>();
  const add = (path: string) => paths.add(path);
  old.curves.changesTo(shot.curves, add);
  (old.over ?? NOTHING).changesTo(shot.over ?? NOTHING, add);
  givenChanges(old, shot, live, add);
  old.members.changesTo(shot.members, (id, a, b) => {
    if (!a || !b) return;
    for (const name of changedValues(a, b)) add(channelPath(id, name));
    if (a.orientation !== b.orientation) add(channelPath(id, ORIENTATION));
  });
  return paths;
}

/** The channels to which the tracks of rigs give curves. */
function givenPaths(shot: Shot): Set<string> {
  const paths = new Set<string>();
  for (const rig of riggedByTracks(shot)) for (const path of givenBy(shot, rig)?.paths ?? []) paths.add(path);
  return paths;
}

/** Tells of the channels to which tracks give something else in another version of a shot. Of rigs that are read there and then only what they give no more. */
function givenChanges(old: Shot, shot: Shot, live: ReadonlyMap<string, LiveTracks>, add: (path: string) => void): void {
  if (old.tracks.size + shot.tracks.size === 0) return;
  for (const rig of new Set([...riggedByTracks(old), ...riggedByTracks(shot)])) {
    const [a, b] = [givenBy(old, rig), givenBy(shot, rig)];
    if (silentRigs(old).has(rig) !== silentRigs(shot).has(rig))
      for (const [path] of curvesOf(shot, controlsOf(shot, rig))) add(path);
    if (a === b) continue;
    for (const path of a?.paths ?? []) if (!b?.paths.has(path)) add(path);
    for (const path of b?.paths ?? []) if (!live.has(rig) || isTurn(path) || shot.curves.has(path)) add(path);
  }
}

/** The names of the constants in which two versions of a member differ. */
function changedValues(a: Member, b: Member): string[] {
  if (a.values === b.values) return [];
  return Object.keys({ ...a.values, ...b.values }).filter((name) => a.values[name] !== b.values[name]);
}

/** The numbers of one moment of a shot, with what is loose there, for those who need just one. */
export function frameOf(shot: Shot, time: number): Frame {
  const program = new Program(posedAt(shot, time));
  const frame = program.createFrame();
  program.evaluate(time, frame);
  return frame;
}
