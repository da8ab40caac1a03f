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
  /** A sign instead of a body, drawn on the desk and never in a movie. */
  readonly sign?: THREE.BufferGeometry;
}

const builders: { readonly [K in KindName]: (shape: ShapeOf<K>) => Form } = {
  ball: ({ radius, band }) => ({
    body: new THREE.SphereGeometry(radius, 48, 32),
    trim: band ? { geometry: bandOn(radius), colour: band } : undefined,
  }),
  box: ({ width, height, depth }) => ({
    body: new RoundedBoxGeometry(width, height, depth, 2, bevel(width, height, depth)).translate(0, height / 2, 0),
  }),
  cylinder: ({ radius, height }) => {
    const b = bevel(radius * 2, height, radius * 2);
    return {
      body: turned([
        [0, 0],
        [radius - b, 0],
        [radius, b],
        [radius, height - b],
        [radius - b, height],
        [0, height],
      ]),
    };
  },
  cone: ({ radius, height }) => {
    const b = Math.min(radius, height) * 0.06;
    return {
      body: turned([
        [0, 0],
        [radius - b, 0],
        [radius, b],
        [b * 0.8, height - b],
        [0, height],
      ]),
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
  group: () => ({ body: null, sign: lines(cross(0.15)) }),
  camera: () => ({ body: null, sign: lines(cameraSign) }),
  light: () => ({ body: null, sign: lines(lightSign()) }),
};

export const formOf = (member: Member): Form =>
  (builders[member.kind] as (shape: Member['shape']) => Form)(member.shape);

const bevel = (...sizes: number[]) => Math.min(0.02, Math.min(...sizes) * 0.12);

/** A solid of revolution from its half outline. Every corner is doubled, so that its two sides shade apart. */
function turned(outline: readonly (readonly [number, number])[]): THREE.BufferGeometry {
  const doubled = outline.flatMap(([r, y], i) => {
    const point = () => new THREE.Vector2(r, y);
    return i === 0 || i === outline.length - 1 ? [point()] : [point(), point()];
  });
  return new THREE.LatheGeometry(doubled, 48);
}

function extruded(outline: readonly [number, number][], depth: number): THREE.BufferGeometry {
  const shape = new THREE.Shape(outline.map(([x, y]) => new THREE.Vector2(x, y)));
  return new THREE.ExtrudeGeometry(shape, { depth, bevelEnabled: false }).translate(0, 0, -depth / 2);
}

/** A band round the middle of a ball, a hair outside its skin. */
function bandOn(radius: number): THREE.BufferGeometry {
  const half = 0.26;
  return new THREE.SphereGeometry(radius * 1.006, 48, 6, 0, Math.PI * 2, Math.PI / 2 - half, half * 2);
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
