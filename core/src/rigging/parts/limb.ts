import { apart, between, cross, direction, minus, plus, times, type Vector } from '../../pose/vectors.ts';
import type { BodySide, Dressing } from '../dressing.ts';

/** A limb that is bent less than this share of its length has no plane of its own. */
const STRAIGHT = 0.01;

interface LimbWords {
  readonly side: BodySide;
  readonly id: string;
  readonly name: string;
  readonly joints: readonly [upper: string, lower: string, end: string];
  /** What the bend is called: knee, elbow. */
  readonly bend: string;
  /** Which way it bends where it is straight. */
  readonly bends: Vector;
  readonly along: Vector;
  readonly follows: number;
  /** The control with its dials, and what it reaches to. */
  readonly dials: string;
  readonly target: { readonly is: 'control' | 'foot'; readonly id: string };
}

/** Two bones that reach: a pole for the bend, and controls that turn them joint by joint. @returns ids of those controls */
export function addLimb(make: Dressing, limb: LimbWords): string[] {
  const { side } = limb;
  const [upper, lower, end] = limb.joints.map((id) => make.joint(id));
  const places = [upper.place, lower.place, end.place] as const;
  const long = apart(places[0], places[1]) + apart(places[1], places[2]);
  const size = make.figure.girth(lower.id);
  keepRest(make, limb.dials, apart(places[0], places[2]) / long);
  const pole = make.control(side, {
    id: limb.bend.replace(/ (.)/g, (_, letter: string) => letter.toUpperCase()),
    name: limb.bend,
    form: 'diamond',
    reach: Math.max(size * 0.35, 0.01 * long),
    place: [...poleOf(places, long * 0.45, limb.bends)],
    in: { is: 'along', id: limb.id },
    move: 'xyz',
  });
  const controls = limb.joints.map((id, i) => {
    const joint = make.joint(id);
    const before: string | undefined = make.controls[make.controls.length - 1]?.id;
    const { parent } = joint;
    // Its side comes last, so that its counterpart is found.
    const own = id.endsWith(side.mark) && side.mark ? `${id.slice(0, -1)}Joint${side.mark}` : `${id}Joint${side.mark}`;
    make.controls.push({
      id: own,
      name:
        side.mark && joint.name.endsWith(` ${side.mark}`)
          ? `${joint.name.slice(0, -2)} joint ${side.mark}`
          : `${joint.name} joint`,
      side: side.side,
      form: 'fan',
      reach: make.figure.girth(id),
      place: [...joint.place],
      in: i > 0 ? { is: 'control', id: before } : parent === null ? null : { is: 'joint', id: parent },
      turn: 'xyz',
    });
    return own;
  }) as [string, string, string];
  make.leave(limb.joints);
  make.limbs.push({
    id: limb.id,
    name: limb.name,
    upper: upper.id,
    lower: lower.id,
    end: end.id,
    target: limb.target,
    pole,
    joints: controls,
    dials: limb.dials,
    along: [...limb.along],
    follows: limb.follows,
  });
  return [pole, ...controls];
}

/** A limb that is nearly straight at rest straightens less softly, or it would not stand as it was built. */
function keepRest(make: Dressing, dials: string, straight: number): void {
  const control = make.controls.find((c) => c.id === dials);
  if (!control?.dials) return;
  control.dials = control.dials.map((dial) =>
    dial.id === 'soft' ? { ...dial, initial: Math.min(dial.initial ?? 0, Math.max(0, (1 - straight) * 0.9)) } : dial,
  );
}

/** Where a limb's pole stands: out from the bend in the limb's own plane, or where it should bend if it is straight. */
export function poleOf([upper, lower, end]: readonly [Vector, Vector, Vector], far: number, bends: Vector): Vector {
  const way = direction(minus(end, upper), [0, -1, 0]);
  const share = apart(upper, lower) / Math.max(1e-9, apart(upper, lower) + apart(lower, end));
  const out = minus(lower, between(upper, end, share));
  const own = Math.hypot(...out) > STRAIGHT * apart(upper, end);
  // Square to the limb, whichever it is.
  const normal = cross(way, own ? minus(lower, upper) : bends);
  return plus(lower, times(direction(cross(normal, way), bends), far));
}
