import { deformPoints, type Frame } from '@varrup/core';
import type * as THREE from 'three';

/** How far beside a point its neighbours are taken, to see how the form turns there; in metres. */
const BESIDE = 1e-4;

/**
 * A form bent by its member's deformers, point by point, with the numbers the core's checks and exports use. Normals go by what
 * becomes of three neighbours of each point.
 */
export class BentGeometry {
  readonly geometry: THREE.BufferGeometry;
  readonly #rest: Float32Array;
  readonly #restNormals: Float32Array;
  /** Each point with its three neighbours. */
  readonly #points: Float64Array;

  constructor(source: THREE.BufferGeometry) {
    this.geometry = source.clone();
    this.#rest = Float32Array.from(source.getAttribute('position').array);
    this.#restNormals = Float32Array.from(source.getAttribute('normal').array);
    this.#points = new Float64Array(this.#rest.length * 4);
  }

  bend(frame: Frame, slot: number): void {
    const points = this.#points;
    const rest = this.#rest;
    for (let i = 0, at = 0; i < rest.length; i += 3, at += 12) {
      for (let k = 0; k < 12; k++) points[at + k] = rest[i + (k % 3)];
      points[at + 3] += BESIDE;
      points[at + 7] += BESIDE;
      points[at + 11] += BESIDE;
    }
    deformPoints(frame, slot, points);
    const position = this.geometry.getAttribute('position') as THREE.BufferAttribute;
    const normal = this.geometry.getAttribute('normal') as THREE.BufferAttribute;
    for (let i = 0, at = 0; i < rest.length; i += 3, at += 12) {
      for (let k = 0; k < 3; k++) position.array[i + k] = points[at + k];
      this.#writeNormal(at, i, normal.array);
    }
    position.needsUpdate = normal.needsUpdate = true;
    this.geometry.computeBoundingSphere();
  }

  /** The old normal, seen through what the three neighbours have become: the cofactors of the map's derivative. */
  #writeNormal(at: number, i: number, out: THREE.TypedArray): void {
    const p = this.#points;
    const [x, y, z] = [this.#restNormals[i], this.#restNormals[i + 1], this.#restNormals[i + 2]];
    const column = (c: number, r: number) => p[at + 3 * c + r] - p[at + r];
    const cross = (a: number, b: number, r: number) => {
      const [s, t] = [(r + 1) % 3, (r + 2) % 3];
      return column(a, s) * column(b, t) - column(a, t) * column(b, s);
    };
    let length = 0;
    for (let r = 0; r < 3; r++) {
      out[i + r] = (x * cross(2, 3, r) + y * cross(3, 1, r) + z * cross(1, 2, r)) * 1e8;
      length += out[i + r] * out[i + r];
    }
    length = Math.sqrt(length) || 1;
    for (let r = 0; r < 3; r++) out[i + r] /= length;
  }

  dispose(): void {
    this.geometry.dispose();
  }
}
