import type { Bounds, Rigs } from '@varrup/core';
import {
  boundsOf,
  type CompiledRig,
  channelOffset,
  type Detail,
  eachOutlinePoint,
  type Frame,
  isAffine,
  isDeformed,
  type Member,
  Program,
  type ShapeOf,
  type Shot,
  shapeMatrix,
  skyLight,
  Table,
  writeSky,
} from '@varrup/core';
import * as THREE from 'three';
import { Backdrop } from './backdrop.ts';
import { BentGeometry } from './bent-geometry.ts';
import { CoveredMaterial } from './covers.ts';
import { Crowd, materialOf, type Place } from './crowd.ts';
import { type Form, FormStore } from './forms.ts';
import { RigFigure } from './rig-figure.ts';

/** With more members than this round things are made more simply. */
const CROWD = 120;

/**
 * A shot as a picture: the scene that the stage, the stills and the movie all draw. It knows nothing of the page it is
 * shown on, so it works in a worker as well.
 */
export class ShotPicture {
  readonly scene = new THREE.Scene();
  readonly backdrop = new Backdrop(this.scene);
  readonly #parts = new Map<string, Shown>();
  readonly #crowd = new Crowd();
  #glass = false;
  readonly forms = new FormStore();
  #detail: Detail = 'full';
  #members: Shot['members'] | null = null;
  /** How many of the members are drawn here; controls are the stage's. */
  #bodies = 0;
  #signs = true;
  #skies: readonly Sky[] = [];
  /** Members that are drawn; all of them without. */
  only: ReadonlySet<string> | null = null;

