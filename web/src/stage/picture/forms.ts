import type { KindName, Member, ShapeOf } from '@varrup/core';
import * as THREE from 'three';
import { RoundedBoxGeometry } from 'three/addons/geometries/RoundedBoxGeometry.js';

/**
 * The drawn form of each kind of cast member. Edges are softened a little, so that they catch the light as turned wood
 * and painted tin do. Forms stand as the core's kinds say: most on their base, balls about their centre.
 */
export interface Form {
  /** What is lit, coloured by the member's own colour. */
  readonly body: THREE.BufferGeometry | null;
  /** A part with a colour of its own. */
  readonly trim?: { readonly geometry: THREE.BufferGeometry; readonly colour: string };
  /** A part with colours of its own, one a corner. */
  readonly painted?: THREE.BufferGeometry;
  /** A sign instead of a body, drawn on the desk and never in a movie. */
  readonly sign?: THREE.BufferGeometry;
}

/** How finely round things are made: a crowd is seen from further away than one. */
export type Detail = 'full' | 'crowd';
const ROUND: Record<Detail, number> = { full: 48, crowd: 18 };

const builders: { readonly [K in KindName]: (shape: ShapeOf<K>, detail: Detail) => Form } = {
  ball: ({ radius, band }, detail) => ({
    body: new THREE.SphereGeometry(radius, ROUND[detail], Math.round((ROUND[detail] * 2) / 3)),
    trim: band ? { geometry: bandOn(radius, ROUND[detail]), colour: band } : undefined,
  }),
  box: ({ width, height, depth }) => ({
    body: new RoundedBoxGeometry(width, height, depth, 2, bevel(width, height, depth)).translate(0, height / 2, 0),
  }),
  cylinder: ({ radius, height }, detail) => {
    const b = bevel(radius * 2, height, radius * 2);
    return {
      body: turned(
        [
          [0, 0],
          [radius - b, 0],
          [radius, b],
          [radius, height - b],
          [radius - b, height],
          [0, height],
        ],
        ROUND[detail],
      ),
    };
  },
  cone: ({ radius, height }, detail) => {
    const b = Math.min(radius, height) * 0.06;
    return {
      body: turned(
        [
          [0, 0],
          [radius - b, 0],
          [radius, b],
          [b * 0.8, height - b],
          [0, height],
        ],
        ROUND[detail],
      ),
    };
  },
  wedge: ({ width, height, depth }) => ({
    body: extruded(
      [
        [-width / 2, 0],
        [width / 2, 0],
        [-width / 2, height],
      ],
      depth,
    ),
  }),
  steps: ({ count, tread, rise, depth }) => {
    const half = (count * tread) / 2;
    const outline: [number, number][] = [
      [-half, 0],
      [half, 0],
    ];
    for (let i = 0; i < count; i++) {
      const x = half - i * tread;
      outline.push([x, (i + 1) * rise], [x - tread, (i + 1) * rise]);
    }
    return { body: extruded(outline, depth) };
  },
  plane: ({ width, depth }) => ({ body: new THREE.PlaneGeometry(width, depth).rotateX(-Math.PI / 2) }),
  block: ({ size, picture, paints }) => ({
    body: new RoundedBoxGeometry(size, size, size, 3, size * 0.04),
    painted: picture.length > 0 ? mosaic(size, picture, paints) : undefined,
  }),
  group: () => ({ body: null, sign: lines(cross(0.15)) }),
  camera: () => ({ body: null, sign: lines(cameraSign) }),
  light: () => ({ body: null, sign: lines(lightSign()) }),
  // Rigs have bodies of their own, controls are lines on the stage.
  rig: () => ({ body: null }),
  control: () => ({ body: null }),
};

export const formOf = (member: Member, detail: Detail = 'full'): Form =>
  (builders[member.kind] as (shape: Member['shape'], detail: Detail) => Form)(member.shape, detail);

/** Forms that are made once for all members who have the same; whoever asks for them here disposes of them here. */
export class FormStore {
  readonly #forms = new Map<string, Form>();
  readonly #outlines = new Map<THREE.BufferGeometry, THREE.BufferGeometry>();
  readonly #outlineMaterials = new Map<string, THREE.LineBasicMaterial>();

  of(member: Member, detail: Detail): Form {
    const name = `${member.kind} ${detail} ${JSON.stringify(member.shape)}`;
    const form = this.#forms.get(name) ?? formOf(member, detail);
    this.#forms.set(name, form);
    return form;
  }

  /** The edges of a body. */
  outline(body: THREE.BufferGeometry): THREE.BufferGeometry {
    const outline = this.#outlines.get(body) ?? new THREE.EdgesGeometry(body, 24);
    this.#outlines.set(body, outline);
    return outline;
  }

