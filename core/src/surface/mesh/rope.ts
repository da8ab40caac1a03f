import { type Mesh, MeshBuilder, type Point3, unit } from './mesh.ts';

interface Rope {
  readonly span: number;
  readonly drop: number;
  readonly sag: number;
  readonly thickness: number;
}

/** A turn of its strands goes over so many of its thicknesses. */
const LAY = 9;
const STRANDS = 3;
/** How deep the grooves between strands are, as a share of its thickness. */
const GROOVE = 0.14;
const MOST_RINGS = 400;

/** Where a rope is at a share of its way, and which way it goes on there. */
function on({ span, drop, sag }: Rope, t: number): { readonly at: Point3; readonly way: Point3 } {
  return {
    at: [span * (t - 0.5), -drop * t - 4 * sag * t * (1 - t), 0],
    way: unit(span, -drop - 4 * sag * (1 - 2 * t), 0),
  };
}

/** A laid rope: three strands twisted about each other, along a parabola, as it hangs under its own weight where it is taut. */
export function ropeMesh(rope: Rope, round: number): Mesh {
  const mesh = new MeshBuilder();
  const long = Math.hypot(rope.span, rope.drop) + (8 * rope.sag ** 2) / (3 * rope.span);
  const rings = Math.round(Math.min(MOST_RINGS, Math.max(16, (long / (rope.thickness * LAY)) * 10)));
  const sides = Math.max(STRANDS * 4, Math.round(round / 3));
  const twist = (2 * Math.PI * long) / (rope.thickness * LAY * STRANDS);
  const radius = (angle: number, t: number) =>
    rope.thickness * (1 - GROOVE * (0.5 + 0.5 * Math.cos(STRANDS * angle - STRANDS * twist * t)));
  const ring = (t: number) => {
    const { at, way } = on(rope, t);
    // Square to the way: across the vertical plane it hangs in, and in it.
    const up: Point3 = [-way[1], way[0], 0];
    let first = 0;
    for (let k = 0; k <= sides; k++) {
      const angle = (k * 2 * Math.PI) / sides;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const r = radius(angle, t);
      const out: Point3 = [up[0] * c, up[1] * c, s];
      const v = mesh.vertex([at[0] + out[0] * r, at[1] + out[1] * r, out[2] * r], out);
      if (k === 0) first = v;
    }
    return first;
  };
  const lid = (t: number, back: boolean) => {
    const { at, way } = on(rope, t);
    const normal: Point3 = back ? [-way[0], -way[1], 0] : way;
    const up: Point3 = [-way[1], way[0], 0];
    const middle = mesh.vertex(at, normal);
    const rim = Array.from({ length: sides }, (_, k) => {
      const angle = (k * 2 * Math.PI) / sides;
      const r = radius(angle, t);
      const [c, s] = [Math.cos(angle) * r, Math.sin(angle) * r];
      return mesh.vertex([at[0] + up[0] * c, at[1] + up[1] * c, s], normal);
    });
    rim.forEach((v, k) => {
      const next = rim[(k + 1) % sides];
      if (back) mesh.triangle(middle, next, v);
      else mesh.triangle(middle, v, next);
    });
  };
  let before = ring(0);
  for (let i = 1; i <= rings; i++) {
    const now = ring(i / rings);
    for (let k = 0; k < sides; k++) mesh.quad(before + k, before + k + 1, now + k + 1, now + k);
    before = now;
  }
  lid(0, true);
  lid(1, false);
  return mesh.done();
}
