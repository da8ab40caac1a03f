import { type Mesh, MeshBuilder } from './mesh.ts';

/** A ring of a surface of revolution: how far out, how high, and which way its surface faces there. */
export interface Ring {
  readonly radius: number;
  readonly y: number;
  readonly out: number;
  readonly up: number;
}

/**
 * A surface of revolution about +Y through rings, each strip between two of them: from below, so that outside is outside.
 * @param round how many sides it has
 */
export function revolve(strips: readonly (readonly [Ring, Ring])[], round: number): Mesh {
  const mesh = new MeshBuilder();
  const ring = ({ radius, y, out, up }: Ring): number => {
    let first = 0;
    for (let i = 0; i <= round; i++) {
      const angle = (i * 2 * Math.PI) / round;
      const [s, c] = [Math.sin(angle), Math.cos(angle)];
      const v = mesh.vertex([radius * s, y, radius * c], [out * s, up, out * c]);
      if (i === 0) first = v;
    }
    return first;
  };
  const known = new Map<Ring, number>();
  const place = (r: Ring): number => {
    const at = known.get(r) ?? ring(r);
    known.set(r, at);
    return at;
  };
  for (const [low, high] of strips) {
    const [a, b] = [place(low), place(high)];
    for (let i = 0; i < round; i++) {
      // Where a ring is but a point, one of the two triangles is nothing.
      if (low.radius > 0) mesh.triangle(a + i, a + i + 1, b + i + 1);
      if (high.radius > 0) mesh.triangle(a + i, b + i + 1, b + i);
    }
  }
  return mesh.done();
}

/** A solid turned on a lathe from its half outline, from the bottom up; each piece of the outline shades by itself. */
export function turned(outline: readonly (readonly [radius: number, y: number])[], round: number): Mesh {
  const strips = outline.slice(1).map(([r1, y1], i): [Ring, Ring] => {
    const [r0, y0] = outline[i];
    const length = Math.hypot(r1 - r0, y1 - y0) || 1;
    const [out, up] = [(y1 - y0) / length, (r0 - r1) / length];
    return [
      { radius: r0, y: y0, out, up },
      { radius: r1, y: y1, out, up },
    ];
  });
  return revolve(strips, round);
}

/**
 * A sphere about the origin, or a band of one between two heights given as angles from the equator, radians.
 * @param rows how many strips it has from pole to pole, or in the band
 */
export function sphere(radius: number, round: number, rows: number, from = -Math.PI / 2, to = Math.PI / 2): Mesh {
  const rings = Array.from({ length: rows + 1 }, (_, i): Ring => {
    const angle = from + ((to - from) * i) / rows;
    const pole = Math.abs(Math.abs(angle) - Math.PI / 2) < 1e-9;
    const [out, up] = [pole ? 0 : Math.cos(angle), Math.sin(angle)];
    return { radius: radius * out, y: radius * up, out, up };
  });
  return revolve(
    rings.slice(1).map((ring, i) => [rings[i], ring]),
    round,
  );
}
