import { type Detail, type FormPart, formKey, formOf, type KindName, type Member } from '@varrup/core';
import * as THREE from 'three';

/** The drawn form of a cast member: its bodies, or a sign in place of one, drawn on the desk and never in a movie. */
export interface Form {
  readonly bodies: readonly Body[];
  readonly sign: THREE.BufferGeometry | null;
}

/** One piece of a form, ready to be drawn. */
export interface Body extends FormPart {
  readonly geometry: THREE.BufferGeometry;
}

export function drawnForm(member: Member, detail: Detail = 'full'): Form {
  const bodies = formOf(member, detail).map((part) => ({ ...part, geometry: geometryOf(part) }));
  return { bodies, sign: signs[member.kind]?.() ?? null };
}

function geometryOf({ mesh }: FormPart): THREE.BufferGeometry {
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(mesh.normals, 3));
  if (mesh.places) geometry.setAttribute('uv', new THREE.BufferAttribute(mesh.places, 2));
  geometry.setIndex(new THREE.BufferAttribute(mesh.triangles, 1));
  if (mesh.colours) {
    const colours = new Float32Array(mesh.colours.length);
    for (let i = 0; i < colours.length; i += 3) {
      const [r, g, b] = mesh.colours.subarray(i, i + 3);
      paint.setRGB(r, g, b, THREE.SRGBColorSpace).toArray(colours, i);
    }
    geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
  }
  return geometry;
}

const paint = new THREE.Color();

/** Forms that are made once for all members who have the same; whoever asks for them here disposes of them here. */
export class FormStore {
  readonly #forms = new Map<string, Form>();
  readonly #outlines = new Map<THREE.BufferGeometry, THREE.BufferGeometry>();
  readonly #outlineMaterials = new Map<string, THREE.LineBasicMaterial>();

  of(member: Member, detail: Detail): Form {
    const name = `${formKey(member)} ${detail}`;
    const form = this.#forms.get(name) ?? drawnForm(member, detail);
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
    for (const { bodies, sign } of this.#forms.values()) {
      for (const { geometry } of bodies) geometry.dispose();
      sign?.dispose();
    }
    for (const outline of this.#outlines.values()) outline.dispose();
    this.#forms.clear();
    this.#outlines.clear();
  }
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

/** What stands on the desk for those who have no body. */
const signs: { readonly [K in KindName]?: () => THREE.BufferGeometry } = {
  group: () => lines(cross(0.15)),
  camera: () => lines(cameraSign),
  light: () => lines(lightSign()),
  sky: () => lines(lightSign()),
};
