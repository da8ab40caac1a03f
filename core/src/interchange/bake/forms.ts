import { bendsByPoint, skinPoints, skinsOf, writeSkinMatrices } from '../../body/skin.ts';
import type { Member } from '../../document/member.ts';
import type { Frame } from '../../evaluate/frame.ts';
import type { Layout } from '../../evaluate/layout.ts';
import { deformMatrix, deformPoints, isAffine } from '../../evaluate/shape.ts';
import { invert, transformPoint } from '../../pose/affine.ts';
import type { CompiledRig } from '../../rig/compiled.ts';
import type { SceneMesh } from '../scene/scene.ts';
import { Amounts, type Basis, basisOf } from './bent.ts';
import { byMaterial } from './bodies.ts';
import type { Mover } from './mover.ts';
import type { Run } from './runs.ts';

/** Some metres that nobody sees: how near shape targets come to a form that bends. */
const NEAR = 2e-5;
/** The most moments a form is looked at in all. */
const MOST_LOOKS = 600;

/** A form that deformers change, in the space of the node it hangs on. */
export interface FormOf {
  /** Three numbers a vertex; the base for its shapes. */
  readonly base: Float64Array;
  /** Writes where its vertices are. */
  points(frame: Frame, out: Float64Array): void;
  /** Writes what its deformers do as a matrix, where that says all of it. @returns whether it does */
  matrix(frame: Frame, out: Float64Array): boolean;
  /** Its deformers' matrix as a size along the axes and a move. */
  size(layout: Layout): (frame: Frame, out: Float64Array, at: number) => void;
}

const matrix = new Float64Array(16);

function formAt(id: string, base: Float64Array, points: FormOf['points']): FormOf {
  const slotIn = (layout: Layout) => layout.slotOf.get(id)!;
  return {
    base,
    points,
    matrix(frame, out) {
      const slot = slotIn(frame.layout);
      if (!isAffine(frame, slot)) return false;
      deformMatrix(frame, slot, out);
      return true;
    },
    size(layout) {
      const slot = slotIn(layout);
      return (frame, out, at) => {
        deformMatrix(frame, slot, matrix);
        out.set([matrix[12], matrix[13], matrix[14], 0, 0, 0, 1, matrix[0], matrix[5], matrix[10]], at);
      };
    },
  };
}

/** The form of a member with deformers, its parts one after another. */
export function memberForm(member: Member, { parts }: SceneMesh): FormOf {
  const base = Float64Array.from(parts.flatMap((part) => [...part.mesh.positions]));
  return formAt(member.id, base, (frame, out) => {
    out.set(base);
    deformPoints(frame, frame.layout.slotOf.get(member.id)!, out);
  });
}

/** The body of a rig with deformers, as its joints and they make it, in the space of where the rig has got to. */
export function rigForm(member: Member, compiled: CompiledRig): FormOf {
  const all = skinsOf(compiled);
  // In the order in which the parts of its mesh come.
  const skins = byMaterial(all).flat();
  const base = Float64Array.from(skins.flatMap((skin) => [...skin.positions]));
  const matrices = new Float64Array(compiled.rig.joints.length * 16);
  const inverse = new Float64Array(16);
  return formAt(member.id, base, (frame, out) => {
    const slot = frame.layout.slotOf.get(member.id)!;
    const placed = frame.layout.rigAt.get(slot)!;
    writeSkinMatrices(frame, placed, matrices);
    let first = 0;
    for (const skin of skins) {
      const next = first + skin.positions.length;
      skinPoints(frame, placed, all.indexOf(skin), matrices, out.subarray(first, next));
      first = next;
    }
    if (bendsByPoint(frame, slot)) return;
    invert(inverse, 0, frame.world, placed.root * 16);
    for (let p = 0; p < out.length; p += 3) transformPoint(out, p, inverse, 0, out[p], out[p + 1], out[p + 2]);
  });
}

/** How a form that deformers change is said: by the size of a node along its axes, or by shape targets. */
export type Bent =
  | { readonly is: 'sized' }
  | {
      readonly is: 'shaped';
      /** The mesh with its shapes; its parts must be the form's, in the same order. */
      shaped(mesh: SceneMesh): SceneMesh;
      amounts(layout: Layout): Mover;
      /** How far from the form its shapes are at most, metres. */
      readonly rest: number;
    };

/** Looks at a form through all that becomes a motion, and says in which way it can be said. */
export function bentForm(form: FormOf, runs: readonly Run[]): Bent {
  let square = true;
  const moments: Float64Array[] = [];
  const all = runs.reduce((sum, run) => sum + 2 * (run.last - run.first) + 1, 0);
  const step = Math.max(0.5, Math.ceil(all / MOST_LOOKS) / 2);
  for (const { program, first, last } of runs) {
    const frame = program.createFrame();
    for (let time = first; time <= last; time += step) {
      program.evaluate(time, frame);
      square &&= form.matrix(frame, matrix) && isSquare(matrix);
      const points = new Float64Array(form.base.length);
      form.points(frame, points);
      moments.push(points);
    }
  }
  if (square) return { is: 'sized' };
  const basis = basisOf(form.base, moments, NEAR);
  return {
    is: 'shaped',
    rest: basis.rest,
    shaped: (mesh) => withShapes(mesh, basis),
    amounts() {
      const amounts = new Amounts(basis);
      const points = new Float64Array(form.base.length);
      return {
        is: 'weights',
        width: basis.shapes.length,
        write(frame, out, at) {
          form.points(frame, points);
          amounts.write(points, out, at);
        },
      };
    },
  };
}

const isSquare = (m: Float64Array): boolean => [1, 2, 4, 6, 8, 9].every((i) => Math.abs(m[i]) < 1e-9);

function withShapes(mesh: SceneMesh, { base, shapes }: Basis): SceneMesh {
  let first = 0;
  const parts = mesh.parts.map((part) => {
    const from = first;
    first += part.mesh.positions.length;
    const of = (numbers: Float64Array) => Float32Array.from(numbers.subarray(from, first));
    return {
      ...part,
      mesh: { ...part.mesh, positions: of(base) },
      targets: shapes.map((shape) => ({ positions: of(shape) })),
    };
  });
  return { ...mesh, parts, targets: shapes.map((_, k) => `bend ${k + 1}`) };
}
