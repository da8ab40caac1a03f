import { boundsOf, cameraAt, changingPaths, type Frame, keyIndexAt, type Shot, shapeMatrix } from '@varrup/core';
import * as THREE from 'three';
import { bodyPoints } from '../../clips/body-points.ts';
import { rigMeant } from '../../commands/rig-meant.ts';
import { colour } from '../../ui/theme.ts';
import type { ArcLook } from '../../view/habits.ts';
import { live } from '../../view/live.ts';
import type { Moment } from '../moment.ts';
import { onPane, type Pane } from '../views/panes.ts';
import type { Overlay } from './overlay.ts';

/** One frame of an arc. */
export interface Bead {
  readonly member: string;
  readonly frame: number;
  readonly place: THREE.Vector3;
  readonly role: 'key' | 'breakdown' | 'between';
  /** How far it is from the frame before and to the frame after, in metres of the world; null at the ends. */
  readonly before: number | null;
  readonly after: number | null;
}

/** Arcs of more members than this hide one another. */
const MOST_ARCS = 8;
/** Frames shown at most on each side of now. */
const REACH = 120;

const NOBODY: readonly string[] = [];
const MOVE = ['move.x', 'move.y', 'move.z'];

/**
 * The way of what is picked through the frames that play, as it is evaluated: a line, a bead for each frame, larger where there
 * is a key of its move. Drawn over everything.
 */
/** What of a shot says who moves. */
const KEPT = ['members', 'curves', 'tracks', 'clips'] as const;

