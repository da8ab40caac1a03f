import type { Vector } from '../pose/vectors.ts';
import { MESH_UNIT, type RigMesh, rigLimits } from '../rig/definition.ts';
import { Refused } from '../schema/refused.ts';
import type { Build } from './build.ts';
import { type Shell, shellOf } from './shell.ts';
import { Surface, softly } from './surface.ts';

/** Points of a body that a hand has taken hold of: how strongly each goes along, and from where. */
export interface Grip {
  readonly at: Vector;
  /** Each point with its share from 0 to 1, and whether it is of the mirror image. */
  readonly points: readonly { readonly point: number; readonly share: number; readonly image: boolean }[];
}

/** What a hand does with what it holds. */
export type HandMove =
  | { readonly does: 'pull'; readonly by: Vector }
  /** Turns about an axis through where it was taken hold of, radians. */
  | { readonly does: 'turn'; readonly axis: Vector; readonly angle: number }
  | { readonly does: 'size'; readonly factor: number }
  /** Brings each point towards the middle of its neighbours. */
  | { readonly does: 'smooth'; readonly strength: number };

/**
 * Shapes a body with soft hands: as it is, or as one of its shape targets, which then hold how it differs from itself. Between taking hold and
 * letting go each touch is from where it was taken, so that a drag can go forth and back.
 */
export class Shaping {
  readonly #build: Build;
  readonly #shell: Shell;
  readonly #surface: Surface;
  /** The name of the shape that is shaped; null for the body itself. */
  readonly #shape: string | null;

  constructor(build: Build, shape: string | null) {
    this.#build = build;
    this.#shape = shape;
    this.#shell = shellOf(shape === null ? build.meshes : build.meshes.map((mesh) => asShaped(mesh, shape, 1)));
    this.#surface = new Surface(this.#shell);
  }

  /** Takes hold of the skin round a place. @param reach metres along it @param pairs whether the other side goes along in the mirror */
  hold(at: Vector, reach: number, pairs: boolean): Grip {
    const take = (place: Vector, image: boolean) =>
      [...this.#surface.within(place, reach)].map(([point, far]) => ({ point, share: softly(far / reach), image }));
    const own = take(at, false);
    if (!pairs) return { at, points: own };
    const other = take([-at[0], at[1], at[2]], true);
    return { at, points: merged(own, other) };
  }

  /** The body after a touch. @throws Refused where a point would go further than a body may reach */
  touched({ at, points }: Grip, touch: HandMove): Build {
    const moved = new Map<number, Vector>();
    for (const { point, share, image } of points) {
      const place = this.#place(point);
      const way =
        touch.does === 'smooth'
          ? this.#smoothed(point, touch.strength)
          : image
            ? mirror(wayOf(mirror(place), at, touch))
            : wayOf(place, at, touch);
      const before = moved.get(point) ?? ([0, 0, 0] as Vector);
      moved.set(point, [before[0] + way[0] * share, before[1] + way[1] * share, before[2] + way[2] * share]);
    }
    return this.#with(moved);
  }

  #place(point: number): Vector {
    const p = this.#shell.positions;
    return [p[point * 3], p[point * 3 + 1], p[point * 3 + 2]];
  }

  /** How far it is to the middle of a point's neighbours, by a share. */
  #smoothed(point: number, strength: number): Vector {
    const around = this.#surface.neighbours[point];
    const own = this.#place(point);
    if (around.length === 0) return [0, 0, 0];
    const by = Math.min(1, Math.max(0, strength));
    const to = (i: 0 | 1 | 2) => around.reduce((sum, other) => sum + this.#place(other)[i], 0) / around.length;
    return [(to(0) - own[0]) * by, (to(1) - own[1]) * by, (to(2) - own[2]) * by];
  }

  #with(moved: ReadonlyMap<number, Vector>): Build {
    const far = 1e4;
    for (const [x, y, z] of moved.values())
      if (!(Math.abs(x) < far && Math.abs(y) < far && Math.abs(z) < far))
        throw new Refused('It would be drawn out of all bounds: draw it less far.');
    const meshes = this.#build.meshes.map((mesh, m) => {
      const of = this.#shell.of[m];
      const own: [vertex: number, by: Vector][] = [];
      of.forEach((point, v) => {
        const by = moved.get(point);
        if (by) own.push([v, by]);
      });
      if (own.length === 0) return mesh;
      return this.#shape === null ? drawnOut(mesh, own) : withOffsets(mesh, this.#shape, own);
    });
    return { ...this.#build, meshes };
  }
}

