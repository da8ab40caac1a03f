import type { CompiledRig } from '../rig/compiled.ts';
import type { RigControl, RigFoot, RigLimb, Side } from '../rig/definition.ts';

type Vector = readonly [number, number, number];

/** A leg as a walk needs to know it. Places are of the rig at rest, metres. */
export interface Leg {
  /** The control of its foot. */
  readonly control: string;
  readonly name: string;
  readonly side: Side;
  /** What carries it: the hips, or for forelegs the chest. */
  readonly girdle: 'hips' | 'chest';
  readonly limb: RigLimb;
  readonly foot: RigFoot;
  /** Where the foot's control is. */
  readonly place: Vector;
  /** Its two bones together. */
  readonly reach: number;
  /** It walks on the tips of its toes: a hoof, which does not roll from heel to toe. */
  readonly hoof: boolean;
}

/** An arm that hangs: the controls that turn it joint by joint, from the shoulder down. */
export interface Arm {
  readonly side: Side;
  readonly joints: readonly [string, string, string];
  /** The control with its dial `reach`. */
  readonly dials: string;
  /** The control that closes the fingers, with dials `fist` and `thumb`. */
  readonly fingers: string | null;
}

/** What there is of a body that walks. Controls called body, hips, chest, head and tail are taken for what they say. */
export interface Anatomy {
  readonly compiled: CompiledRig;
  /** Two or four, hind legs first, and of each pair the left one first. */
  readonly legs: readonly Leg[];
  readonly arms: readonly Arm[];
  /** How high the hips stand: the mean height of where the legs begin. */
  readonly legLength: number;
  /** Between hind and forelegs; 0 for two legs. */
  readonly span: number;
  readonly has: (control: string) => boolean;
}

const known = new WeakMap<CompiledRig, Anatomy | string>();

/** The anatomy of a rig, or a sentence that says why it does not walk. */
export function anatomyOf(compiled: CompiledRig): Anatomy | string {
  const there = known.get(compiled) ?? lookedAt(compiled);
  known.set(compiled, there);
  return there;
}

function lookedAt(compiled: CompiledRig): Anatomy | string {
  const { rig } = compiled;
  const has = (control: string) => compiled.controlAt.has(control);
  const place = (joint: string): Vector => {
    const at = compiled.jointAt.get(joint)! * 16 + 12;
    return [compiled.rests[at], compiled.rests[at + 1], compiled.rests[at + 2]];
  };
  const control = (id: string): RigControl => rig.controls[compiled.controlAt.get(id)!];
  const found = rig.limbs.flatMap((limb) => {
    const foot = rig.feet.find((f) => limb.target.is === 'foot' && f.id === limb.target.id);
    return foot && control(foot.control).in === null ? [{ limb, foot, hip: place(limb.upper) }] : [];
  });
  if (found.length !== 2 && found.length !== 4) return 'A gait needs a rig with two or four feet: this one has others.';
  if (!has('body') || !has('hips')) return 'A gait needs controls called body and hips: this rig has none.';
  const middle = found.reduce((s, f) => s + f.hip[2] / found.length, 0);
  const legs = found.map(({ limb, foot, hip }): Leg => {
    const { side, name, place: at } = control(foot.control);
    const [knee, end] = [place(limb.lower), place(limb.end)];
    return {
      control: foot.control,
      name,
      side,
      girdle: found.length === 4 && hip[2] > middle ? 'chest' : 'hips',
      limb,
      foot,
      place: at,
      reach: distance(hip, knee) + distance(knee, end),
      hoof: foot.ball[1] > 0.01,
    };
  });
  legs.sort((a, b) => order(a) - order(b));
  if (new Set(legs.map(order)).size !== legs.length) return 'A gait needs legs in pairs, one on each side.';
  const hips = found.map((f) => f.hip);
  const z = (girdle: Leg['girdle']) => {
    const own = legs.filter((l) => l.girdle === girdle);
    return own.reduce((s, l) => s + place(l.limb.upper)[2] / own.length, 0);
  };
  return {
    compiled,
    legs,
    arms: rig.limbs.flatMap((limb): Arm[] => {
      if (limb.target.is !== 'control') return [];
      const { side } = control(limb.dials);
      const closes = (c: RigControl) => ['fist', 'thumb'].every((d) => c.dials.some((own) => own.id === d));
      const fingers = rig.controls.find((c) => c.side === side && closes(c))?.id ?? null;
      return [{ side, joints: limb.joints, dials: limb.dials, fingers }];
    }),
    legLength: hips.reduce((s, h) => s + h[1] / hips.length, 0),
    span: legs.length === 4 ? z('chest') - z('hips') : 0,
    has,
  };
}

const order = ({ girdle, side }: Leg) => (girdle === 'hips' ? 0 : 2) + (side === 'left' ? 0 : 1);

const distance = (a: Vector, b: Vector) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
