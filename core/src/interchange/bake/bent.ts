/**
 * A form that bends, as shape targets: whatever it does, it is its base and some shapes added in changing amounts.
 */
export interface Basis {
  /** What the amounts are added to, three numbers a vertex. */
  readonly base: Float64Array;
  /** Shapes square to one another, each so large that its amount stays between -1 and 1. */
  readonly shapes: readonly Float64Array[];
  /** How far the form is from what the shapes make of it at most, metres. */
  readonly rest: number;
}

/** More shape targets than this no receiver takes gladly. */
export const MOST_SHAPES = 64;

/**
 * Finds shapes that make up a form at all its moments: of all moments the one that the shapes so far are furthest from gives the
 * next (the greedy reduced basis of Prud'homme and others, 2002), until all are within a tolerance.
 * @param moments the form at each, three numbers a vertex @param tolerance metres, of the worst vertex
 */
export function basisOf(base: Float64Array, moments: readonly Float64Array[], tolerance: number): Basis {
  const left = moments.map((points) => points.map((v, i) => v - base[i]));
  const axes: Float64Array[] = [];
  for (;;) {
    const [worst, rest] = furthest(left);
    if (rest <= tolerance || axes.length === MOST_SHAPES) return { base, shapes: sized(axes, base, moments), rest };
    const length = Math.sqrt(dot(left[worst], left[worst]));
    const axis = left[worst].map((v) => v / length);
    axes.push(axis);
    for (const points of left) {
      const amount = dot(points, axis);
      for (let i = 0; i < points.length; i++) points[i] -= amount * axis[i];
    }
  }
}

/** The moment whose worst vertex is furthest out, and how far. */
function furthest(left: readonly Float64Array[]): [index: number, distance: number] {
  let [index, most] = [0, 0];
  left.forEach((points, m) => {
    for (let i = 0; i < points.length; i += 3) {
      const distance = Math.hypot(points[i], points[i + 1], points[i + 2]);
      if (distance > most) [index, most] = [m, distance];
    }
  });
  return [index, most];
}

function sized(axes: readonly Float64Array[], base: Float64Array, moments: readonly Float64Array[]): Float64Array[] {
  return axes.map((axis) => {
    const most = moments.reduce((m, points) => Math.max(m, Math.abs(amountOf(axis, points, base, 1))), 0);
    return axis.map((v) => v * most);
  });
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
};

function amountOf(shape: Float64Array, points: Float64Array, base: Float64Array, square: number): number {
  let sum = 0;
  for (let i = 0; i < shape.length; i++) sum += shape[i] * (points[i] - base[i]);
  return sum / square;
}

/** Reads the amounts of a basis' shapes out of a form. */
export class Amounts {
  readonly #basis: Basis;
  readonly #squares: readonly number[];

  constructor(basis: Basis) {
    this.#basis = basis;
    this.#squares = basis.shapes.map((shape) => dot(shape, shape));
  }

  write(points: Float64Array, out: Float64Array, at: number): void {
    const { shapes, base } = this.#basis;
    for (let k = 0; k < shapes.length; k++) out[at + k] = amountOf(shapes[k], points, base, this.#squares[k]);
  }
}