/** How far a place goes that goes along wholly. */
function wayOf(place: Vector, at: Vector, touch: Exclude<HandMove, { does: 'smooth' }>): Vector {
  const [x, y, z] = [place[0] - at[0], place[1] - at[1], place[2] - at[2]];
  if (touch.does === 'pull') return touch.by;
  if (touch.does === 'size') return [x * (touch.factor - 1), y * (touch.factor - 1), z * (touch.factor - 1)];
  // Rodrigues: v cos + (k × v) sin + k (k·v)(1 − cos), less v.
  const [kx, ky, kz] = touch.axis;
  const [c, s] = [Math.cos(touch.angle) - 1, Math.sin(touch.angle)];
  const along = (kx * x + ky * y + kz * z) * -c;
  return [
    x * c + (ky * z - kz * y) * s + kx * along,
    y * c + (kz * x - kx * z) * s + ky * along,
    z * c + (kx * y - ky * x) * s + kz * along,
  ];
}

const mirror = ([x, y, z]: Vector): Vector => [-x, y, z];

/** Points on the middle belong to both: each as strongly as it is held more. */
function merged(own: Grip['points'], other: Grip['points']): Grip['points'] {
  const shares = new Map(own.map((entry) => [entry.point, entry]));
  const both: { point: number; share: number; image: boolean }[] = [];
  const rest = new Map(shares);
  for (const entry of other) {
    const mine = shares.get(entry.point);
    if (!mine) {
      both.push(entry);
      continue;
    }
    // Held from both sides it goes half with each, so that the middle stays in the middle.
    rest.delete(entry.point);
    both.push({ ...mine, share: mine.share / 2 }, { ...entry, share: entry.share / 2 });
  }
  return [...rest.values(), ...both];
}

function drawnOut(mesh: RigMesh, moved: readonly (readonly [number, Vector])[]): RigMesh {
  const positions = [...mesh.positions];
  for (const [v, by] of moved)
    for (let c = 0; c < 3; c++) positions[v * 3 + c] = Math.round(positions[v * 3 + c] + by[c] / MESH_UNIT);
  return { ...mesh, positions };
}

/** A mesh with one of its shapes at an amount. */
export function asShaped(mesh: RigMesh, shape: string, amount: number): RigMesh {
  const target = mesh.targets.find((t) => t.name === shape);
  if (!target) return mesh;
  const positions = [...mesh.positions];
  target.vertices.forEach((v, i) => {
    for (let c = 0; c < 3; c++)
      positions[v * 3 + c] = Math.round(positions[v * 3 + c] + target.offsets[i * 3 + c] * amount);
  });
  return { ...mesh, positions };
}

function withOffsets(mesh: RigMesh, shape: string, moved: readonly (readonly [number, Vector])[]): RigMesh {
  const target = mesh.targets.find((t) => t.name === shape);
  if (!target) return mesh;
  const offsets = new Map(target.vertices.map((v, i) => [v, [0, 1, 2].map((c) => target.offsets[i * 3 + c])] as const));
  for (const [v, by] of moved) {
    const before = offsets.get(v) ?? [0, 0, 0];
    offsets.set(
      v,
      before.map((o, c) => Math.round(o + by[c] / MESH_UNIT)),
    );
  }
  const kept = [...offsets].filter(([, o]) => o.some((d) => d !== 0)).sort(([a], [b]) => a - b);
  const next = { ...target, vertices: kept.map(([v]) => v), offsets: kept.flatMap(([, o]) => o) };
  return { ...mesh, targets: mesh.targets.map((t) => (t === target ? next : t)) };
}

/** The shapes of a body, by name, in their order. */
export const shapesOf = ({ meshes }: Build): string[] => [
  ...new Set(meshes.flatMap((m) => m.targets.map((t) => t.name))),
];

