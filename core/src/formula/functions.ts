import { noise } from './noise.ts';
import { saw, triangle, wave } from './waves.ts';

/** What a formula can see at one moment. Numbers are in the interface's units: metres, degrees, frames. */
export interface FormulaEnv {
  frame: number;
  rate: number;
  first: number;
  last: number;
  /** What the channel's own keys say. */
  keyed: number;
  /** Where the inputs' values are read: input `i` is `values[sources[from + i]] * scales[from + i]`. */
  values: Float64Array;
  readonly sources: Int32Array;
  readonly scales: Float64Array;
  from: number;
  /** The inputs at other moments. */
  readers: readonly { at(time: number): number }[];
}

/** What a formula sees that is given its inputs one by one, in `values`. */
export function envOf(
  { rate, first, last }: Pick<FormulaEnv, 'rate' | 'first' | 'last'>,
  readers: FormulaEnv['readers'],
): FormulaEnv {
  return {
    frame: 1,
    rate,
    first,
    last,
    keyed: 0,
    values: new Float64Array(readers.length),
    sources: Int32Array.from(readers, (_, i) => i),
    scales: new Float64Array(readers.length).fill(1),
    from: 0,
    readers,
  };
}

/** A compiled part of a formula. */
export type Term = (env: FormulaEnv) => number;

/** A function formulas may call. It may depend on nothing but its arguments, and for some, on the frame. */
export interface FormulaFunction {
  readonly name: string;
  readonly group: 'arithmetic' | 'shape' | 'waves' | 'turning' | 'time';
  /** How it is written, with words for the arguments. */
  readonly form: string;
  /** What it gives, in one line. */
  readonly about: string;
  /** One to look at; plotted over two seconds of frames. */
  readonly example: string;
  readonly least: number;
  readonly most: number;
  /** The plain function of its arguments; missing ones are filled in with `missing`. */
  readonly of: (...args: number[]) => number;
  /** What arguments left out stand for, from `least` on. */
  readonly missing?: readonly number[];
  /** The frame is handed over before the arguments. */
  readonly timed?: boolean;
}

const DEGREES = 180 / Math.PI;
const between = (v: number, low: number, high: number) =>
  Math.min(Math.max(v, Math.min(low, high)), Math.max(low, high));
const eased = (low: number, high: number, v: number) => {
  if (low === high) return v < low ? 0 : 1;
  const t = between((v - low) / (high - low), 0, 1);
  return t * t * (3 - 2 * t);
};

const f = (
  group: FormulaFunction['group'],
  form: string,
  about: string,
  example: string,
  of: (...args: number[]) => number,
  more: { most?: number; missing?: readonly number[]; timed?: boolean } = {},
): FormulaFunction => {
  const words = form
    .slice(form.indexOf('(') + 1, -1)
    .split(',')
    .filter((w) => !['', '…'].includes(w.trim()));
  const optional = more.missing?.length ?? 0;
  return {
    name: form.slice(0, form.indexOf('(')),
    group,
    form,
    about,
    example,
    of,
    least: words.length - optional,
    most: more.most ?? words.length,
    missing: more.missing,
    timed: more.timed,
  };
};

