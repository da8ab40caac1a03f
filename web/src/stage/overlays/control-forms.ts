import type { RigControl } from '@varrup/core';

/**
 * The lines controls are drawn by, in their own space: six numbers a line. Sides are told apart by form as well as by tint: what
 * is round on the left is cut straight on the right, and what is in the middle has four ticks inside.
 */
export function controlLines(control: RigControl): Float32Array {
  const { side, form, reach, off, faces } = control;
  const flat = outlines[form](side === 'right' ? 8 : 32);
  const lines = side === 'centre' && form !== 'cross' && form !== 'pin' ? [...flat, ...ticks] : flat;
  const out: number[] = [];
  for (const line of lines) {
    for (let i = 0; i + 1 < line.length; i++) {
      for (const [x, y] of [line[i], line[i + 1]]) {
        const place = stand(faces, x * reach, y * reach);
        out.push(place[0] + off[0], place[1] + off[1], place[2] + off[2]);
      }
    }
  }
  return Float32Array.from(out);
}

type Line = readonly (readonly [x: number, y: number])[];

/** A form in its plane, put square to the axis it faces. */
function stand(faces: RigControl['faces'], x: number, y: number): [number, number, number] {
  if (faces === 'x') return [0, y, x];
  if (faces === 'y') return [x, 0, y];
  return [x, y, 0];
}

const arc = (from: number, to: number, count: number, radius = 1): Line =>
  Array.from({ length: count + 1 }, (_, i) => {
    const angle = from + ((to - from) * i) / count;
    return [Math.cos(angle) * radius, Math.sin(angle) * radius];
  });

const turn = Math.PI * 2;
const closed = (points: Line): Line => [...points, points[0]];

const ticks: Line[] = [0, 1, 2, 3].map((q) => {
  const [x, y] = [Math.cos((q * turn) / 4), Math.sin((q * turn) / 4)];
  return [
    [x, y],
    [x * 0.84, y * 0.84],
  ];
});

const outlines: Record<RigControl['form'], (round: number) => Line[]> = {
  ring: (round) => [arc(0, turn, round)],
  halo: (round) => [arc(0, turn, round)],
  square: () => [
    closed([
      [1, 1],
      [-1, 1],
      [-1, -1],
      [1, -1],
    ]),
  ],
  diamond: () => [
    closed([
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ]),
  ],
  fan: (round) => [[[0, 0], ...arc(Math.PI * 0.2, Math.PI * 0.8, Math.max(3, round / 4)), [0, 0]]],
  pin: (round) => [
    [
      [0, -1],
      [0, 0.1],
    ],
    arc(-turn / 4, turn * 0.75, round / 2, 0.45).map(([x, y]) => [x, y + 0.55]),
  ],
  cross: (round) => [
    [
      [-1, 0],
      [1, 0],
    ],
    [
      [0, -1],
      [0, 1],
    ],
    arc(0, turn, round, 0.55),
  ],
};
