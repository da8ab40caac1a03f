import type { Rig } from '@varrup/core';
import { add, along, egg, hoop, times, unit, type Vector } from './make/forms.ts';
import { alongChain, driven, RigMaker } from './make/maker.ts';
import { dial, paints } from './make/parts.ts';

/** Upright, its palm to the front: four fingers and a thumb, three joints each. */
const fingers = [
  { id: 'index', at: [0.052, 0.262, 0], direction: [0.14, 1, 0], lengths: [0.062, 0.044, 0.034], thick: 0.0235 },
  { id: 'middle', at: [0.0175, 0.272, 0], direction: [0.04, 1, 0], lengths: [0.07, 0.049, 0.037], thick: 0.0245 },
  { id: 'ring', at: [-0.0175, 0.266, 0], direction: [-0.05, 1, 0], lengths: [0.064, 0.045, 0.035], thick: 0.0235 },
  { id: 'little', at: [-0.051, 0.248, 0], direction: [-0.17, 1, 0], lengths: [0.05, 0.036, 0.03], thick: 0.021 },
] as const;

const thumb = {
  at: [0.066, 0.165, 0.012],
  direction: [0.82, 0.62, 0.22],
  lengths: [0.058, 0.046, 0.036],
  thick: 0.026,
} as const;

/** The glove: a hand of red felt on a cream cuff, with all it needs to talk. */
export function glove(): Rig {
  const maker = new RigMaker();
  maker.joint('cuff', null, [0, 0, 0]);
  maker.joint('arm', 'cuff', [0, 0.05, 0], { kind: 'control', control: 'arm' });
  maker.joint('palm', 'arm', [0, 0.13, 0], { kind: 'control', control: 'palm' });
  maker.control({ id: 'arm', name: 'arm', side: 'centre', form: 'square', reach: 0.1, move: 'xyz', turn: 'xyz' });
  maker.control({
    id: 'palm',
    name: 'palm',
    side: 'centre',
    form: 'ring',
    reach: 0.095,
    in: { is: 'joint', id: 'arm' },
    turn: 'xyz',
    move: 'xyz',
  });
  maker.control({
    id: 'fingers',
    name: 'all fingers',
    side: 'centre',
    form: 'halo',
    reach: 0.035,
    place: [-0.15, 0.2, 0],
    in: { is: 'joint', id: 'palm' },
    dials: [
      dial('fist', 'fist', { min: -0.15 }),
      dial('spread', 'spread', { min: -1 }),
      dial('fan', 'fan', { min: -1 }),
    ],
  });
  for (const [i, finger] of fingers.entries()) addFinger(maker, finger, i);
  addThumb(maker);
  skin(maker);
  maker.sets.push(
    { id: 'hand', name: 'arm, palm', side: 'centre', controls: ['arm', 'palm'] },
    { id: 'fingers', name: 'fingers', side: 'centre', controls: ['fingers', ...fingers.map((f) => f.id)] },
    { id: 'thumb', name: 'thumb', side: 'centre', controls: ['thumb'] },
  );
  return maker.make({ id: 'glove', version: 1, name: 'Glove', changes: 'The first glove.' });
}

const jointNames = (id: string) => [1, 2, 3].map((n) => `${id}${n}`);

function addFinger(maker: RigMaker, { id, at, direction, lengths }: (typeof fingers)[number], index: number): void {
  const along = unit(direction);
  let place: Vector = at;
  // From the index to the little one the fan goes from one end to the other.
  const side = 1.5 - index;
  for (const [k, name] of jointNames(id).entries()) {
    const inputs = { fist: 'fingers.fist', curl: `${id}.curl`, tip: `${id}.tip` };
    const spread = { own: `${id}.side`, spread: 'fingers.spread' };
    maker.joint(name, k === 0 ? 'palm' : jointNames(id)[k - 1], place, {
      kind: 'dials',
      turn: [
        k === 2
          ? driven('clamp(fist + curl + tip, -0.25, 1.1) * 70', inputs)
          : driven(
              `clamp(fist + curl + fan * ${(0.12 * (index - 1.5)).toFixed(2)}, -0.25, 1.1) * ${k === 0 ? 86 : 96}`,
              {
                fist: 'fingers.fist',
                curl: `${id}.curl`,
                fan: 'fingers.fan',
              },
            ),
        null,
        k === 0 ? driven(`-(own * 18 + spread * ${(side * 9).toFixed(1)})`, spread) : null,
      ],
    });
    place = add(place, times(along, lengths[k]));
  }
  maker.control({
    id,
    name: `${id} finger`,
    side: 'centre',
    form: 'halo',
    reach: 0.024,
    place: add(at, times(along, lengths[0] + lengths[1] + lengths[2] * 0.5)),
    in: { is: 'joint', id: `${id}3` },
    dials: [dial('curl', 'curl', { min: -0.4 }), dial('side', 'side', { min: -1 }), dial('tip', 'tip', { min: -0.6 })],
  });
}

