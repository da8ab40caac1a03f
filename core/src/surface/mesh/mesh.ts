/**
 * A surface as flat arrays, in its own space: what pictures draw and files carry. Triangles go round counter-clockwise, seen from
 * outside.
 */
export interface Mesh {
  /** Three numbers a vertex, metres. */
  readonly positions: Float32Array;
  /** Of length one, pointing out, three numbers a vertex. */
  readonly normals: Float32Array;
  /** Three vertices each. */
  readonly triangles: Uint32Array;
  /** Three numbers a vertex from 0 to 1, as paints say them (sRGB); only where it has more than one colour. */
  readonly colours?: Float32Array;
  /** Where on a picture each vertex lies, two numbers a vertex, from its upper left corner; beyond its edges it begins again. */
  readonly places?: Float32Array;
}

export type Point3 = readonly [x: number, y: number, z: number];

/** Puts a mesh together vertex by vertex. */
export class MeshBuilder {
  readonly #positions: number[] = [];
  readonly #normals: number[] = [];
  readonly #triangles: number[] = [];
  readonly #colours: number[] = [];

  /** Adds a vertex. @returns its number */
  vertex(at: Point3, normal: Point3, colour?: Point3): number {
    this.#positions.push(...at);
    this.#normals.push(...normal);
    if (colour) this.#colours.push(...colour);
    return this.#positions.length / 3 - 1;
  }

  triangle(a: number, b: number, c: number): void {
    this.#triangles.push(a, b, c);
  }

  /** Four corners, counter-clockwise. */
  quad(a: number, b: number, c: number, d: number): void {
    this.triangle(a, b, c);
    this.triangle(a, c, d);
  }

  done(): Mesh {
    return {
      positions: Float32Array.from(this.#positions),
      normals: Float32Array.from(this.#normals),
      triangles: Uint32Array.from(this.#triangles),
      ...(this.#colours.length > 0 ? { colours: Float32Array.from(this.#colours) } : {}),
    };
  }
}

/** A vector at length one; up where it has none. */
export function unit(x: number, y: number, z: number): Point3 {
  const length = Math.hypot(x, y, z);
  return length > 0 ? [x / length, y / length, z / length] : [0, 1, 0];
}