  constructor() {
    this.scene.add(this.backdrop.group, this.#crowd.group);
  }

  /** Signs stand for groups, cameras and lights on the desk; a movie has none. */
  showSigns(show: boolean): void {
    this.#signs = show;
  }

  /** Shows rigs as through glass. */
  showGlass(on: boolean): void {
    if (on === this.#glass) return;
    this.#glass = on;
    for (const part of this.#parts.values()) part.glass(on);
  }

  /** Takes over who is in the cast and what form they have. Only those who have changed are looked at. */
  cast({ members, rigs }: Shot): void {
    const before = this.#members ?? Table.empty<Member>();
    if (members === before) return;
    this.#members = members;
    let skies = false;
    before.changesTo(members, (_, was, now) => {
      skies ||= was?.kind === 'sky' || now?.kind === 'sky';
      this.#bodies +=
        Number(now !== undefined && now.kind !== 'control') - Number(was !== undefined && was.kind !== 'control');
    });
    if (skies) this.#skies = skiesOf(members);
    const detail = this.#bodies > CROWD ? 'crowd' : 'full';
    const all = detail !== this.#detail;
    this.#detail = detail;
    const known = all ? Table.empty<Member>() : before;
    if (all) for (const id of [...this.#parts.keys()]) this.#remove(id);
    known.changesTo(members, (id, _, now) => this.#take(id, now, rigs));
  }

  /** Takes over one member, as it is now or gone. */
  #take(id: string, member: Member | undefined, rigs: Rigs): void {
    const part = this.#parts.get(id);
    if (part && member && isDrawnAlike(member, part.member)) {
      part.member = member;
      return;
    }
    if (part) this.#remove(id);
    const made = member && partOf(member, rigs, this.forms, this.#detail, this.#crowd);
    if (!made) return;
    made.glass(this.#glass);
    this.#parts.set(id, made);
    if (!made.isOneOfMany) this.scene.add(made.root);
  }

  #remove(id: string): void {
    const part = this.#parts.get(id);
    if (!part) return;
    this.scene.remove(part.root);
    part.dispose();
    this.#parts.delete(id);
  }

  /** Puts everybody where a frame says, in its light. */
  pose(frame: Frame): void {
    this.#lightAt(frame);
    frame.layout.ids.forEach((id, slot) => {
      const part = this.#parts.get(id);
      if (!part) return;
      part.pose(frame, slot, this.#signs);
      if (this.only && !this.only.has(id)) part.hide();
      this.#stand(part);
    });
    this.#crowd.flush();
  }

  /** Whoever is one of many is no part of the scene, but for what is drawn of them alone. */
  #stand(part: Shown): void {
    const belongs = !part.isOneOfMany;
    if (belongs === (part.root.parent !== null)) return;
    if (belongs) this.scene.add(part.root);
    else this.scene.remove(part.root);
  }

  /** The first sky that is seen is the sky. */
  #lightAt(frame: Frame): void {
    for (const { id, shape } of this.#skies) {
      const slot = frame.layout.slotOf.get(id);
      if (slot === undefined || !frame.isVisible(slot)) continue;
      writeSky(frame.value(id, 'hour') ?? 12, frame.value(id, 'haze') ?? 0, light);
      this.backdrop.sky(light, shape.floor === 'ground');
      return;
    }
    this.backdrop.sky(null, true);
  }

  /** Lets the shadow cover everybody. */
  coverAll(shot: Shot, frame: Frame): void {
    const box = worldBounds(shot, frame, shownMembers(shot));
    const sphere = box.isEmpty() ? new THREE.Sphere(new THREE.Vector3(), 2) : box.getBoundingSphere(new THREE.Sphere());
    this.backdrop.cover(sphere.center, Math.min(Math.max(sphere.radius, 1.5), 20));
  }

  /** Outlines members, each in a colour. */
  mark(marks: ReadonlyMap<string, string>): void {
    for (const [id, part] of this.#parts) {
      part.mark(marks.get(id) ?? null);
      this.#stand(part);
    }
  }

  /** Everything a pointer can hit, with `userData.member` on each. */
  get bodies(): THREE.Object3D[] {
    const shown = [...this.#parts.values()].filter((part) => part.root.visible).map((part) => part.root);
    for (const root of shown) if (root.parent === null) root.updateMatrixWorld();
    return shown;
  }

  dispose(): void {
    for (const part of this.#parts.values()) part.dispose();
    this.#parts.clear();
    this.#crowd.dispose();
    this.forms.dispose();
  }
}

/** Whether two versions of a member are the same to look at, but for what changes from frame to frame. */
const isDrawnAlike = (a: Member, b: Member): boolean =>
  a.kind === b.kind && a.shape === b.shape && a.material === b.material;

type Sky = Extract<Member, { kind: 'sky' }>;
const skiesOf = (members: Shot['members']): Sky[] =>
  members
    .values()
    .filter((m): m is Sky => m.kind === 'sky')
    .sort((a, b) => a.rank - b.rank);

const light = skyLight();
const matrix = new Float64Array(16);
const paint = new THREE.Color();
const white = new THREE.Color(1, 1, 1);

/** What one member is drawn as. */
interface Shown {
  member: Member;
  readonly root: THREE.Group;
  /** Whether it is drawn with others of its form, and nothing of it by itself. */
  readonly isOneOfMany: boolean;
  pose(frame: Frame, slot: number, signs: boolean): void;
  /** Draws nothing of it until it is posed again. */
  hide(): void;
  mark(colour: string | null): void;
  glass(on: boolean): void;
  dispose(): void;
}

/** Controls are drawn by the stage, over everything; a rig the page does not know cannot be drawn. */
function partOf(member: Member, rigs: Rigs, forms: FormStore, detail: Detail, crowd: Crowd): Shown | null {
  if (member.kind === 'control') return null;
  if (member.kind !== 'rig') return new Part(member, boundsOf(member, rigs), forms, detail, crowd);
  const compiled = rigs.find(member.shape);
  return compiled ? new RigPart(member, compiled) : null;
}

/** One linked rig. */
class RigPart implements Shown {
  member: Member;
  readonly isOneOfMany = false;
  readonly #figure: RigFigure;

  constructor(member: Member, compiled: CompiledRig) {
    this.member = member;
    this.#figure = new RigFigure(compiled);
    this.root.userData.member = member.id;
  }

  get root(): THREE.Group {
    return this.#figure.root;
  }

  pose(frame: Frame, slot: number): void {
    const placed = frame.layout.rigAt.get(slot);
    if (placed) this.#figure.pose(frame, placed);
  }

  hide(): void {
    this.root.visible = false;
  }

  /** Its picked controls are marked, not its body. */
  mark(): void {}

  glass(on: boolean): void {
    this.#figure.glass(on);
  }

  dispose(): void {
    this.#figure.dispose();
  }
}

function lampOf({ beam, spread, soft }: ShapeOf<'light'>): THREE.PointLight | THREE.SpotLight {
  if (beam === 'round') return new THREE.PointLight(0xffffff, 1, 0, 2);
  const lamp = new THREE.SpotLight(0xffffff, 1, 0, THREE.MathUtils.degToRad(spread), soft, 2);
  lamp.position.set(0, 0, 0);
  lamp.target.position.set(0, 0, -1);
  lamp.add(lamp.target);
  return lamp;
}

/** One member's objects. Matrices come from the core; three works none out. */
class Part implements Shown {
  member: Member;
  readonly root = new THREE.Group();
  readonly #form: Form;
  readonly #body: THREE.MeshStandardMaterial | null = null;
  readonly #covered: CoveredMaterial | null = null;
  readonly #sign: THREE.LineSegments | null = null;
  readonly #lamp: THREE.PointLight | THREE.SpotLight | null = null;
  #outline: THREE.LineSegments | null = null;
  /** Forms bent point by point, each with the mesh that shows it and the form at rest. */
  #bent: { readonly mesh: THREE.Mesh; readonly rest: THREE.BufferGeometry; readonly bent: BentGeometry }[] = [];

  readonly #forms: FormStore;
  readonly #bounds: Bounds;
  /** Its meshes, and its places where it is drawn with others instead; the meshes are for the pointer then. */
  readonly #meshes: THREE.Mesh[] = [];
  readonly #places: Place[] = [];
  #isBent = false;

  constructor(member: Member, bounds: Bounds, forms: FormStore, detail: Detail, crowd: Crowd) {
    this.member = member;
    this.#bounds = bounds;
    this.#forms = forms;
    this.#form = forms.of(member, detail);
    this.root.matrixAutoUpdate = false;
    this.root.userData.member = member.id;
    const { bodies, sign } = this.#form;
    for (const body of bodies) {
      const { geometry, paint, bothSides } = body;
      if (member.material && paint === 'own') {
        this.#covered = new CoveredMaterial(member.material.cover, bothSides);
        this.#add(geometry, this.#covered.material, !bothSides);
        continue;
      }
      const material = materialOf(body);
      if (paint === 'own') this.#body = material;
      this.#add(geometry, material, paint === 'own' && !bothSides);
    }
    if (detail === 'crowd' && !member.material && !sign) for (const body of bodies) this.#places.push(crowd.add(body));
    if (sign) {
      this.#sign = new THREE.LineSegments(sign, new THREE.LineBasicMaterial());
      this.root.add(this.#sign);
    }
    if (member.kind === 'light') {
      this.#lamp = lampOf(member.shape);
      this.root.add(this.#lamp);
    }
  }

  #add(geometry: THREE.BufferGeometry, material: THREE.Material, casts: boolean): void {
    const mesh = new THREE.Mesh(geometry, material);
    mesh.castShadow = casts;
    mesh.receiveShadow = true;
    mesh.matrixAutoUpdate = false;
    this.#meshes.push(mesh);
    this.root.add(mesh);
  }

  /** With anything drawn of it alone, a bend or an outline, it stands in the scene. */
  get isOneOfMany(): boolean {
    return this.#places.length > 0 && !this.#isBent && !this.#outline?.visible;
  }

  hide(): void {
    this.root.visible = false;
    for (const place of this.#places) place.batch.hide(place);
  }

  pose(frame: Frame, slot: number, signs: boolean): void {
    const visible = frame.isVisible(slot);
    this.root.visible = visible && (signs || this.#sign === null || this.#lamp !== null);
    if (!visible) {
      this.hide();
      return;
    }
    this.#shape(frame, slot);
    this.root.matrixWorldNeedsUpdate = true;
    const base = frame.layout.base[slot] + channelOffset.colour;
    const [r, g, b] = [frame.values[base], frame.values[base + 1], frame.values[base + 2]];
    this.#body?.color.setRGB(r, g, b, THREE.SRGBColorSpace);
    if (this.#places.length > 0) this.#standWithOthers();
    if (this.#covered) this.#coverAt(frame, slot, paint.setRGB(r, g, b, THREE.SRGBColorSpace));
    if (this.#sign) {
      this.#sign.visible = signs;
      (this.#sign.material as THREE.LineBasicMaterial).color.setRGB(r * 0.7, g * 0.7, b * 0.7, THREE.SRGBColorSpace);
    }
    if (this.#lamp) {
      this.#lamp.color.setRGB(r, g, b, THREE.SRGBColorSpace);
      this.#lamp.intensity = frame.value(this.member.id, 'brightness') ?? 0;
    }
  }

  /** Draws it with others of its form; bent it is drawn alone. */
  #standWithOthers(): void {
    for (const mesh of this.#meshes) mesh.visible = this.#isBent;
    for (const place of this.#places) {
      if (this.#isBent) place.batch.hide(place);
      else place.batch.put(place, this.root.matrix, place.batch.body.paint === 'own' ? this.#body!.color : white);
    }
  }

  #coverAt({ layout, values }: Frame, slot: number, colour: THREE.Color): void {
    const places = layout.channelAt[slot];
    const of = (channel: string): number => values[layout.base[slot] + (places.get(channel) ?? 0)];
    this.#covered?.set(colour, of('surface.roughness'), of('surface.metal'), of('surface.glow'), of('surface.clear'));
  }

  /** Puts the form where it stands, bent as its deformers say. */
  #shape(frame: Frame, slot: number): void {
    shapeMatrix(frame, slot, matrix);
    const whole = isAffine(frame, slot);
    // With anything but squashes in the stack all of it is done point by point.
    this.#isBent = !whole && isDeformed(frame, slot);
    if (!this.#isBent) {
      this.root.matrix.fromArray(matrix);
      for (const { mesh, rest } of this.#bent) mesh.geometry = rest;
      return;
    }
    this.root.matrix.fromArray(frame.world, slot * 16);
    if (this.#bent.length === 0) {
      for (const mesh of this.#meshes)
        this.#bent.push({ mesh, rest: mesh.geometry, bent: new BentGeometry(mesh.geometry) });
    }
    for (const { mesh, bent } of this.#bent) {
      bent.bend(frame, slot);
      mesh.geometry = bent.geometry;
    }
  }

  /** Only rigs have anything behind their skin. */
  glass(): void {}

  mark(colour: string | null): void {
    if (!colour) {
      if (this.#outline) this.#outline.visible = false;
      return;
    }
    if (!this.#outline) {
      const [body] = this.#form.bodies;
      const geometry = body ? this.#forms.outline(body.geometry) : boxLines(this.#bounds);
      const hasEdges = geometry.getAttribute('position').count > 0;
      this.#outline = new THREE.LineSegments(
        hasEdges ? geometry : this.member.kind === 'ball' ? ringsAround(this.#bounds) : boxLines(this.#bounds),
        this.#forms.outlineMaterial(colour),
      );
      this.#outline.renderOrder = 5;
      this.root.add(this.#outline);
    }
    this.#outline.visible = true;
    this.#outline.material = this.#forms.outlineMaterial(colour);
  }

  dispose(): void {
    for (const { bent } of this.#bent) bent.dispose();
    for (const place of this.#places) place.batch.remove(place);
    this.root.traverse((object) => {
      // Geometries are shared, and what outlines are drawn with; the store of forms disposes of them.
      if (object === this.#outline) return;
      if (object instanceof THREE.Mesh || object instanceof THREE.LineSegments) object.material.dispose();
    });
  }
}

function boxLines([x0, y0, z0, x1, y1, z1]: Bounds): THREE.BufferGeometry {
  const r = 0.16;
  const box = new THREE.BoxGeometry(Math.max(x1 - x0, r), Math.max(y1 - y0, r), Math.max(z1 - z0, r));
  return new THREE.EdgesGeometry(box.translate((x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2));
}

/** Three great circles: what a form without edges, a ball, is outlined by. */
function ringsAround([x0, , , x1]: Bounds): THREE.BufferGeometry {
  const r = ((x1 - x0) / 2) * 1.01;
  const points: number[] = [];
  for (let axis = 0; axis < 3; axis++) {
    for (let i = 0; i < 64; i++) {
      for (const step of [i, i + 1]) {
        const p = [0, 0, 0];
        p[(axis + 1) % 3] = Math.cos((step * Math.PI) / 32) * r;
        p[(axis + 2) % 3] = Math.sin((step * Math.PI) / 32) * r;
        points.push(...p);
      }
    }
  }
  return new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
}

/** The box around members in the world at a frame; empty where there is nothing to see. */
export function worldBounds(shot: Shot, frame: Frame, ids: readonly string[]): THREE.Box3 {
  const all = new THREE.Box3();
  const point = new THREE.Vector3();
  const matrix = new THREE.Matrix4();
  for (const id of ids) {
    const slot = frame.layout.slotOf.get(id);
    const member = shot.members.get(id);
    if (slot === undefined || !member) continue;
    const rig = frame.layout.rigAt.get(slot);
    if (rig) {
      eachOutlinePoint(frame, rig, (x, y, z) => void all.expandByPoint(point.set(x, y, z)));
      continue;
    }
    const [x0, y0, z0, x1, y1, z1] = boundsOf(member, shot.rigs);
    const box = new THREE.Box3(new THREE.Vector3(x0, y0, z0), new THREE.Vector3(x1, y1, z1));
    all.union(box.applyMatrix4(matrix.fromArray(frame.world, slot * 16)));
  }
  return all;
}

/** Those whose place decides how much a picture must show: what is seen, less wide grounds. */
export const shownMembers = (shot: Shot): string[] => {
  const solid = shot.members
    .values()
    .filter((m) => !['camera', 'light', 'sky', 'group', 'plane', 'control'].includes(m.kind));
  return (solid.length > 0 ? solid : shot.members.values()).map((m) => m.id);
};

/** A program and a frame to draw stills and movies from. */
export function evaluator(shot: Shot): (time: number) => Frame {
  const program = new Program(shot);
  const frame = program.createFrame();
  return (time) => {
    program.evaluate(time, frame);
    return frame;
  };
}