/** Gives a body a new shape with a dial of its own, which is nothing yet. @throws Refused where it has as many as it can have */
export function addShape(build: Build, name: string): Build {
  const text = name.trim();
  if (text === '') throw new Refused('A shape needs a name.');
  if (shapesOf(build).includes(text)) throw new Refused(`There is a shape called ${text} already.`);
  if (build.meshes.some((mesh) => mesh.targets.length >= rigLimits.targets))
    throw new Refused(`A part of the body has up to ${rigLimits.targets} shapes.`);
  const taken = new Set(build.meshes.flatMap((m) => m.targets.flatMap((t) => t.by.inputs.map((i) => i.path))));
  let n = 1;
  const path = () => `shapes${Math.floor((n - 1) / rigLimits.dials) + 1}.d${n}`;
  while (taken.has(path())) n++;
  const id = `shape${n}`;
  const by = { text: 'amount', inputs: [{ name: 'amount', path: path() }] };
  return {
    ...build,
    meshes: build.meshes.map((mesh) => ({
      ...mesh,
      targets: [
        ...mesh.targets,
        { id: mesh.targets.some((t) => t.id === id) ? `${id}x` : id, name: text, by, vertices: [], offsets: [] },
      ],
    })),
  };
}

export const removeShape = (build: Build, name: string): Build => ({
  ...build,
  meshes: build.meshes.map((mesh) => ({ ...mesh, targets: mesh.targets.filter((t) => t.name !== name) })),
});

/** Splits each triangle of a mesh into four, so that there are points to shape. @throws Refused where there would be too many */
export function finer(build: Build, id: string): Build {
  const mesh = build.meshes.find((m) => m.id === id);
  if (!mesh) throw new Error(`There is no part ${id}.`);
  const before = build.meshes.reduce((sum, m) => sum + m.positions.length / 3, 0);
  const split = split4(mesh);
  const after = before + (split.positions.length - mesh.positions.length) / 3;
  if (after > rigLimits.vertices)
    throw new Refused(`It would have ${after} points; a body has up to ${rigLimits.vertices}.`);
  return { ...build, meshes: build.meshes.map((m) => (m === mesh ? split : m)) };
}

function split4(mesh: RigMesh): RigMesh {
  const positions = [...mesh.positions];
  const picture = mesh.material?.picture;
  const places = picture ? [...picture.places] : null;
  const skin =
    mesh.skin.kind === 'smooth' ? { indices: [...mesh.skin.indices], weights: [...mesh.skin.weights] } : null;
  const halves = new Map<string, number>();
  const middles: [number, number][] = [];
  const half = (a: number, b: number): number => {
    const key = a < b ? `${a} ${b}` : `${b} ${a}`;
    const known = halves.get(key);
    if (known !== undefined) return known;
    const v = positions.length / 3;
    for (let c = 0; c < 3; c++) positions.push(Math.round((positions[a * 3 + c] + positions[b * 3 + c]) / 2));
    if (places) for (let c = 0; c < 2; c++) places.push(Math.round((places[a * 2 + c] + places[b * 2 + c]) / 2));
    // Of two points a new one takes the weights of one: to weigh anew is better, and at hand.
    if (skin) {
      skin.indices.push(...skin.indices.slice(a * 4, a * 4 + 4));
      skin.weights.push(...skin.weights.slice(a * 4, a * 4 + 4));
    }
    halves.set(key, v);
    middles.push([a, b]);
    return v;
  };
  const triangles: number[] = [];
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = mesh.triangles.slice(t, t + 3);
    const [ab, bc, ca] = [half(a, b), half(b, c), half(c, a)];
    triangles.push(a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca);
  }
  const first = mesh.positions.length / 3;
  return {
    ...mesh,
    positions,
    triangles,
    ...(mesh.material && picture && places ? { material: { ...mesh.material, picture: { ...picture, places } } } : {}),
    skin: mesh.skin.kind === 'smooth' && skin ? { ...mesh.skin, ...skin } : mesh.skin,
    targets: mesh.targets.map((target) => {
      const of = new Map(target.vertices.map((v, i) => [v, i]));
      const offset = (v: number, c: number) => (of.has(v) ? target.offsets[of.get(v)! * 3 + c] : 0);
      const vertices = [...target.vertices];
      const offsets = [...target.offsets];
      middles.forEach(([a, b], i) => {
        if (!of.has(a) && !of.has(b)) return;
        vertices.push(first + i);
        for (let c = 0; c < 3; c++) offsets.push(Math.round((offset(a, c) + offset(b, c)) / 2));
      });
      return { ...target, vertices, offsets };
    }),
  };
}
