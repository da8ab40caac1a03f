import type { KindName } from '../../document/kinds/index.ts';
import type { Member, ShapeOf } from '../../document/member.ts';
import { letteringMesh } from './lettering.ts';
import type { Mesh } from './mesh.ts';
import { mosaic } from './mosaic.ts';
import { plankMesh } from './plank.ts';
import { prism } from './prism.ts';
import { projected } from './projected.ts';
import { type Ring, revolve, sphere, turned } from './revolve.ts';
import { ropeMesh } from './rope.ts';
import { roundedBox } from './rounded-box.ts';

/** One piece of a form: a mesh and what it is painted with. */
export interface FormPart {
  readonly mesh: Mesh;
  /** The member's own colour, the colours of its corners, or one that it always has. */
  readonly paint: 'own' | 'corners' | { readonly colour: string };
  /** 0 is a mirror, 1 chalk. */
  readonly roughness: number;
  /** Whether it is seen from behind as well. */
  readonly bothSides: boolean;
}

/** How finely round things are made: a crowd is seen from further away than one. */
export type Detail = 'full' | 'crowd';
const ROUND: Record<Detail, number> = { full: 48, crowd: 18 };

const own = (mesh: Mesh, bothSides = false): FormPart => ({ mesh, paint: 'own', roughness: 0.82, bothSides });

/**
 * The form of each kind of cast member. Edges are softened a little, so that they catch the light as turned wood and painted tin
 * do. Forms stand as the kinds say: most on their base, balls about their centre.
 */
const builders: { readonly [K in KindName]: (shape: ShapeOf<K>, detail: Detail) => readonly FormPart[] } = {
  ball({ radius, band }, detail) {
    const body = own(sphere(radius, ROUND[detail], Math.round((ROUND[detail] * 2) / 3)));
    if (!band) return [body];
    // A hair outside the skin.
    const mesh = sphere(radius * 1.006, ROUND[detail], 6, -BAND, BAND);
    return [body, { mesh, paint: { colour: band }, roughness: 0.8, bothSides: false }];
  },
  box({ width, height, depth, rounding }) {
    const radius = Math.min(Math.max(rounding, bevel(width, height, depth)), width / 2, height / 2, depth / 2);
    return [own(roundedBox([width / 2, height / 2, depth / 2], radius, rounding > 0 ? 5 : 2, [0, height / 2, 0]))];
  },
  cylinder({ radius, height }, detail) {
    const b = bevel(radius * 2, height, radius * 2);
    const outline = [
      [0, 0],
      [radius - b, 0],
      [radius, b],
      [radius, height - b],
      [radius - b, height],
      [0, height],
    ] as const;
    return [own(turned(outline, ROUND[detail]))];
  },
  cone({ radius, height }, detail) {
    const b = Math.min(radius, height) * 0.06;
    const outline = [
      [0, 0],
      [radius - b, 0],
      [radius, b],
      [b * 0.8, height - b],
      [0, height],
    ] as const;
    return [own(turned(outline, ROUND[detail]))];
  },
  capsule({ radius, height }, detail) {
    const rows = Math.round(ROUND[detail] / 4);
    const top = Math.max(height - radius, radius);
    const half = (middle: number, from: number) =>
      Array.from({ length: rows + 1 }, (_, i): Ring => {
        const angle = from + (Math.PI / 2) * (i / rows);
        const pole = Math.abs(Math.abs(angle) - Math.PI / 2) < 1e-9;
        const [out, up] = [pole ? 0 : Math.cos(angle), Math.sin(angle)];
        return { radius: radius * out, y: middle + radius * up, out, up };
      });
    // Where it is but a ball, both halves meet at its middle.
    const rings = [...half(radius, -Math.PI / 2), ...half(top, 0).slice(top > radius ? 0 : 1)];
    const strips = rings.slice(1).map((ring, i): [Ring, Ring] => [rings[i], ring]);
    return [own(revolve(strips, ROUND[detail]))];
  },
  tube({ radius, wall, height }, detail) {
    const inner = Math.max(radius - wall, radius * 0.02);
    const outline = [
      [inner, 0],
      [radius, 0],
      [radius, height],
      [inner, height],
      [inner, 0],
    ] as const;
    return [own(turned(outline, ROUND[detail]))];
  },
  ring({ radius, thickness }, detail) {
    const bar = Math.min(thickness, radius * 0.98);
    const rows = Math.round(ROUND[detail] / 2);
    const rings = Array.from({ length: rows }, (_, i): Ring => {
      const angle = (i * 2 * Math.PI) / rows;
      const [out, up] = [Math.cos(angle), Math.sin(angle)];
      return { radius: radius + bar * out, y: bar * up, out, up };
    });
    return [
      own(
        revolve(
          rings.map((ring, i): [Ring, Ring] => [ring, rings[(i + 1) % rows]]),
          ROUND[detail],
        ),
      ),
    ];
  },
  arch({ width, height, depth, wall }, detail) {
    const outer = width / 2;
    const inner = outer - Math.min(wall, outer * 0.98);
    const spring = Math.max(height, outer) - outer;
    const bend = (radius: number) =>
      Array.from({ length: ROUND[detail] / 2 + 1 }, (_, i): [number, number] => {
        const angle = (i * 2 * Math.PI) / ROUND[detail];
        return [radius * Math.cos(angle), spring + radius * Math.sin(angle)];
      });
    const feet: [number, number][] = spring > 0 ? [[outer, 0]] : [];
    const far: [number, number][] =
      spring > 0
        ? [
            [-outer, 0],
            [-inner, 0],
          ]
        : [];
    const near: [number, number][] = spring > 0 ? [[inner, 0]] : [];
    return [own(prism([...feet, ...bend(outer), ...far, ...bend(inner).reverse(), ...near], depth))];
  },
  plank: (shape) => [own(plankMesh(shape))],
  rope: (shape, detail) => [own(ropeMesh(shape, ROUND[detail]))],
  lettering: (shape) => [own(letteringMesh(shape))],
  wedge: ({ width, height, depth }) => [
    own(
      prism(
        [
          [-width / 2, 0],
          [width / 2, 0],
          [-width / 2, height],
        ],
        depth,
      ),
    ),
  ],
  steps({ count, tread, rise, depth }) {
    const half = (count * tread) / 2;
    const outline: [number, number][] = [
      [-half, 0],
      [half, 0],
    ];
    for (let i = 0; i < count; i++) {
      const x = half - i * tread;
      outline.push([x, (i + 1) * rise], [x - tread, (i + 1) * rise]);
    }
    return [own(prism(outline, depth))];
  },
  plane: ({ width, depth }) => [own(flat(width / 2, depth / 2), true)],
  block({ size, picture, paints }) {
    const half = size / 2;
    const body = own(roundedBox([half, half, half], size * 0.04, 3));
    if (picture.length === 0) return [body];
    return [body, { mesh: mosaic(size, picture, paints), paint: 'corners', roughness: 0.7, bothSides: false }];
  },
  piece: ({ positions, normals, triangles }) => [
    own({
      positions: Float32Array.from(positions),
      normals: Float32Array.from(normals, (n) => n / 100),
      triangles: Uint32Array.from(triangles),
    }),
  ],
  group: () => [],
  camera: () => [],
  light: () => [],
  sky: () => [],
  // Rigs have bodies of their own, controls none.
  rig: () => [],
  control: () => [],
};