function addThumb(maker: RigMaker): void {
  const direction = unit(thumb.direction);
  let place: Vector = thumb.at;
  for (const [k, name] of jointNames('thumb').entries()) {
    maker.joint(name, k === 0 ? 'palm' : `thumb${k}`, place, {
      kind: 'dials',
      turn: [
        k === 0 ? driven('across * 34', { across: 'thumb.across' }) : null,
        k === 0 ? driven('-across * 48', { across: 'thumb.across' }) : null,
        driven(`clamp(curl, -0.6, 1.1) * ${[18, 52, 62][k]}`, { curl: 'thumb.curl' }),
      ],
    });
    place = add(place, times(direction, thumb.lengths[k]));
  }
  maker.control({
    id: 'thumb',
    name: 'thumb',
    side: 'centre',
    form: 'halo',
    reach: 0.026,
    place: add(thumb.at, times(direction, 0.122)),
    in: { is: 'joint', id: 'thumb3' },
    dials: [dial('across', 'across', { min: -0.5 }), dial('curl', 'curl', { min: -0.5 })],
  });
}

function skin(maker: RigMaker): void {
  // A sleeve: it stands where it stands, and its upper end goes with the arm, so that it is stretched and pressed.
  maker.soft(
    'cuff',
    paints.cream,
    along(
      [
        { at: [0, 0.05, 0], wide: 0.08, deep: 0.067 },
        { at: [0, 0.075, 0], wide: 0.071, deep: 0.059 },
        { at: [0, 0.1, 0], wide: 0.066, deep: 0.054 },
        { at: [0, 0.118, 0], wide: 0.068, deep: 0.056 },
      ],
      [1, 0, 0],
      26,
      2.2,
    ),
    ([, y]) => {
      const up = Math.min(1, Math.max(0, (y - 0.03) / 0.07));
      const share = up * up * (3 - 2 * up);
      return { cuff: 1 - share, arm: share };
    },
  );
  maker.soft('hem', paints.brass, hoop([0, 0.026, 0], [0, 1, 0], 0.078, 0.012, 30), () => ({ cuff: 1 }));
  maker.soft(
    'palm',
    paints.red,
    along(
      [
        { at: [0, 0.085, 0], wide: 0.052, deep: 0.042 },
        { at: [0, 0.13, 0], wide: 0.058, deep: 0.043 },
        { at: [0, 0.185, 0], wide: 0.075, deep: 0.042 },
        { at: [0, 0.23, 0], wide: 0.08, deep: 0.037 },
        { at: [0, 0.258, 0], wide: 0.074, deep: 0.029 },
      ],
      [1, 0, 0],
      28,
      2.6,
    ),
    alongChain(maker, ['arm', 'palm', 'middle1'], 0.6),
  );
  for (const { id, at, direction, lengths, thick } of fingers) finger(maker, id, at, direction, lengths, thick);
  finger(maker, 'thumb', thumb.at, thumb.direction, thumb.lengths, thumb.thick);
  maker.soft('ball', paints.red, egg([0.056, 0.165, 0.018], [0.034, 0.045, 0.03], 2, 18), (p) => ({
    palm: 1,
    thumb1: Math.max(0, (p[0] - 0.045) * 40),
  }));
  maker.solid(
    'stitch',
    'palm',
    paints.cream,
    along(
      [
        { at: [0, 0.12, -0.044], wide: 0.004, deep: 0.004 },
        { at: [0, 0.17, -0.046], wide: 0.004, deep: 0.004 },
        { at: [0, 0.215, -0.043], wide: 0.004, deep: 0.004 },
      ],
      [1, 0, 0],
      8,
    ),
  );
}

function finger(
  maker: RigMaker,
  id: string,
  at: Vector,
  direction: Vector,
  lengths: readonly number[],
  thick: number,
): void {
  const d = unit(direction);
  const whole = lengths.reduce((s, l) => s + l, 0);
  const rings = Array.from({ length: 12 }, (_, i) => {
    const t = i / 11;
    const radius = thick * (1 - 0.16 * t) * (i === 11 ? 0.9 : 1);
    return { at: add(at, times(d, -0.012 + (whole - thick * 0.35) * t)), wide: radius, deep: radius * 0.96 };
  });
  const joints = jointNames(id);
  const ends = lengths.map((_, k) => lengths.slice(0, k).reduce((s, l) => s + l, 0));
  maker.soft(id, paints.red, along(rings, [1, 0, 0], 16), (p) => {
    const far = (p[0] - at[0]) * d[0] + (p[1] - at[1]) * d[1] + (p[2] - at[2]) * d[2];
    const soft = 0.014;
    const past = (k: number) => Math.min(1, Math.max(0, (far - ends[k]) / (2 * soft) + 0.5));
    const [a, b, c] = [past(0), past(1), past(2)];
    return { palm: 1 - a, [joints[0]]: a * (1 - b), [joints[1]]: b * (1 - c), [joints[2]]: c };
  });
}
