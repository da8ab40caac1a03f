import type { RigDraft } from '@varrup/core';
import type { Vector } from './forms.ts';
import { type BodySide, bothSides, type Paint, poleOf, type RigMaker } from './maker.ts';

/** What the harbour's lay figures are made of. */
export const paints = {
  wood: { colour: '#c99a5e', finish: 'wood' },
  farWood: { colour: '#b5854c', finish: 'wood' },
  joint: { colour: '#a87a43', finish: 'wood' },
  dark: { colour: '#7b5a36', finish: 'wood' },
  blue: { colour: '#3e5a6e', finish: 'felt' },
  red: { colour: '#b8452c', finish: 'felt' },
  cream: { colour: '#e6dac2', finish: 'felt' },
  grey: { colour: '#8d8a80', finish: 'felt' },
  tin: { colour: '#8fa3a6', finish: 'tin' },
  iron: { colour: '#565b60', finish: 'tin' },
  brass: { colour: '#c79a3f', finish: 'tin' },
  ink: { colour: '#22262b', finish: 'ink' },
  white: { colour: '#f6f1e4', finish: 'ink' },
  glow: { colour: '#f3c766', finish: 'ink' },
} as const satisfies Record<string, Paint>;

type Dial = NonNullable<RigDraft['controls'][number]['dials']>[number];
const degrees = Math.PI / 180;
export const rad = (value: number) => value * degrees;

/** A dial without a unit, from 0 to 1 unless told otherwise. */
export const dial = (id: string, label: string, more: Partial<Dial> = {}): Dial => ({
  id,
  label,
  min: 0,
  max: 1,
  ...more,
});

/** A dial in degrees. */
export const angleDial = (id: string, label: string, min: number, max: number, more: Partial<Dial> = {}): Dial => ({
  id,
  label,
  unit: '°',
  min: rad(min),
  max: rad(max),
  ...more,
});

/** The dials every limb has. */
export const limbDials: Dial[] = [
  dial('reach', 'reach', { initial: 1, everyday: false }),
  dial('soft', 'soft', { initial: 0.005, max: 0.2, everyday: false }),
  dial('stretch', 'stretch', { everyday: false }),
];

export const footDials: Dial[] = [
  angleDial('heel', 'heel', -10, 70),
  angleDial('ball', 'ball', -20, 80),
  angleDial('toe', 'toe', -10, 80),
  angleDial('bank', 'bank', -40, 40),
];

/** The words a control of a side is called by: `hand L`. */
export const sided = (name: string, { mark }: BodySide) => `${name} ${mark}`;

interface LimbParts {
  readonly side: BodySide;
  /** The id of the limb, without its side: `arm`. */
  readonly id: string;
  readonly name: string;
  /** Joint ids without their side. */
  readonly joints: readonly [upper: string, lower: string, end: string];
  readonly words: readonly [upper: string, lower: string, end: string];
  /** What is reached with: the id and words of the control, without the side. */
  readonly hand: readonly [id: string, words: string];
  readonly pole: readonly [id: string, words: string];
  readonly away: number;
  readonly along: Vector;
  readonly follows?: number;
  readonly foot?: string;
  /** The joint that carries the controls that go joint by joint. */
  readonly carrier: string;
  readonly size: number;
}

/** A limb with its pole and the controls that turn it joint by joint. */
export function addLimb(maker: RigMaker, parts: LimbParts): void {
  const { side, size } = parts;
  const id = (name: string) => `${name}${side.mark}`;
  const [upper, lower, end] = parts.joints.map(id);
  const places = [upper, lower, end].map((j) => maker.placeOf(j)) as [Vector, Vector, Vector];
  const partner = (name: string) => `${name}${side.other}`;
  maker.control({
    id: id(parts.pole[0]),
    name: sided(parts.pole[1], side),
    side: side.side,
    partner: partner(parts.pole[0]),
    form: 'diamond',
    reach: size * 0.4,
    place: poleOf(...places, parts.away),
    in: { is: 'along', id: id(parts.id) },
    move: 'xyz',
  });
  parts.joints.forEach((joint, i) => {
    const name = `${joint}Joint`;
    maker.control({
      id: id(name),
      name: sided(parts.words[i], side),
      side: side.side,
      partner: partner(name),
      form: 'fan',
      reach: size * [1, 0.9, 0.8][i],
      place: places[i],
      in: i === 0 ? { is: 'joint', id: parts.carrier } : { is: 'control', id: id(`${parts.joints[i - 1]}Joint`) },
      turn: 'xyz',
    });
  });
  maker.limbs.push({
    id: id(parts.id),
    name: sided(parts.name, side),
    upper,
    lower,
    end,
    target: parts.foot ? { is: 'foot', id: id(parts.foot) } : { is: 'control', id: id(parts.hand[0]) },
    pole: id(parts.pole[0]),
    joints: parts.joints.map((j) => id(`${j}Joint`)) as [string, string, string],
    dials: id(parts.hand[0]),
    along: parts.along as [number, number, number],
    follows: parts.follows ?? 0,
  });
}

export { bothSides };
