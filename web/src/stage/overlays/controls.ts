import { type CompiledRig, camerasOf, type Frame, type PlacedRig, type RigControl, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { colour } from '../../ui/theme.ts';
import type { Moment } from '../moment.ts';
import { onPane, type Pane } from '../views/panes.ts';
import { actingControls, actingKey } from './acting.ts';
import { controlLines } from './control-forms.ts';
import { setMembers } from './control-sets.ts';
import type { Overlay } from './overlay.ts';

const SIDE = { left: 'teal', right: 'plum', centre: 'umber' } as const;
/** How far from its lines a control can still be hit, in pixels. */
const NEAR = 7;
/** Controls no wider than this, in pixels, can be taken by their middle. */
const MIDDLE = 60;

/** A control as it is drawn: where its lines begin among all of them, and how many there are. */
interface Drawn {
  readonly id: string;
  readonly name: string;
  readonly control: RigControl | null;
  readonly slot: number;
  readonly lines: Float32Array;
  readonly first: number;
}

/** The controls of the rigs in a shot, drawn over everything, and found again under a pointer. */
export class Controls implements Overlay {
  readonly scene = new THREE.Scene();
  readonly #material = new LineMaterial({ vertexColors: true, linewidth: 1.7, depthTest: false, transparent: true });
  readonly #lines = new LineSegments2(new LineSegmentsGeometry(), this.#material);
  #drawn: Drawn[] = [];
  #places: Float32Array = new Float32Array(0);
  #colours: Float32Array = new Float32Array(0);
  #made: { members: Shot['members']; hidden: string; acting: string } | null = null;
  #hiddenNow: { sets: Shot['sets']; hidden: readonly string[]; ids: ReadonlySet<string> } | null = null;
  hovered: string | null = null;

  constructor() {
    this.#lines.frustumCulled = false;
    this.scene.add(this.#lines);
  }

  dispose(): void {
    this.#lines.geometry.dispose();
    this.#material.dispose();
  }

  /** Draws the controls of a frame as a pane sees them, except those that are hidden or do nothing now; through the shot's camera none. */
  draw({ shot, frame, picked, looking, shown }: Moment, pane: Pane): void {
    const filming = looking.looking === 'camera' && camerasOf(shot).length > 0;
    this.scene.visible = shown.controls && !filming && frame.layout.rigs.length > 0;
    if (!this.scene.visible) return;
    this.#collect(shot, frame, this.#hidden(shot, shown.hiddenSets));
    this.#material.resolution.set(pane.width, pane.height);
    const right = new THREE.Vector3().setFromMatrixColumn(pane.camera.matrixWorld, 0);
    const up = new THREE.Vector3().setFromMatrixColumn(pane.camera.matrixWorld, 1);
    for (const part of this.#drawn) {
      this.#place(part, frame, right, up);
      this.#tint(part, picked);
    }
    const { geometry } = this.#lines;
    for (const name of ['instanceStart', 'instanceColorStart'] as const) {
      (geometry.getAttribute(name) as THREE.InterleavedBufferAttribute).data.needsUpdate = true;
    }
  }

  /** The controls of the sets that are hidden. */
  #hidden(shot: Shot, hidden: readonly string[]): ReadonlySet<string> {
    const now = this.#hiddenNow;
    if (now?.sets === shot.sets && now.hidden === hidden) return now.ids;
    const ids = new Set(hidden.flatMap((id) => setMembers(shot, id)));
    this.#hiddenNow = { sets: shot.sets, hidden, ids };
    return ids;
  }

  #collect(shot: Shot, frame: Frame, hidden: ReadonlySet<string>): void {
    const wanted = frame.layout.rigs.map((rig) => actingKey(frame, rig)).join(' ');
    const names = [...hidden].join();
    const m = this.#made;
    if (m?.members === shot.members && m.hidden === names && m.acting === wanted) return;
    // A value that changes is a change of members; only who is there and what is shown matter.
    const ids = frame.layout.rigs.flatMap((rig) => shownControls(frame, rig, shot.members, hidden));
    const same =
      ids.length === this.#drawn.length &&
      ids.every(
        (p, i) => this.#drawn[i].id === p.id && this.#drawn[i].control === p.control && this.#drawn[i].slot === p.slot,
      );
    this.#made = { members: shot.members, hidden: names, acting: wanted };
    if (same) return;
    let first = 0;
    this.#drawn = ids.map((part) => {
      const at = first;
      first += part.lines.length;
      return { ...part, first: at };
    });
    this.#places = new Float32Array(first);
    this.#colours = new Float32Array(first);
    const geometry = new LineSegmentsGeometry();
    geometry.setPositions(this.#places);
    geometry.setColors(this.#colours);
    this.#places = (geometry.getAttribute('instanceStart') as THREE.InterleavedBufferAttribute).data
      .array as Float32Array;
    this.#colours = (geometry.getAttribute('instanceColorStart') as THREE.InterleavedBufferAttribute).data
      .array as Float32Array;
    this.#lines.geometry.dispose();
    this.#lines.geometry = geometry;
  }

  #place({ lines, first, slot, control }: Drawn, { world }: Frame, right: THREE.Vector3, up: THREE.Vector3): void {
    const m = slot * 16;
    const out = this.#places;
    if (control?.form === 'halo') {
      // It always faces whoever looks.
      const [ox, oy, oz] = control.off;
      const size = Math.hypot(world[m], world[m + 1], world[m + 2]);
      for (let p = 0; p < lines.length; p += 3) {
        const [x, y] = haloPoint(lines, p, control);
        for (let c = 0; c < 3; c++) {
          const middle = world[m + c] * ox + world[m + 4 + c] * oy + world[m + 8 + c] * oz + world[m + 12 + c];
          out[first + p + c] = middle + (right.getComponent(c) * x + up.getComponent(c) * y) * size;
        }
      }
      return;
    }
    for (let p = 0; p < lines.length; p += 3) {
      for (let c = 0; c < 3; c++) {
        out[first + p + c] =
          world[m + c] * lines[p] +
          world[m + 4 + c] * lines[p + 1] +
          world[m + 8 + c] * lines[p + 2] +
          world[m + 12 + c];
      }
    }
  }

  #tint({ id, first, lines, control }: Drawn, selection: readonly string[]): void {
    const own = control ? SIDE[control.side] : 'graphite';
    const name = selection.includes(id) ? 'blue' : id === this.hovered ? 'ink' : own;
    tint.set(colour(name));
    for (let p = 0; p < lines.length; p += 3) tint.toArray(this.#colours, first + p);
  }

  /** The control whose lines are nearest to a place in the window, within reach. A small one wins over a large one. */
  under(x: number, y: number, pane: Pane): string | null {
    if (!this.scene.visible) return null;
    let best: string | null = null;
    let reach = NEAR;
    for (const { id, first, lines, control } of this.#drawn) {
      const small = (control?.reach ?? 1) < 0.1 ? 2 : 0;
      const middle = [0, 0];
      let far = 0;
      const count = lines.length / 3;
      for (let p = 0; p < lines.length; p += 6) {
        const a = onPane(pane, point.fromArray(this.#places, first + p));
        const b = onPane(pane, point.fromArray(this.#places, first + p + 3));
        middle[0] += (a[0] + b[0]) / count;
        middle[1] += (a[1] + b[1]) / count;
        far = Math.max(far, Math.hypot(a[0] - x, a[1] - y));
        const distance = toSegment(x, y, a[0], a[1], b[0], b[1]) - small;
        if (distance < reach) [best, reach] = [id, distance];
      }
      // A small one may be taken by its middle as well, where no line is nearer.
      const off = Math.hypot(middle[0] - x, middle[1] - y);
      if (far < MIDDLE && off < far * 0.6 && NEAR - 1 < reach) [best, reach] = [id, NEAR - 1];
    }
    return best;
  }

  /** Controls whose middles are in a box of the window. */
  inBox(x0: number, y0: number, x1: number, y1: number, pane: Pane): string[] {
    if (!this.scene.visible) return [];
    return this.#drawn
      .filter(({ control }) => control !== null)
      .filter(({ first, lines }) => {
        const middle = new THREE.Vector3();
        for (let p = 0; p < lines.length; p += 3) middle.add(point.fromArray(this.#places, first + p));
        const [x, y] = onPane(pane, middle.divideScalar(lines.length / 3));
        return x >= x0 && x <= x1 && y >= y0 && y <= y1;
      })
      .map(({ id }) => id);
  }

  /** Where a control is drawn, in the window; for the name beside it. */
  placeOf(id: string, pane: Pane): [number, number] | null {
    const part = this.#drawn.find((d) => d.id === id);
    if (!part || !this.scene.visible) return null;
    let [x, y] = [Number.NEGATIVE_INFINITY, 0];
    for (let p = 0; p < part.lines.length; p += 3) {
      const [px, py] = onPane(pane, point.fromArray(this.#places, part.first + p));
      if (px > x) [x, y] = [px, py];
    }
    return [x, y];
  }
}

const tint = new THREE.Color();
const point = new THREE.Vector3();

/** A halo's line point in its plane, whichever way its form faces at rest. */
function haloPoint(lines: Float32Array, p: number, { off, faces }: RigControl): [number, number] {
  const [x, y, z] = [lines[p] - off[0], lines[p + 1] - off[1], lines[p + 2] - off[2]];
  return faces === 'x' ? [z, y] : faces === 'y' ? [x, z] : [x, y];
}

function toSegment(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length = dx * dx + dy * dy;
  const t = length > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length)) : 0;
  return Math.hypot(x - ax - dx * t, y - ay - dy * t);
}

const lineStore = new WeakMap<CompiledRig, Map<string, Float32Array>>();

function shownControls(
  frame: Frame,
  rig: PlacedRig,
  members: Shot['members'],
  hidden: ReadonlySet<string>,
): Omit<Drawn, 'first'>[] {
  const { compiled } = rig;
  const root = frame.layout.ids[rig.slot];
  if (members.at(root).locked || !frame.isVisible(rig.slot)) return [];
  const lines = lineStore.get(compiled) ?? new Map<string, Float32Array>();
  lineStore.set(compiled, lines);
  const acting = actingControls(frame, rig);
  const floor = floorRing(compiled);
  const out: Omit<Drawn, 'first'>[] = [
    { id: root, name: members.at(root).name, control: null, slot: rig.slot, lines: floor },
  ];
  compiled.rig.controls.forEach((control, c) => {
    const slot = rig.controls[c];
    const id = frame.layout.ids[slot];
    if (!acting.has(control.id) || members.at(id).locked || hidden.has(id)) return;
    const own = lines.get(control.id) ?? controlLines(control);
    lines.set(control.id, own);
    out.push({ id, name: control.name, control, slot, lines: own });
  });
  return out;
}

/** The ring a whole rig is taken hold of by: on its floor, as wide as it is, with a point to its front. */
function floorRing({ bounds }: CompiledRig): Float32Array {
  const r = Math.max(0.12, Math.max(bounds[3] - bounds[0], bounds[5] - bounds[2]) * 0.62);
  const out: number[] = [];
  for (let i = 0; i < 36; i++) {
    for (const k of [i, i + 1]) out.push(Math.sin((k * Math.PI) / 18) * r, 0, Math.cos((k * Math.PI) / 18) * r);
  }
  out.push(-r * 0.12, 0, r, 0, 0, r * 1.16, 0, 0, r * 1.16, r * 0.12, 0, r);
  return Float32Array.from(out);
}
