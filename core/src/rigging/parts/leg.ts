import { direction, minus, type Vector } from '../../pose/vectors.ts';
import type { RigPart } from '../../rig/plan.ts';
import { type Dressing, footDials, limbDials, sideOf } from '../dressing.ts';
import { addLimb } from './limb.ts';

/** What of a foot lies this low over its sole, as a share of its ankle's height, stands on the ground. */
const LOW = 0.3;

/** A leg that walks: it reaches to a foot that rolls over heel, ball and toe, or to a hoof. */
export function addLeg(make: Dressing, part: Extract<RigPart, { kind: 'leg' }>): void {
  const [upper, lower, end, toes] = part.joints;
  const at = make.joint(end).place;
  const side = sideOf(at);
  const name = part.which === '' ? 'leg' : part.which === 'fore' ? 'foreleg' : `${part.which} leg`;
  const word = (text: string) => (part.which === '' ? text : `${part.which} ${text}`);
  const id = (text: string) => word(text).replace(/ (.)/g, (_, letter: string) => letter.toUpperCase());
  const foot = footOf(make, part.joints);
  const control = make.control(side, {
    id: id('foot'),
    name: word('foot'),
    form: 'ring',
    reach: foot.reach,
    off: foot.hoof ? [0, 0, 0] : [0, foot.ground - at[1], foot.middle - at[2]],
    place: foot.hoof ? [foot.ball[0], foot.ground, foot.ball[2]] : [...at],
    move: 'xyz',
    turn: 'xyz',
    dials: [...footDials, ...limbDials],
    stands: toes === undefined ? [end] : foot.hoof ? [toes] : [end, toes],
  });
  const { heel, ball, toe, inner, outer } = foot;
  make.feet.push({
    id: control,
    control,
    heel: [...heel],
    ball: [...ball],
    toe: [...toe],
    inner: [...inner],
    outer: [...outer],
  });
  const own = addLimb(make, {
    side,
    id: `${id('leg')}${side.mark}`,
    name: side.mark === '' ? name : `${name} ${side.mark}`,
    joints: [upper, lower, end],
    bend: word('knee'),
    bends: [0, 0, 1],
    along: direction([0, -1, part.which === 'hind' ? -0.05 : 0.04], [0, -1, 0]),
    follows: part.which === '' ? 0.6 : 0.4,
    dials: control,
    target: { is: 'foot', id: control },
  });
  if (toes !== undefined) make.by.set(toes, { kind: 'foot', foot: control });
  make.sets.push({
    id: `${id('leg')}${side.mark}`,
    name: side.mark === '' ? name : `${name} ${side.mark}`,
    side: side.side,
    controls: [control, ...own],
  });
}

interface Foot extends Record<'heel' | 'ball' | 'toe' | 'inner' | 'outer', Vector> {
  readonly hoof: boolean;
  readonly ground: number;
  /** Its middle from back to front. */
  readonly middle: number;
  readonly reach: number;
}

/** What a foot rolls over, by the shape of the body there; by its joints where there is none. */
function footOf(make: Dressing, joints: readonly string[]): Foot {
  const [, lower, end, toes] = joints;
  const ankle = make.joint(end).place;
  const tip = toes === undefined ? null : make.joint(toes).place;
  const hoof = tip !== null && Math.hypot(tip[0] - ankle[0], tip[2] - ankle[2]) < 0.7 * (ankle[1] - tip[1]);
  const points = make.figure.points(hoof ? [toes] : joints.slice(2));
  const top = hoof && tip ? tip[1] : ankle[1];
  const lowest = points.reduce((low, p) => Math.min(low, p[1]), Number.POSITIVE_INFINITY);
  const ground = Number.isFinite(lowest) ? lowest : Math.min(0, tip?.[1] ?? ankle[1]);
  const sole = points.filter((p) => p[1] <= ground + LOW * Math.max(0.01, top - ground));
  const shin = Math.hypot(...minus(ankle, make.joint(lower).place));
  const [x, z] = hoof && tip ? [tip[0], tip[2]] : [ankle[0], ankle[2]];
  const across = (c: 0 | 2, otherwise: readonly [number, number]): [number, number] =>
    sole.length < 3 ? [...otherwise] : [Math.min(...sole.map((p) => p[c])), Math.max(...sole.map((p) => p[c]))];
  const front = tip && !hoof ? tip[2] + 0.3 * (tip[2] - z) : z + 0.35 * shin;
  const [back, toe] = across(2, hoof ? [z - 0.08 * shin, z + 0.1 * shin] : [z - 0.12 * shin, front]);
  const [left, right] = across(0, [x - 0.1 * shin, x + 0.1 * shin]);
  const ball: Vector =
    hoof && tip
      ? [tip[0], ground + Math.max(0.6 * (tip[1] - ground), 0.011), tip[2]]
      : [tip?.[0] ?? x, ground, tip && tip[2] > back && tip[2] < toe ? tip[2] : back + 0.68 * (toe - back)];
  const outwards = x >= 0 ? [left, right] : [right, left];
  return {
    hoof,
    ground,
    middle: (back + toe) / 2,
    reach: Math.max((toe - back) * 0.56, 0.02 * make.height),
    heel: [x, ground, back],
    ball,
    toe: [x, ground, toe],
    inner: [outwards[0], ground, ball[2]],
    outer: [outwards[1], ground, ball[2]],
  };
}