/** Half the width of a ball's band, radians from its equator. */
const BAND = 0.26;

/** What a cast member's form is made of, in its own space at rest; nothing for those that have no body, and for rigs. */
export function formOf(
  { kind, shape, material }: Pick<Member, 'kind' | 'shape' | 'material'>,
  detail: Detail = 'full',
): readonly FormPart[] {
  const parts = (builders[kind] as (shape: Member['shape'], detail: Detail) => readonly FormPart[])(shape, detail);
  const cover = material?.cover;
  if (!cover) return parts;
  const aspect = cover.is === 'picture' ? cover.aspect : 1;
  const from = 'from' in shape ? shape.from : ([0, 0, 0] as const);
  return parts.map((part) =>
    part.paint === 'own' ? { ...part, mesh: projected(part.mesh, cover.scale, aspect, from) } : part,
  );
}

/** The kinds that have a form, which can be made of something. */
export const hasForm = (kind: KindName): boolean =>
  !['group', 'camera', 'light', 'sky', 'rig', 'control'].includes(kind);

/** The same text for members whose forms are the same. */
export const formKey = ({ kind, shape, material }: Pick<Member, 'kind' | 'shape' | 'material'>): string =>
  `${kind} ${JSON.stringify(shape)} ${material?.cover ? `${material.cover.is} ${material.cover.scale}` : ''}`;

/** How much edges are softened where nothing else is said. */
export const bevel = (...sizes: number[]) => Math.min(0.02, Math.min(...sizes) * 0.12);

const flat = (x: number, z: number): Mesh => ({
  positions: Float32Array.of(-x, 0, z, x, 0, z, x, 0, -z, -x, 0, -z),
  normals: Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0),
  triangles: Uint32Array.of(0, 1, 2, 0, 2, 3),
});
