/** The ferry at dusk, as a picture of 48 × 48 coloured squares, from the top row down. */
export const SQUARES = 48;

export const paints: Readonly<Record<string, string>> = {
  n: '#3c4a68',
  d: '#5d6382',
  p: '#94808f',
  r: '#cd977c',
  e: '#eabd8b',
  m: '#f6e8c6',
  h: '#48546b',
  w: '#2e475e',
  v: '#3b5a70',
  s: '#7f93a0',
  g: '#d6b98d',
  k: '#22364c',
  t: '#b04a32',
  c: '#f4ecdc',
  a: '#dcd2bf',
  l: '#f2b84b',
  f: '#cf4427',
  o: '#c4b6b6',
};

interface Spot {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}
const moon: Spot = { x: 38, y: 39, radius: 4.2 };
const smoke: readonly Spot[] = [
  { x: 18, y: 37, radius: 1.8 },
  { x: 14.5, y: 39.5, radius: 2.4 },
  { x: 9.5, y: 41, radius: 3 },
];

const inside = (x: number, y: number, spot: Spot) => Math.hypot(x - spot.x, y - spot.y) <= spot.radius;
const within = (v: number, low: number, high: number) => v >= low && v < high;

/** The paint of a square, counted from the lower left. Nearest first. */
function square(column: number, row: number): string {
  const [x, y] = [column + 0.5, row + 0.5];
  return ferry(x, y) ?? (y < WATERLINE ? water(x, y) : sky(x, y));
}

/** Where sea and sky meet. */
const WATERLINE = 18;

function ferry(x: number, y: number): string | null {
  // The hull runs out to the bow on the right.
  const [stern, bow] = [7 + (19 - y) * 0.35, 38 + (y - 12) * 0.75];
  if (within(y, 12, 13) && within(x, stern, bow)) return 't';
  if (within(y, 13, 19) && within(x, stern, bow)) return within(y, 16, 17) && within(x % 4, 1, 2) ? 'l' : 'k';
  if (within(y, 19, 20) && within(x, 8, 42)) return 'c';
  if (within(y, 20, 24) && within(x, 11, 36)) return within(y, 21, 23) && within(x % 3, 0, 2) ? 'l' : 'c';
  if (within(y, 24, 25) && within(x, 10, 37)) return 'a';
  if (within(y, 25, 28) && within(x, 14, 32)) return within(y, 26, 27) && within(x % 4, 0, 3) ? 'l' : 'c';
  if (within(y, 28, 31) && within(x, 26, 32)) return within(y, 29, 30) ? 'l' : 'a';
  if (within(y, 28, 35) && within(x, 17, 21)) return within(y, 32, 33) ? 'c' : 'f';
  if (within(x, 29, 30) && within(y, 31, 38)) return 'k';
  return smoke.some((puff) => inside(x, y, puff)) ? 'o' : null;
}

function water(x: number, y: number): string {
  // The moon's way across the water, and the lit windows above it.
  const wave = Math.sin(x * 1.3 + y * 2.1) + Math.sin(x * 0.45 - y * 1.7);
  if (Math.abs(x - moon.x) < 2.4 + (WATERLINE - y) * 0.12 && wave > -0.3) return 'g';
  if (within(y, 8, 12) && within(x, 11, 36) && wave > 1.05) return 'l';
  if (wave > 1.25) return 's';
  return wave > 0.1 ? 'v' : 'w';
}

function sky(x: number, y: number): string {
  if (y < 21 + 2.4 * Math.sin(x * 0.21 + 0.6) + 1.3 * Math.sin(x * 0.47)) return 'h';
  if (inside(x, y, moon)) return 'm';
  if (y > 41) return 'n';
  if (y > 35) return 'd';
  if (y > 30) return 'p';
  return y > 25.5 ? 'r' : 'e';
}

/** The picture on one block of a board of `blocks` × `blocks`, counted from the lower left. */
export function pictureOn(column: number, row: number, blocks: number): string[] {
  const side = SQUARES / blocks;
  return Array.from({ length: side }, (_, r) =>
    Array.from({ length: side }, (_, c) => square(column * side + c, (row + 1) * side - 1 - r)).join(''),
  );
}
