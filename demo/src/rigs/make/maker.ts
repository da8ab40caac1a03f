import { MESH_UNIT, type Rig, type RigDraft, RigSchema, WHOLE_WEIGHT } from '@varrup/core';
import { add, cross, type Form, minus, times, unit, type Vector } from './forms.ts';

type Joint = RigDraft['joints'][number];
type Control = RigDraft['controls'][number];
type Mesh = RigDraft['meshes'][number];
type Limb = NonNullable<RigDraft['limbs']>[number];
export type Paint = Pick<Mesh, 'colour' | 'finish'>;
/** How a vertex hangs on joints: any positive weights. */
export type Weights = Readonly<Record<string, number>>;

/** The two sides of a body, with what marks their parts and which way out is. */
export const bothSides = [
  { mark: 'L', side: 'left', out: 1, other: 'R' },
  { mark: 'R', side: 'right', out: -1, other: 'L' },
] as const;
export type BodySide = (typeof bothSides)[number];

/** A place on the left, or its mirror image. */
export const on = ({ out }: BodySide, [x, y, z]: Vector): Vector => [x * out, y, z];

/** Collects the parts of a rig and makes it. */
export class RigMaker {
  readonly joints: Joint[] = [];
  readonly controls: Control[] = [];
  readonly limbs: Limb[] = [];
  readonly feet: NonNullable<RigDraft['feet']> = [];
  readonly spines: NonNullable<RigDraft['spines']> = [];
  readonly looks: NonNullable<RigDraft['looks']> = [];
  readonly meshes: Mesh[] = [];
  readonly sets: NonNullable<RigDraft['sets']> = [];

  joint(id: string, parent: string | null, place: Vector, by?: Joint['by']): void {
    this.joints.push({ id, parent, place: [...place], by });
  }

  placeOf(joint: string): Vector {
    const found = this.joints.find((j) => j.id === joint);
    if (!found) throw new Error(`No joint ${joint}.`);
    return found.place as unknown as Vector;
  }

  /** A control; where no place is given it stands at the joint of its own name. */
  control(control: Omit<Control, 'place'> & { place?: Vector }): void {
    this.controls.push({ ...control, place: [...(control.place ?? this.placeOf(control.id))] });
  }

  /** A part that moves with one joint. */
  solid(id: string, joint: string, paint: Paint, form: Form): void {
    this.#mesh(id, paint, form, { kind: 'rigid', joint });
  }

  /** A part whose vertices hang on several joints. */
  soft(id: string, paint: Paint, form: Form, weigh: (at: Vector) => Weights): void {
    const joints: string[] = [];
    const indices: number[] = [];
    const weights: number[] = [];
    for (let v = 0; v < form.positions.length; v += 3) {
      const given = Object.entries(weigh([form.positions[v], form.positions[v + 1], form.positions[v + 2]]))
        .filter(([, w]) => w > 0)
        .sort((a, b) => b[1] - a[1])
        .slice(0, 4);
      const shares = whole(given.map(([, w]) => w));
      for (let k = 0; k < 4; k++) {
        const joint = given[k]?.[0] ?? given[0][0];
        if (!joints.includes(joint)) joints.push(joint);
        indices.push(joints.indexOf(joint));
        weights.push(shares[k] ?? 0);
      }
    }
    this.#mesh(id, paint, form, { kind: 'smooth', joints, indices, weights });
  }

  #mesh(id: string, paint: Paint, form: Form, skin: Mesh['skin']): void {
    const positions = form.positions.map((v) => Math.round(v / MESH_UNIT));
    this.meshes.push({ id, ...paint, positions, triangles: form.triangles, skin });
  }

  /** A shape target of the mesh made last: where a vertex goes, or null where it stays. */
  target(id: string, name: string, by: Driven, move: (at: Vector) => Vector | null): void {
    const mesh = this.meshes[this.meshes.length - 1];
    const vertices: number[] = [];
    const offsets: number[] = [];
    for (let v = 0; v < mesh.positions.length / 3; v++) {
      const at = [0, 1, 2].map((c) => mesh.positions[v * 3 + c] * MESH_UNIT) as unknown as Vector;
      const to = move(at);
      if (!to) continue;
      vertices.push(v);
      offsets.push(...minus(to, at).map((d) => Math.round(d / MESH_UNIT)));
    }
    mesh.targets = [...(mesh.targets ?? []), { id, name, by, vertices, offsets }];
  }

  make(about: Pick<Rig, 'id' | 'version' | 'name' | 'changes'>): Rig {
    const { joints, controls, limbs, feet, spines, looks, meshes, sets } = this;
    return RigSchema.parse({ ...about, joints, controls, limbs, feet, spines, looks, meshes, sets });
  }
}

type Driven = { text: string; inputs: { name: string; path: string }[] };

/** A formula of dials: `driven('-fist * 80', { fist: 'handL.fist' })`. */
export const driven = (text: string, inputs: Readonly<Record<string, string>>): Driven => ({
  text,
  inputs: Object.entries(inputs).map(([name, path]) => ({ name, path })),
});

/** Weights as whole numbers that sum to exactly what a whole is, the largest rests rounded up. */
function whole(weights: readonly number[]): number[] {
  const sum = weights.reduce((s, w) => s + w, 0);
  const exact = weights.map((w) => (w / sum) * WHOLE_WEIGHT);
  const out = exact.map(Math.floor);
  const byRest = exact.map((e, i) => [e - out[i], i] as const).sort((a, b) => b[0] - a[0]);
  const missing = WHOLE_WEIGHT - out.reduce((s, w) => s + w, 0);
  for (let k = 0; k < missing; k++) out[byRest[k][1]]++;
  return out;
}

/** Weights along a chain: each vertex hangs on the two joints it lies between, going over softly. */
export function alongChain(maker: RigMaker, joints: readonly string[], soft = 1): (at: Vector) => Weights {
  const places = joints.map((j) => maker.placeOf(j));
  return (at) => {
    let best = { far: Number.POSITIVE_INFINITY, i: 0, t: 0 };
    for (let i = 0; i + 1 < places.length; i++) {
      const direction = minus(places[i + 1], places[i]);
      const from = minus(at, places[i]);
      const t = Math.min(
        1,
        Math.max(
          0,
          (from[0] * direction[0] + from[1] * direction[1] + from[2] * direction[2]) /
            (direction[0] ** 2 + direction[1] ** 2 + direction[2] ** 2),
        ),
      );
      const far = Math.hypot(...minus(from, times(direction, t)));
      if (far < best.far - 1e-9) best = { far, i, t };
    }
    const s = Math.min(1, Math.max(0, (best.t - 0.5) / soft + 0.5));
    const share = s * s * (3 - 2 * s);
    return { [joints[best.i]]: 1 - share, [joints[best.i + 1]]: share };
  };
}

/** Where a limb's pole stands: out from the bend, in the limb's own plane. */
export function poleOf(upper: Vector, lower: Vector, end: Vector, distance: number): Vector {
  const direction = unit(minus(end, upper));
  const bend = minus(lower, upper);
  const normal = cross(direction, bend);
  return add(lower, times(unit(cross(normal, direction)), distance));
}
