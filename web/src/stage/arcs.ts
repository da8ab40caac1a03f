import { type Frame, keyIndexAt, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { colour } from '../ui/theme.ts';
import { evaluator } from './picture.ts';

/** One frame of an arc. */
export interface Bead {
  readonly member: string;
  readonly frame: number;
  readonly place: THREE.Vector3;
  readonly role: 'key' | 'breakdown' | 'between';
}

/** Arcs of more members than this hide one another. */
const MOST_ARCS = 6;
/** Frames shown at most on each side of now. */
const REACH = 120;

const MOVE = ['move.x', 'move.y', 'move.z'];

/**
 * The way of what is picked through the frames that play, as it is evaluated: a line, a bead for each frame, larger where there
 * is a key of its move. Drawn over everything.
 */
export class Arcs {
  readonly scene = new THREE.Scene();
  #beads: Bead[] = [];
  #made: { shot: Shot; ids: readonly string[]; from: number; to: number } | null = null;
  readonly #dots: Record<Bead['role'], THREE.Texture>;

  constructor() {
    this.#dots = { key: dot('full'), breakdown: dot('ring'), between: dot('full') };
  }

  get beads(): readonly Bead[] {
    return this.#beads;
  }

  /** Draws the arcs of members around a frame; nothing where nobody moves. */
  show(shot: Shot, ids: readonly string[], now: number): void {
    const from = Math.max(shot.play.first, Math.ceil(now) - REACH);
    const to = Math.min(shot.play.last, Math.floor(now) + REACH);
    const made = this.#made;
    if (made?.shot === shot && made.ids === ids && made.from === from && made.to === to) return;
    this.#made = { shot, ids, from, to };
    const moving = movingOf(shot, ids);
    this.#beads = moving.length > 0 ? beadsOf(shot, moving, from, to) : [];
    this.#draw(moving);
  }

  recolour(): void {
    this.#made = null;
  }

  dispose(): void {
    this.#clear();
    for (const texture of Object.values(this.#dots)) texture.dispose();
  }

  #clear(): void {
    for (const part of [...this.scene.children] as (THREE.Line | THREE.Points)[]) {
      part.geometry.dispose();
      (part.material as THREE.Material).dispose();
      this.scene.remove(part);
    }
  }

  #draw(ids: readonly string[]): void {
    this.#clear();
    for (const id of ids) {
      const own = this.#beads.filter((b) => b.member === id);
      const geometry = new THREE.BufferGeometry().setFromPoints(own.map((b) => b.place));
      const material = new THREE.LineBasicMaterial({
        color: colour('blue'),
        transparent: true,
        opacity: 0.5,
        depthTest: false,
      });
      this.scene.add(new THREE.Line(geometry, material));
      for (const role of ['between', 'breakdown', 'key'] as const) {
        const places = own.filter((b) => b.role === role).map((b) => b.place);
        if (places.length > 0) this.scene.add(this.#points(places, role));
      }
    }
  }

  #points(places: readonly THREE.Vector3[], role: Bead['role']): THREE.Points {
    const material = new THREE.PointsMaterial({
      map: this.#dots[role],
      size: { key: 8, breakdown: 8, between: 4 }[role] * devicePixelRatio,
      sizeAttenuation: false,
      color: colour(role === 'between' ? 'blue' : 'ink'),
      transparent: true,
      alphaTest: 0.2,
      depthTest: false,
    });
    return new THREE.Points(new THREE.BufferGeometry().setFromPoints([...places]), material);
  }
}

/** Those of the members who move, or are carried by someone who does: the first few. */
function movingOf(shot: Shot, ids: readonly string[]): string[] {
  const keyed = new Set(Object.keys(shot.curves).map((path) => path.slice(0, path.indexOf('.'))));
  const moves = (id: string): boolean => {
    for (let at: string | null = id; at !== null; at = shot.members[at]?.parent ?? null) if (keyed.has(at)) return true;
    return false;
  };
  return ids.filter(moves).slice(-MOST_ARCS);
}

function beadsOf(shot: Shot, ids: readonly string[], from: number, to: number): Bead[] {
  const at = evaluator(shot);
  const beads: Bead[] = [];
  for (let frame = from; frame <= to; frame++) {
    const numbers = at(frame);
    for (const id of ids) beads.push({ member: id, frame, place: placeOf(numbers, id), role: roleAt(shot, id, frame) });
  }
  return beads;
}

/** Where a member's own middle is: what its move moves. */
function placeOf(frame: Frame, id: string): THREE.Vector3 {
  const slot = frame.layout.slotOf.get(id)!;
  return new THREE.Vector3(frame.world[slot * 16 + 12], frame.world[slot * 16 + 13], frame.world[slot * 16 + 14]);
}

function roleAt(shot: Shot, id: string, frame: number): Bead['role'] {
  let found: Bead['role'] = 'between';
  for (const channel of MOVE) {
    const curve = shot.curves[`${id}.${channel}`];
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
