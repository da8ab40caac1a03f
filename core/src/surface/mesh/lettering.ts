import { LETTER, lineWidth } from '../../document/kinds/lettering.ts';
import { type Mesh, MeshBuilder } from './mesh.ts';

/**
 * Letters as strokes: lines from place to place, each told by two figures, how far right (0 to 4) and how far up (0 to 6). A place by itself is a
 * point.
 */
const letters: Readonly<Record<string, string>> = {
  A: '00 26 40|12 32',
  B: '00 06 36 45 44 33 03|33 42 41 30 00',
  C: '41 30 10 01 05 16 36 45',
  D: '00 06 26 44 42 20 00',
  E: '40 00 06 46|03 33',
  F: '00 06 46|03 33',
  G: '45 36 16 05 01 10 30 41 43 23',
  H: '00 06|40 46|03 43',
  I: '10 30|16 36|20 26',
  J: '01 10 30 41 46',
  K: '00 06|46 03 40',
  L: '06 00 40',
  M: '00 06 23 46 40',
  N: '00 06 40 46',
  O: '10 01 05 16 36 45 41 30 10',
  P: '00 06 36 45 44 33 03',
  Q: '10 01 05 16 36 45 41 30 10|22 40',
  R: '00 06 36 45 44 33 03|23 40',
  S: '45 36 16 05 04 13 33 42 41 30 10 01',
  T: '06 46|26 20',
  U: '06 01 10 30 41 46',
  V: '06 20 46',
  W: '06 10 23 30 46',
  X: '00 46|06 40',
  Y: '06 23 46|23 20',
  Z: '06 46 00 40',
  0: '10 01 05 16 36 45 41 30 10|12 34',
  1: '15 26 20|10 30',
  2: '05 16 36 45 44 00 40',
  3: '05 16 36 45 44 33 42 41 30 10 01|13 33',
  4: '30 36 02 42',
  5: '46 06 03 33 42 41 30 10 01',
  6: '45 36 16 05 01 10 30 41 42 33 03',
  7: '06 46 10',
  8: '13 04 05 16 36 45 44 33 13 02 01 10 30 41 42 33',
  9: '01 10 30 41 45 36 16 05 04 13 43',
  '.': '20',
  ',': '21 10',
  ':': '24|21',
  '-': '13 33',
  '+': '21 25|03 43',
  '/': '00 46',
  '!': '26 22|20',
  '?': '05 16 36 45 44 23 22|20',
  "'": '26 25',
};
const known = new Map(Object.entries(letters));

interface Lettering {
  readonly text: string;
  readonly height: number;
  readonly depth: number;
  readonly weight: number;
}

/** One stroke as a flat bar: its corners in x and y, against the clock. */
export type Bar = readonly (readonly [x: number, y: number])[];

/** The strokes of a lettering, each a bar that reaches beyond its ends by half its weight, so that they join. */
export function barsOf({ text, height, weight }: Lettering): Bar[] {
  const half = (weight * height) / 2;
  // Within the line: feet and heads of strokes lie on it, not across it.
  const unit = (height - 2 * half) / LETTER.high;
  const step = (LETTER.wide + LETTER.apart) * (height / LETTER.high);
  const left = -lineWidth(text, height) / 2;
  return [...text.toUpperCase()].flatMap((letter, i) => {
    const strokes = known.get(letter);
    if (strokes === undefined) return [];
    const x0 = left + i * step;
    const place = (p: string): [number, number] => [
      x0 + (Number(p[0]) * height) / LETTER.high,
      half + Number(p[1]) * unit,
    ];
    return strokes.split('|').flatMap((stroke) => {
      const places = stroke.split(' ').map(place);
      if (places.length === 1) return [bar(places[0], places[0], half)];
      return places.slice(1).map((to, k) => bar(places[k], to, half));
    });
  });
}

function bar([ax, ay]: readonly [number, number], [bx, by]: readonly [number, number], half: number): Bar {
  const long = Math.hypot(bx - ax, by - ay);
  const [ux, uy] = long > 0 ? [((bx - ax) / long) * half, ((by - ay) / long) * half] : [half, 0];
  return [
    [ax - ux + uy, ay - uy - ux],
    [bx + ux + uy, by + uy - ux],
    [bx + ux - uy, by + uy + ux],
    [ax - ux - uy, ay - uy + ux],
  ];
}

/** Letters as bars, a hair deeper one than the next where they cross, so that none of two faces in one place flickers. */
export function letteringMesh(lettering: Lettering): Mesh {
  const mesh = new MeshBuilder();
  barsOf(lettering).forEach((corners, i) => {
    const z = (lettering.depth / 2) * (1 - 0.004 * (i % 5));
    for (const side of [1, -1] as const) {
      const face = corners.map(([x, y]) => mesh.vertex([x, y, side * z], [0, 0, side]));
      if (side > 0) mesh.quad(face[0], face[1], face[2], face[3]);
      else mesh.quad(face[3], face[2], face[1], face[0]);
    }
    corners.forEach(([x0, y0], k) => {
      const [x1, y1] = corners[(k + 1) % corners.length];
      const long = Math.hypot(x1 - x0, y1 - y0) || 1;
      const n = [(y1 - y0) / long, (x0 - x1) / long, 0] as const;
      const [a, b, c, d] = [
        [x0, y0, z],
        [x0, y0, -z],
        [x1, y1, -z],
        [x1, y1, z],
      ].map(([x, y, w]) => mesh.vertex([x, y, w], n));
      mesh.quad(a, b, c, d);
    });
  });
  return mesh.done();
}
