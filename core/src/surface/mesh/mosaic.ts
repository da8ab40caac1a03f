import { colourNumbers } from '../../schema/numbers.ts';
import { type Mesh, MeshBuilder } from './mesh.ts';

/**
 * A picture of coloured squares on the front of a cube, a hair before its face, within its rounded edges.
 * @param picture rows from the top, a letter a square; letters without paint are left out
 */
export function mosaic(size: number, picture: readonly string[], paints: Readonly<Record<string, string>>): Mesh {
  const mesh = new MeshBuilder();
  const side = size * 0.95;
  const [rows, columns] = [picture.length, picture[0]?.length ?? 0];
  const z = size / 2 + size * 0.002;
  picture.forEach((row, r) => {
    [...row].forEach((letter, c) => {
      const paint = paints[letter];
      if (!paint) return;
      const colour = colourNumbers(paint);
      const [x0, x1] = [c, c + 1].map((n) => (n / columns - 0.5) * side);
      const [y0, y1] = [r + 1, r].map((n) => (0.5 - n / rows) * side);
      const corner = (x: number, y: number) => mesh.vertex([x, y, z], [0, 0, 1], colour);
      mesh.quad(corner(x0, y0), corner(x1, y0), corner(x1, y1), corner(x0, y1));
    });
  });
  return mesh.done();
}
