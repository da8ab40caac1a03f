import { type CompiledCurve, compileCurve } from '../curve/compile.ts';
import type { Curve } from '../curve/key.ts';
import { type CompiledOrientation, compileOrientation, orientationAt } from '../curve/orientation.ts';
import { seek } from '../curve/seek.ts';
import { C0, C1, C2, C3, FROM, HIGH, LOW, PER_FRAME, WINDOW, Windows } from '../curve/window.ts';
import { ORIENTATION, splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { type PlacedDeformer, placeDeformers, prepareDeformers } from './deforming.ts';
import { DrivenNumbers } from './driven.ts';
import { Elsewhere } from './elsewhere.ts';
import { PlacedFormulas } from './formulas.ts';
import { Frame } from './frame.ts';
import { type Layout, makeLayout, sameLayout, writeConstants, writeUnit } from './layout.ts';

/**
 * A shot compiled for evaluation. `update` takes the next version of the shot and recompiles what differs: documents
 * are immutable, so what is the same object is the same. `evaluate` computes a frame and allocates nothing.
 */
export class Program {
  #shot: Shot;
  #layout: Layout;
  /** What stands in a frame before the curves: constants and loose values. */
  #restValues: Float64Array;
  #restOrientations: Float64Array;

  #paths: string[] = [];
  #sources: Curve[] = [];
  #curves: CompiledCurve[] = [];
  /** Place in `values` that each curve writes. */
  #targets = new Int32Array(0);
  #windows = new Windows(0);

  #orientationCurves: { readonly slot: number; readonly source: Curve; readonly curve: CompiledOrientation }[] = [];
  #formulas: PlacedFormulas | null = null;
  #deformers: PlacedDeformer[] = [];
  #driven: DrivenNumbers | null = null;

  constructor(shot: Shot) {
    this.#shot = shot;
    this.#layout = makeLayout(shot);
    this.#restValues = new Float64Array(0);
    this.#restOrientations = new Float64Array(0);
    this.#placeConstants();
    this.#placeCurves();
    this.#placeComputed();
    this.#driven = DrivenNumbers.of(shot, this.#layout);
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
    if (!sameLayout(old, shot)) {
      this.#layout = makeLayout(shot);
      this.#placeConstants();
      this.#placeCurves();
      this.#placeComputed();
      this.#driven = DrivenNumbers.of(shot, this.#layout);
      this.#settleHolds();
      return;
    }
    const looseChanged = shot.loose !== old.loose;
    if (looseChanged) this.#placeConstants();
    else if (shot.members !== old.members) this.#refreshConstants(old);
    if (looseChanged) this.#placeCurves();
    else if (shot.curves !== old.curves) this.#refreshCurves();
    if (this.#computes(shot) || this.#computes(old)) this.#placeComputed();
    if (shot.play !== old.play || shot.rate !== old.rate) this.#driven = DrivenNumbers.of(shot, this.#layout);
    this.#settleHolds();
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
    frame.values.set(this.#restValues);
    frame.orientations.set(this.#restOrientations);
    this.#evaluateCurves(time, frame.values);
    this.#formulas?.run(time, frame.values);
    for (const { slot, curve } of this.#orientationCurves) orientationAt(curve, time, frame.orientations, slot * 4);
    this.#driven?.run(time, frame.values);
    frame.at = time;
    const { steps } = this.#layout;
    for (let s = 0; s < steps.length; s++) steps[s].run(frame);
    prepareDeformers(this.#deformers, time, frame);
  }

  /** `Windows.value` for every curve, written out: this is the innermost loop of all. */
  #evaluateCurves(time: number, values: Float64Array): void {
    const windows = this.#windows;
    const { spans: w, uneven } = windows;
    const targets = this.#targets;
    for (let c = 0, at = 0; c < targets.length; c++, at += WINDOW) {
      // Written so that a time that is not a number seeks, and fails there, instead of passing as inside.
      if (!(time >= w[at + LOW] && time < w[at + HIGH])) seek(this.#curves[c], time, windows, c);
      const share = (time - w[at + FROM]) * w[at + PER_FRAME];
      const u = uneven[c] === 1 ? windows.parameter(c, time, share) : share;
      values[targets[c]] = ((w[at + C3] * u + w[at + C2]) * u + w[at + C1]) * u + w[at + C0];
    }
  }

  /** Whether anything reads channels at other moments than the frame's, or by name. */
  #computes(shot: Shot): boolean {
    return this.#layout.deformers.length > 0 || Object.keys(shot.formulas).length > 0;
  }

  /** Lays out what is computed from channels: formulas and deformers. */
  #placeComputed(): void {
    const elsewhere = new Elsewhere(this.#shot);
    const computed = Object.keys(this.#shot.formulas).length > 0;
    this.#formulas = computed ? new PlacedFormulas(this.#shot, this.#layout, elsewhere) : null;
    this.#deformers = placeDeformers(this.#shot, this.#layout, elsewhere);
  }

  #placeConstants(): void {
    const layout = this.#layout;
    this.#restValues = new Float64Array(layout.valueCount);
    this.#restOrientations = new Float64Array(layout.ids.length * 4);
    for (const id of layout.ids) {
      writeConstants(layout, this.#shot.members[id], this.#restValues, this.#restOrientations);
    }
    for (const [path, value] of Object.entries(this.#shot.loose)) this.#placeLoose(path, value);
  }

  #placeLoose(path: string, value: Shot['loose'][string]): void {
    const { member, channel } = splitPath(path);
    const slot = this.#layout.slotOf.get(member);
    if (slot === undefined) return;
    if (typeof value !== 'number') {
      writeUnit(value, this.#restOrientations, slot * 4);
      return;
    }
    const place = this.#layout.channelAt[slot].get(channel);
    if (place !== undefined) this.#restValues[this.#layout.base[slot] + place] = value;
  }

  #refreshConstants(old: Shot): void {
    for (const id of this.#layout.ids) {
      const member = this.#shot.members[id];
      if (member === old.members[id]) continue;
      writeConstants(this.#layout, member, this.#restValues, this.#restOrientations);
      for (const [path, value] of Object.entries(this.#shot.loose)) {
        if (path.startsWith(`${id}.`)) this.#placeLoose(path, value);
      }
    }
  }

  /** Lays all curves out anew, in the order of what they write, taking over those that are compiled already. */
  #placeCurves(): void {
    const compiled = new Map(this.#sources.map((source, c) => [source, this.#curves[c]]));
    const turned = new Map(this.#orientationCurves.map((o) => [o.source, o.curve]));
    const placed: { path: string; source: Curve; target: number; curve: CompiledCurve }[] = [];
    this.#orientationCurves = [];
    for (const [path, source] of Object.entries(this.#shot.curves)) {
      if (path in this.#shot.loose) continue;
      const { member, channel } = splitPath(path);
      const slot = this.#layout.slotOf.get(member);
      if (slot === undefined) continue;
      if (source.type === 'orientation') {
        const curve = turned.get(source) ?? compileOrientation(source);
        if (channel === ORIENTATION) this.#orientationCurves.push({ slot, source, curve });
        continue;
      }
      const place = this.#layout.channelAt[slot].get(channel);
      if (place === undefined) continue;
      const curve = compiled.get(source) ?? compileCurve(source);
      placed.push({ path, source, target: this.#layout.base[slot] + place, curve });
    }
    placed.sort((a, b) => a.target - b.target);
    this.#paths = placed.map((p) => p.path);
    this.#sources = placed.map((p) => p.source);
    this.#curves = placed.map((p) => p.curve);
    this.#targets = Int32Array.from(placed, (p) => p.target);
    this.#windows = new Windows(placed.length);
  }

  /** Takes over curves that changed in place; where curves came or went, lays all out anew. */
  #refreshCurves(): void {
    const { curves } = this.#shot;
    const count = this.#paths.length + this.#orientationCurves.length;
    const stale: number[] = [];
    for (let c = 0; c < this.#paths.length; c++) {
      const source = curves[this.#paths[c]];
      if (source?.type !== 'number') {
        this.#placeCurves();
        return;
      }
      if (source !== this.#sources[c]) stale.push(c);
    }
    const sameCount = Object.keys(curves).length === count && Object.keys(this.#shot.loose).length === 0;
    const sameTurns = this.#orientationCurves.every((o) => curves[this.#orientationPath(o.slot)] === o.source);
    if (!sameCount || !sameTurns) {
      this.#placeCurves();
      return;
    }
    for (const c of stale) {
      const source = curves[this.#paths[c]];
      if (source.type !== 'number') continue;
      this.#sources[c] = source;
      this.#curves[c] = compileCurve(source);
      this.#windows.clear(c);
    }
  }

  #orientationPath(slot: number): string {
    return `${this.#layout.ids[slot]}.${ORIENTATION}`;
  }
}

/** The numbers of one moment of a shot, for those who need just one. */
export function frameOf(shot: Shot, time: number): Frame {
  const program = new Program(shot);
  const frame = program.createFrame();
  program.evaluate(time, frame);
  return frame;
}
