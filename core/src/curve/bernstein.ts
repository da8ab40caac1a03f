/**
 * Polynomials on [0, 1] by their Bernstein coefficients. Their use here is one property: a polynomial is nowhere larger
 * than its largest coefficient (Farouki & Rajan, "Algorithms for polynomials in Bernstein form", CAGD 5, 1988).
 */
export type Bernstein = readonly number[];

const binomials: number[][] = [[1]];
function binomial(n: number, k: number): number {
  for (let i = binomials.length; i <= n; i++) {
    const above = binomials[i - 1];
    binomials.push(Array.from({ length: i + 1 }, (_, j) => (above[j - 1] ?? 0) + (above[j] ?? 0)));
  }
  return binomials[n][k];
}

export function product(a: Bernstein, b: Bernstein): number[] {
  const [m, n] = [a.length - 1, b.length - 1];
  const out = new Array<number>(m + n + 1).fill(0);
  for (let i = 0; i <= m; i++) {
    for (let j = 0; j <= n; j++) out[i + j] += binomial(m, i) * binomial(n, j) * a[i] * b[j];
  }
  return out.map((v, k) => v / binomial(m + n, k));
}

/** The same polynomial, written with a higher degree. */
export const raised = (a: Bernstein, degree: number): number[] =>
  degree === a.length - 1 ? [...a] : product(a, new Array<number>(degree - a.length + 2).fill(1));

/** Writes a cubic on a part of its way, from `s` to `t` (its blossom at the ends of the part). */
export function writePart(cubic: Bernstein, s: number, t: number, out: number[]): void {
  out[0] = blossom(cubic, s, s, s);
  out[1] = blossom(cubic, s, s, t);
  out[2] = blossom(cubic, s, t, t);
  out[3] = blossom(cubic, t, t, t);
}

/** The value of a cubic where it goes another way at each of its three steps (Ramshaw, "Blossoming", 1987). */
function blossom(a: Bernstein, r: number, s: number, t: number): number {
  const [b0, b1, b2] = [a[0] + (a[1] - a[0]) * r, a[1] + (a[2] - a[1]) * r, a[2] + (a[3] - a[2]) * r];
  const [c0, c1] = [b0 + (b1 - b0) * s, b1 + (b2 - b1) * s];
  return c0 + (c1 - c0) * t;
}

/** The polynomial on the first and on the second half of its way (de Casteljau). */
export function halves(a: Bernstein): [number[], number[]] {
  const n = a.length;
  const row = [...a];
  const [first, second] = [new Array<number>(n), new Array<number>(n)];
  for (let k = 0; k < n; k++) {
    first[k] = row[0];
    second[n - 1 - k] = row[n - 1 - k];
    for (let i = 0; i + 1 < n - k; i++) row[i] = (row[i] + row[i + 1]) / 2;
  }
  return [first, second];
}

/**
 * The most a polynomial is away from 0 on [0, 1]: never too small, too large by a thousandth at most. Infinity as soon as it
 * is known to exceed `limit`.
 */
export function mostOf(polynomial: Bernstein, limit: number): number {
  const pieces: Bernstein[] = [polynomial];
  let reached = 0;
  let most = 0;
  for (let piece = pieces.pop(); piece; piece = pieces.pop()) {
    let bound = 0;
    for (const c of piece) bound = Math.max(bound, Math.abs(c));
    reached = Math.max(reached, Math.abs(piece[0]), Math.abs(piece[piece.length - 1]));
    if (reached > limit) return Number.POSITIVE_INFINITY;
    if (bound <= reached * 1.001 || bound <= limit * 1e-3) most = Math.max(most, bound);
    else pieces.push(...halves(piece));
  }
  return most;
}