/** Every function a formula may call. A new one is one line here. */
export const formulaFunctions: readonly FormulaFunction[] = [
  f(
    'waves',
    'wave(strength, period, shift)',
    'swings to both sides, once each period of frames; shift delays it by frames',
    'wave(1, 24)',
    wave,
    { missing: [0], timed: true },
  ),
  f(
    'waves',
    'triangle(strength, period, shift)',
    'goes to and fro at an even pace, once each period of frames',
    'triangle(1, 24)',
    triangle,
    { missing: [0], timed: true },
  ),
  f(
    'waves',
    'saw(strength, period, shift)',
    'rises evenly from 0 to strength each period of frames, then starts again',
    'saw(1, 24)',
    saw,
    { missing: [0], timed: true },
  ),
  f(
    'waves',
    'noise(strength, period, seed, closes)',
    'wanders by chance, a turn about each period of frames; the same seed gives the same way; with closes it repeats after so many frames',
    'noise(1, 8, 3)',
    noise,
    { missing: [1, 0], timed: true },
  ),
  f('arithmetic', 'abs(value)', 'the value without its sign', 'abs(wave(1, 24))', Math.abs),
  f('arithmetic', 'sign(value)', '-1, 0 or 1', 'sign(wave(1, 24))', Math.sign),
  f('arithmetic', 'min(a, b, …)', 'the smallest of them', 'min(wave(1, 24), 0.3)', Math.min, { most: 12 }),
  f('arithmetic', 'max(a, b, …)', 'the largest of them', 'max(wave(1, 24), 0)', Math.max, { most: 12 }),
  f('arithmetic', 'round(value)', 'the nearest whole number', 'round(wave(3, 48))', Math.round),
  f('arithmetic', 'floor(value)', 'the whole number below', 'floor(frame / 8)', Math.floor),
  f('arithmetic', 'ceil(value)', 'the whole number above', 'ceil(frame / 8)', Math.ceil),
  f(
    'arithmetic',
    'mod(value, length)',
    'what is left over after taking length away as often as it goes',
    'mod(frame, 12)',
    (v, n) => (n === 0 ? 0 : v - n * Math.floor(v / n)),
  ),
  f('arithmetic', 'sqrt(value)', 'the square root; 0 for what is below 0', 'sqrt(frame)', (v) =>
    Math.sqrt(Math.max(v, 0)),
  ),
  f('arithmetic', 'pow(value, exponent)', 'the value to a power', 'pow(frame / 24, 2)', (v, e) => v ** e),
  f('arithmetic', 'exp(value)', 'e to a power', 'exp(-frame / 12)', Math.exp),
  f('arithmetic', 'log(value)', 'the natural logarithm', 'log(frame)', Math.log),
  f('turning', 'sin(degrees)', 'the sine of an angle', 'sin(frame * 15)', (v) => Math.sin(v / DEGREES)),
  f('turning', 'cos(degrees)', 'the cosine of an angle', 'cos(frame * 15)', (v) => Math.cos(v / DEGREES)),
  f('turning', 'tan(degrees)', 'the tangent of an angle', 'tan(wave(60, 24))', (v) => Math.tan(v / DEGREES)),
  f(
    'turning',
    'asin(value)',
    'the angle whose sine it is, in degrees',
    'asin(wave(1, 24))',
    (v) => Math.asin(between(v, -1, 1)) * DEGREES,
  ),
  f(
    'turning',
    'acos(value)',
    'the angle whose cosine it is, in degrees',
    'acos(wave(1, 24))',
    (v) => Math.acos(between(v, -1, 1)) * DEGREES,
  ),
  f(
    'turning',
    'heading(across, ahead)',
    'the angle, in degrees, at which one sees a point',
    'heading(wave(1, 24), 1)',
    (a, b) => Math.atan2(a, b) * DEGREES,
  ),
  f('shape', 'clamp(value, low, high)', 'the value, kept between the two', 'clamp(wave(1, 24), -0.4, 0.4)', between),
  f('shape', 'mix(a, b, share)', 'from a, at 0, to b, at 1', 'mix(0, 1, frame / 48)', (a, b, t) => a + (b - a) * t),
  f(
    'shape',
    'smoothstep(low, high, value)',
    '0 below low, 1 above high, eased between',
    'smoothstep(6, 40, frame)',
    eased,
  ),
  f(
    'shape',
    'fit(value, low, high, to_low, to_high)',
    'takes the range from low to high over into another, and goes on beyond it',
    'fit(frame, 1, 48, 10, 20)',
    (v, a, b, c, d) => (a === b ? c : c + ((v - a) / (b - a)) * (d - c)),
  ),
];

export const functionByName: ReadonlyMap<string, FormulaFunction> = new Map(formulaFunctions.map((g) => [g.name, g]));

/** Functions that read an input at another moment; their first argument must be an input. */
export const inputFunctions = {
  delay: {
    form: 'delay(input, frames)',
    about: 'the input as it was so many frames ago',
    example: 'delay(input, 3)',
    arguments: 2,
  },
  speed: { form: 'speed(input)', about: 'how much the input changes a frame', example: 'speed(input)', arguments: 1 },
} as const;
export type InputFunction = keyof typeof inputFunctions;

/** Names that stand for numbers. */
export const formulaNames: Readonly<Record<string, { about: string; term: Term }>> = {
  frame: { about: 'the frame', term: (env) => env.frame },
  time: { about: 'seconds since frame 1', term: (env) => (env.frame - 1) / env.rate },
  rate: { about: 'frames a second', term: (env) => env.rate },
  first: { about: 'the first frame that plays', term: (env) => env.first },
  last: { about: 'the last frame that plays', term: (env) => env.last },
  keyed: { about: 'what the keys of this channel say', term: (env) => env.keyed },
  pi: { about: '3.14159…', term: () => Math.PI },
};
