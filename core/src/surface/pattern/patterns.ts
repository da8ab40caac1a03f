import type { PatternName } from '../../document/material.ts';
import { lot, noise, roughNoise } from './noise.ts';

/**
 * Writes what a pattern is at a place of its tile, which is one by one and begins again at its edges: how far it has gone from the first
 * colour to the second, and how much of its light it keeps, both from 0 to 1.
 */
export type Pattern = (u: number, v: number, out: Float64Array) => void;

/** From 0 to 1 where a value goes from one number to another. */
function between(from: number, to: number, value: number): number {
  const t = within((value - from) / (to - from));
  return t * t * (3 - 2 * t);
}
const within = (value: number): number => (value < 0 ? 0 : value > 1 ? 1 : value);

/** How far a place in a cell is from the cell's nearest edge, in the tile's measure. */
const toEdge = (x: number, width: number): number => Math.min(x, 1 - x) * width;
const part = (x: number): number => x - Math.floor(x);

function put(out: Float64Array, mix: number, shade: number): void {
  out[0] = within(mix);
  out[1] = within(shade);
}

/** Each pattern with a grain, how uneven it is from 0 (drawn with a ruler) to 1. */
export const patterns: Readonly<Record<PatternName, (grain: number) => Pattern>> = {
  /** Boards in rows, their ends apart from row to row; grain runs along them. */
  planks(grain) {
    const rows = 5;
    const streaks = roughNoise(3, rows * 12, 11);
    return (u, v, out) => {
      const row = Math.floor(v * rows);
      const along = u + lot(row, 0, 3);
      const seam = Math.min(toEdge(v * rows - row, 1 / rows), toEdge(part(along), 1));
      const tone = lot(row, 1, 5);
      put(out, grain * (0.75 * streaks(along, v) + 0.5 * tone - 0.2), 0.45 + 0.55 * between(0, 0.006, seam));
    };
  },

  /** Squares of four strips, each square across the last one. */
  parquet(grain) {
    const [lying, standing] = [roughNoise(8, 96, 21), roughNoise(96, 8, 23)];
    return (u, v, out) => {
      const [x, y] = [Math.floor(u * 4), Math.floor(v * 4)];
      const lies = (x + y) % 2 === 0;
      const along = lies ? part(u * 4) : part(v * 4);
      const across = lies ? part(v * 4) : part(u * 4);
      const strip = Math.floor(across * 4);
      const seam = Math.min(toEdge(part(across * 4), 1 / 16), toEdge(along, 1 / 4));
      const streaks = lies ? lying(u, v) : standing(u, v);
      const tone = lot(x * 4 + strip, y, 29);
      put(out, grain * (0.6 * streaks + 0.7 * tone - 0.25), 0.55 + 0.45 * between(0, 0.004, seam));
    };
  },

  /** Courses of bricks, each half a brick on; mortar is the second colour. */
  brick(grain) {
    const [edges, burns] = [roughNoise(16, 16, 31), roughNoise(24, 24, 41)];
    return (u, v, out) => {
      const row = Math.floor(v * 8);
      const along = u * 4 + (row % 2) / 2;
      const brick = Math.floor(along) % 4;
      const uneven = (edges(u, v) - 0.5) * 0.008 * grain;
      const seam = Math.min(toEdge(part(v * 8), 1 / 8), toEdge(part(along), 1 / 4)) + uneven;
      const mortar = 1 - between(0.004, 0.008, seam);
      const burnt = lot(row, brick, 37) * 0.35 + burns(u, v) * 0.25;
      put(out, mortar, 1 - grain * burnt * (1 - mortar));
    };
  },

  /** Squares with joints of the second colour. */
  tile(grain) {
    const cloud = roughNoise(8, 8, 47);
    return (u, v, out) => {
      const seam = Math.min(toEdge(part(u * 4), 1 / 4), toEdge(part(v * 4), 1 / 4));
      const joint = 1 - between(0.006, 0.011, seam);
      const tone = lot(Math.floor(u * 4), Math.floor(v * 4), 43);
      put(out, joint, 1 - grain * (0.2 * tone + 0.12 * cloud(u, v)) * (1 - joint));
    };
  },

  /** Wall paper: lozenges in rows, each second row half a step on, with a dot between them. */
  paper(grain) {
    const [worn, fibres] = [roughNoise(48, 48, 53, 2), noise(96, 96, 59)];
    return (u, v, out) => {
      const row = Math.floor(v * 4);
      const a = Math.abs(part(u * 4 + (row % 2) / 2) - 0.5);
      const b = Math.abs(part(v * 4) - 0.5);
      const lozenge = a / 0.2 + b / 0.34;
      const drawn = between(1.05, 0.95, lozenge) * between(0.55, 0.65, lozenge);
      const dot = between(0.07, 0.05, Math.hypot(a, b));
      put(out, Math.max(drawn, dot) * (1 - 0.35 * grain * worn(u, v)), 1 - 0.06 * grain * fibres(u, v));
    };
  },

  felt(grain) {
    const [lying, standing, cloud] = [noise(90, 30, 61), noise(30, 90, 67), roughNoise(40, 40, 71, 3)];
    return (u, v, out) => {
      const fibres = 0.5 * lying(u, v) + 0.5 * standing(u, v);
      put(out, grain * (fibres * 0.7 - 0.15), 1 - 0.25 * grain * cloud(u, v));
    };
  },

  /** The second colour breaks through the first in blooms. */
  rust(grain) {
    const [blooms, pits] = [roughNoise(4, 4, 73, 6), roughNoise(32, 32, 79, 3)];
    const share = 0.75 - 0.4 * grain;
    return (u, v, out) => {
      const mix = between(share - 0.06, share + 0.1, blooms(u, v));
      put(out, mix, 1 - 0.35 * mix * pits(u, v) - 0.12 * grain * pits(v, u));
    };
  },

  /** Waves that cross, their crests in the second colour. */
  water(grain) {
    const [drift, swell] = [roughNoise(3, 3, 83), noise(4, 4, 89)];
    const wave = (turns: number) => 0.5 + 0.5 * Math.sin(2 * Math.PI * turns);
    return (u, v, out) => {
      const x = u + 0.1 * grain * (drift(u, v) - 0.5);
      const shift = grain * swell(u, v);
      const height =
        0.4 * wave(2 * x + 5 * v + shift) +
        0.35 * wave(7 * v - 3 * x + 0.3 - shift) +
        0.25 * wave(5 * x + 11 * v + 0.7);
      put(out, between(0.62, 0.95, height), 0.78 + 0.22 * height);
    };
  },

  stripes(grain) {
    const [edges, fibres] = [noise(16, 64, 97), noise(96, 96, 101)];
    return (u, v, out) => {
      const x = part(u * 4);
      const soft = 0.008 + 0.02 * grain * edges(u, v);
      put(out, between(0.5 - soft, 0.5 + soft, x) * between(1, 1 - 2 * soft, x), 1 - 0.08 * grain * fibres(u, v));
    };
  },

  checks(grain) {
    const cloud = roughNoise(24, 24, 103, 3);
    // A wave that is up in one half of every two squares, steep where it crosses.
    const half = (x: number) => within(0.5 + 40 * (Math.abs(part(x / 2) - 0.5) - 0.25));
    return (u, v, out) => {
      const [a, b] = [half(u * 4 + 0.5), half(v * 4 + 0.5)];
      put(out, a + b - 2 * a * b, 1 - 0.15 * grain * cloud(u, v));
    };
  },
};