  /** What outlines of a colour are drawn with. */
  outlineMaterial(colour: string): THREE.LineBasicMaterial {
    const material =
      this.#outlineMaterials.get(colour) ??
      new THREE.LineBasicMaterial({ color: colour, depthTest: false, transparent: true, opacity: 0.9 });
    this.#outlineMaterials.set(colour, material);
    return material;
  }

  dispose(): void {
    for (const material of this.#outlineMaterials.values()) material.dispose();
    this.#outlineMaterials.clear();
    for (const { body, trim, painted, sign } of this.#forms.values()) {
      for (const geometry of [body, trim?.geometry, painted, sign]) geometry?.dispose();
    }
    for (const outline of this.#outlines.values()) outline.dispose();
    this.#forms.clear();
    this.#outlines.clear();
  }
}

const bevel = (...sizes: number[]) => Math.min(0.02, Math.min(...sizes) * 0.12);

/** A solid of revolution from its half outline. Every corner is doubled, so that its two sides shade apart. */
function turned(outline: readonly (readonly [number, number])[], round: number): THREE.BufferGeometry {
  const doubled = outline.flatMap(([r, y], i) => {
    const point = () => new THREE.Vector2(r, y);
    return i === 0 || i === outline.length - 1 ? [point()] : [point(), point()];
  });
  return new THREE.LatheGeometry(doubled, round);
}

function extruded(outline: readonly [number, number][], depth: number): THREE.BufferGeometry {
  const shape = new THREE.Shape(outline.map(([x, y]) => new THREE.Vector2(x, y)));
  return new THREE.ExtrudeGeometry(shape, { depth, bevelEnabled: false }).translate(0, 0, -depth / 2);
}

/** A band round the middle of a ball, a hair outside its skin. */
function bandOn(radius: number, round: number): THREE.BufferGeometry {
  const half = 0.26;
  return new THREE.SphereGeometry(radius * 1.006, round, 6, 0, Math.PI * 2, Math.PI / 2 - half, half * 2);
}

/** A picture of coloured squares on the front of a cube, a hair before its face, within its rounded edges. */
function mosaic(
  size: number,
  picture: readonly string[],
  paints: Readonly<Record<string, string>>,
): THREE.BufferGeometry {
  const side = size * 0.95;
  const [rows, columns] = [picture.length, picture[0].length];
  const positions: number[] = [];
  const colours: number[] = [];
  const z = size / 2 + size * 0.002;
  picture.forEach((row, r) => {
    [...row].forEach((letter, c) => {
      const paint = paints[letter];
      if (!paint) return;
      const [x0, x1] = [c, c + 1].map((n) => (n / columns - 0.5) * side);
      const [y0, y1] = [r + 1, r].map((n) => (0.5 - n / rows) * side);
      positions.push(x0, y0, z, x1, y0, z, x1, y1, z, x0, y0, z, x1, y1, z, x0, y1, z);
      const { r: red, g, b } = new THREE.Color(paint);
      for (let corner = 0; corner < 6; corner++) colours.push(red, g, b);
    });
  });
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
  geometry.setAttribute('color', new THREE.Float32BufferAttribute(colours, 3));
  geometry.computeVertexNormals();
  return geometry;
}

type Segment = readonly [number, number, number, number, number, number];
const lines = (segments: readonly Segment[]) =>
  new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(segments.flat(), 3));

const cross = (r: number): Segment[] => [
  [-r, 0, 0, r, 0, 0],
  [0, -r, 0, 0, r, 0],
  [0, 0, -r, 0, 0, r],
];

const corners = [
  [-1, -1],
  [1, -1],
  [1, 1],
  [-1, 1],
] as const;
const cameraSign: Segment[] = corners.flatMap(([x, y], i): Segment[] => {
  const [nx, ny] = corners[(i + 1) % 4];
  return [
    [0, 0, 0.14, x * 0.16, y * 0.1, -0.18],
    [x * 0.16, y * 0.1, -0.18, nx * 0.16, ny * 0.1, -0.18],
  ];
});

function lightSign(): Segment[] {
  const out: Segment[] = [];
  for (let i = 0; i < 16; i++) {
    const [a, b] = [(i * Math.PI) / 8, ((i + 1) * Math.PI) / 8];
    out.push([Math.cos(a) * 0.07, Math.sin(a) * 0.07, 0, Math.cos(b) * 0.07, Math.sin(b) * 0.07, 0]);
    if (i % 2 === 0) out.push([Math.cos(a) * 0.1, Math.sin(a) * 0.1, 0, Math.cos(a) * 0.15, Math.sin(a) * 0.15, 0]);
  }
  return out;
}