export class Arcs implements Overlay {
  readonly scene = new THREE.Scene();
  #beads: Bead[] = [];
  /** The plain beads of each arc, and every how manieth is shown. */
  #strings: { own: readonly Bead[]; beads: readonly Bead[]; points: THREE.Points; stride: number }[] = [];
  #made: { shot: Shot; ids: readonly string[]; from: number; to: number; look: ArcLook; now: number } | null = null;
  /** Whose arcs are drawn, and what that was found from. */
  #whose: { of: Shot; selection: readonly string[]; ids: string[] } | null = null;
  /** What they are drawn with; kept, since a material let go of takes its shader with it. */
  readonly #line = new THREE.LineBasicMaterial({ transparent: true, opacity: 0.5, depthTest: false });
  readonly #dots = {
    key: dotMaterial(dot('full'), 8),
    breakdown: dotMaterial(dot('ring'), 8),
    between: dotMaterial(dot('full'), 4),
  };

  constructor() {
    this.recolour();
  }

  get beads(): readonly Bead[] {
    return this.#beads;
  }

  show({ shot, frame, picked, shown: { arcs }, looking: { looking }, habits: { arc, bodyArcs } }: Moment): void {
    const shown = arcs && (looking !== 'camera' || arc.space === 'camera');
    const parts = bodyArcs ? this.#parts(shot, picked) : picked;
    this.#lay(shot, shown ? parts : NOBODY, frame.at, arc);
  }

  /** Leaves out the beads that would run into one another as a pane sees them. */
  draw(_: Moment, pane: Pane): void {
    this.thin((place) => onPane(pane, place));
  }

  /** The parts of a body one looks at in a walk. */
  #parts(shot: Shot, selection: readonly string[]): readonly string[] {
    const now = this.#whose;
    if (now && now.selection === selection && KEPT.every((table) => now.of[table] === shot[table])) return now.ids;
    const rig = rigMeant(shot, selection);
    const ids = rig ? bodyPoints(shot, rig) : [...selection];
    this.#whose = { of: shot, selection, ids };
    return ids;
  }

  /** Draws the arcs of members around a frame; nothing where nobody moves. */
  #lay(shot: Shot, ids: readonly string[], now: number, look: ArcLook): void {
    const reach = look.around > 0 ? Math.min(look.around, REACH) : REACH;
    const from = Math.max(shot.play.first, Math.ceil(now) - reach);
    const to = Math.min(shot.play.last, Math.floor(now) + reach);
    const made = this.#made;
    // As the camera sees them they are another each time the camera is elsewhere.
    const seen = look.space === 'camera' ? now : 0;
    const same = made?.shot === shot && made.ids === ids && made.look === look && made.now === seen;
    if (same && made.from === from && made.to === to) return;
    this.#made = { shot, ids, from, to, look, now: seen };
    const moving = movingOf(shot, ids);
    this.#beads = moving.length > 0 ? beadsOf(shot, moving, from, to, now, look) : [];
    this.#draw(moving);
  }

  recolour(): void {
    this.#line.color.set(colour('blue'));
    for (const [role, material] of Object.entries(this.#dots))
      material.color.set(colour(role === 'between' ? 'blue' : 'ink'));
  }

  dispose(): void {
    this.#clear();
    this.#line.dispose();
    for (const material of Object.values(this.#dots)) {
      material.map?.dispose();
      material.dispose();
    }
  }

  /**
   * Leaves beads out where they would run into one another, as in a long way seen from afar: then every second, fourth… frame has
   * one, and keys all have theirs. @param pixels where a place is seen
   */
  thin(pixels: (place: THREE.Vector3) => readonly [x: number, y: number]): void {
    for (const string of this.#strings) {
      const stride = strideOf(string.own, pixels);
      if (stride === string.stride) continue;
      string.stride = stride;
      const shown = string.beads.flatMap((bead, i) => (bead.frame % stride === 0 ? [i] : []));
      string.points.geometry.setIndex(stride === 1 ? null : shown);
    }
  }

  #clear(): void {
    this.#strings = [];
    for (const part of [...this.scene.children] as (THREE.Line | THREE.Points)[]) {
      part.geometry.dispose();
      this.scene.remove(part);
    }
  }

  #draw(ids: readonly string[]): void {
    this.#clear();
    for (const id of ids) {
      const own = this.#beads.filter((b) => b.member === id);
      const geometry = new THREE.BufferGeometry().setFromPoints(own.map((b) => b.place));
      this.scene.add(new THREE.Line(geometry, this.#line));
      for (const role of ['between', 'breakdown', 'key'] as const) {
        const beads = own.filter((b) => b.role === role);
        if (beads.length === 0) continue;
        const geometry = new THREE.BufferGeometry().setFromPoints(beads.map((b) => b.place));
        const points = new THREE.Points(geometry, this.#dots[role]);
        this.scene.add(points);
        if (role === 'between') this.#strings.push({ own, beads, points, stride: 1 });
      }
    }
  }
}

/** Beads nearer to one another than this, in pixels, are a smear. */
const BEADS_APART = 7;

/** Every how manieth bead of an arc is told from the next, measured at some of them. */
function strideOf(beads: readonly Bead[], pixels: (place: THREE.Vector3) => readonly [number, number]): number {
  const step = Math.max(1, Math.floor(beads.length / 16));
  let [way, count] = [0, 0];
  for (let i = step; i < beads.length; i += step) {
    const [ax, ay] = pixels(beads[i - step].place);
    const [bx, by] = pixels(beads[i].place);
    way += Math.hypot(bx - ax, by - ay) / step;
    count++;
  }
  const apart = count > 0 ? way / count : BEADS_APART;
  return Math.min(64, 2 ** Math.max(0, Math.ceil(Math.log2(BEADS_APART / Math.max(apart, 0.05)))));
}

const dotMaterial = (map: THREE.Texture, size: number) =>
  new THREE.PointsMaterial({
    map,
    size: size * devicePixelRatio,
    sizeAttenuation: false,
    transparent: true,
    alphaTest: 0.2,
    depthTest: false,
  });

/** Those of the members who move, or are carried by someone who does: the first few. */
function movingOf(shot: Shot, ids: readonly string[]): string[] {
  const keyed = new Set([...changingPaths(shot)].map((path) => path.slice(0, path.indexOf('.'))));
  // A control goes along with the others of its rig.
  const rigs = new Set(
    [...keyed].map((id) => (shot.members.get(id)?.kind === 'control' ? shot.members.at(id).parent : null)),
  );
  const moves = (id: string): boolean => {
    if (shot.members.get(id)?.kind === 'control' && rigs.has(shot.members.at(id).parent)) return true;
    for (let at: string | null = id; at !== null; at = shot.members.get(at)?.parent ?? null)
      if (keyed.has(at)) return true;
    return false;
  };
  return ids.filter(moves).slice(-MOST_ARCS);
}

function beadsOf(shot: Shot, ids: readonly string[], from: number, to: number, now: number, look: ArcLook): Bead[] {
  const at = (time: number) => live.sample(time)!;
  const camera = look.space === 'camera' ? (cameraAt(shot, now) ?? undefined) : undefined;
  const home = camera === undefined ? null : matrixOf(at(now), camera);
  const ways = ids.map((member) => ({ member, world: [] as THREE.Vector3[], seen: [] as THREE.Vector3[] }));
  for (let frame = from; frame <= to; frame++) {
    const numbers = at(frame);
    // What the camera sees of a place at its frame, put before the camera as it is now.
    const across = camera === undefined || !home ? null : home.clone().multiply(matrixOf(numbers, camera).invert());
    for (const way of ways) {
      const place = placeOf(shot, numbers, way.member, look.point);
      way.world.push(place);
      way.seen.push(across ? place.clone().applyMatrix4(across) : place);
    }
  }
  return ways.flatMap(({ member, world, seen }) =>
    seen.map((place, i) => ({
      member,
      frame: from + i,
      place,
      role: roleAt(shot, member, from + i),
      before: i > 0 ? world[i].distanceTo(world[i - 1]) : null,
      after: i + 1 < world.length ? world[i].distanceTo(world[i + 1]) : null,
    })),
  );
}

const matrixOf = (frame: Frame, id: string): THREE.Matrix4 =>
  new THREE.Matrix4().fromArray(frame.world, frame.layout.slotOf.get(id)! * 16);

const shape = new Float64Array(16);

/** A point of a member in the world: what its move moves, or the middle, the top or the foot of its form as it is bent. */
function placeOf(shot: Shot, frame: Frame, id: string, point: ArcLook['point']): THREE.Vector3 {
  const slot = frame.layout.slotOf.get(id)!;
  if (point === 'origin')
    return new THREE.Vector3(frame.world[slot * 16 + 12], frame.world[slot * 16 + 13], frame.world[slot * 16 + 14]);
  shapeMatrix(frame, slot, shape);
  const [x0, y0, z0, x1, y1, z1] = boundsOf(shot.members.at(id), shot.rigs);
  const y = point === 'middle' ? (y0 + y1) / 2 : point === 'top' ? y1 : y0;
  return new THREE.Vector3((x0 + x1) / 2, y, (z0 + z1) / 2).applyMatrix4(new THREE.Matrix4().fromArray(shape));
}

function roleAt(shot: Shot, id: string, frame: number): Bead['role'] {
  let found: Bead['role'] = 'between';
  for (const channel of MOVE) {
    const curve = shot.curves.get(`${id}.${channel}`);
    const key = curve?.keys[keyIndexAt(curve.keys, frame)];
    if (key?.role === 'key') return 'key';
    if (key) found = 'breakdown';
  }
  return found;
}

/** A round dot, or a ring, to draw points with. */
function dot(kind: 'full' | 'ring'): THREE.Texture {
  const canvas = new OffscreenCanvas(32, 32);
  const context = canvas.getContext('2d')!;
  context.fillStyle = context.strokeStyle = '#fff';
  context.beginPath();
  context.arc(16, 16, kind === 'full' ? 14 : 11, 0, Math.PI * 2);
  if (kind === 'full') context.fill();
  else {
    context.lineWidth = 6;
    context.stroke();
  }
  return new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
}
