import type { Shot } from '../../document/shot.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { scaleOf, turnOf } from '../../pose/affine.ts';
import type { Angles } from '../../pose/angles.ts';
import { quaternionInverse, quaternionMultiply, quaternionToAngles, quaternionTurn } from '../../pose/index.ts';
import { minus } from '../../pose/vectors.ts';
import type { CompiledRig } from '../../rig/compiled.ts';
import type { PlacedRig } from '../../rig/placed.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { Refused } from '../../schema/refused.ts';
import type { Choices } from '../bake/choices.ts';
import type { LeftOut } from '../bake/plan.ts';
import { planJoints } from '../bake/rig-joints.ts';
import { type Run, runsOf } from '../bake/runs.ts';
import { Names } from '../scene/names.ts';
import { type Capture, type CaptureJoint, type Offset, writtenOrder } from './capture.ts';

/** Moves smaller than this are none, metres. */
const STILL = 1e-5;
/** Sizes nearer to one than this are one. */
const UNSIZED = 1e-3;

/** A rig's skeleton with one of its motions. */
export interface CapturedMotion {
  readonly name: string;
  readonly capture: Capture;
}

/**
 * The motions of a rig as captures: its joints, square to the rig at rest, each with its turn at every frame of the rate, and its
 * move where a joint goes nearer to its parent or further away. The rig itself is the root, or its only uppermost joint.
 * @returns the motions, and what a capture cannot say
 * @throws Refused where the member is no rig
 */
export function capturesOf(
  shot: Shot,
  id: string,
  choices: Choices,
): { readonly motions: readonly CapturedMotion[]; readonly left: readonly LeftOut[] } {
  const member = shot.members.get(id);
  const compiled = member?.kind === 'rig' ? shot.rigs.find(member.shape) : undefined;
  if (!member || !compiled) throw new Refused(`${member?.name ?? 'Nobody'} is no rig: a capture is of a skeleton.`);
  const runs = runsOf(shot, choices).filter((run) => run.rig === null || run.rig === id);
  const skeleton = new Skeleton(member.name, compiled, choices);
  let sized = false;
  const motions = runs.map((run) => {
    const made = capture(run, id, skeleton, shot.rate, choices);
    sized ||= made.sized;
    return { name: run.name, capture: made.capture };
  });
  const left = sized
    ? [{ of: member.name, text: 'some of its joints change their size, which a skeleton cannot' }]
    : [];
  return { motions, left };
}

interface Bone {
  /** Its place among the rig's joints; -1 is the rig itself. */
  readonly joint: number;
  readonly parent: number;
  readonly name: string;
  /** Where it is at rest, and the turn its frame has there, in the rig's space. */
  readonly place: Offset;
  readonly turn: Quaternion;
}

/** The bones of a rig as a capture has them. */
class Skeleton {
  readonly bones: readonly Bone[];
  readonly up: Quaternion;
  readonly scale: number;

  constructor(name: string, compiled: CompiledRig, { plainNames, joints, up, scale }: Choices) {
    const names = new Names(plainNames);
    const kept = planJoints(compiled, joints === 'deforming', []);
    const single = kept.filter((joint) => joint.above < 0).length === 1;
    const bones: Bone[] = [];
    const boneOf = new Map<number, number>([[-1, -1]]);
    if (!single) {
      bones.push({ joint: -1, parent: -1, name: names.give(name), place: [0, 0, 0], turn: [0, 0, 0, 1] });
      boneOf.set(-1, 0);
    }
    for (const { joint, above } of kept) {
      const { rests } = compiled;
      boneOf.set(joint, bones.length);
      bones.push({
        joint,
        parent: boneOf.get(above)!,
        name: names.give(compiled.rig.joints[joint].id),
        place: [rests[joint * 16 + 12], rests[joint * 16 + 13], rests[joint * 16 + 14]],
        turn: turnAt(rests, joint * 16),
      });
    }
    this.bones = bones;
    const quarter = Math.SQRT1_2;
    this.up = up === 'z' ? [quarter, 0, 0, quarter] : [0, 0, 0, 1];
    this.scale = scale;
  }

  /** A place or a move as the receiver has it. */
  sent(v: Offset): Offset {
    const [x, y, z] = quaternionTurn(this.up, v);
    return [x * this.scale, y * this.scale, z * this.scale];
  }

  sentTurn(q: Quaternion): Quaternion {
    return quaternionMultiply(quaternionMultiply(this.up, q), quaternionInverse(this.up));
  }
}

/** Where a bone is in the world at a frame, and how it is turned from its rest. */
interface Stand {
  readonly place: Offset;
  readonly turn: Quaternion;
}

function capture(
  run: Run,
  id: string,
  skeleton: Skeleton,
  shotRate: number,
  { rate }: Choices,
): { capture: Capture; sized: boolean } {
  const { program, first, last } = run;
  const placed = program.layout.rigAt.get(program.layout.slotOf.get(id)!)!;
  const frame = program.createFrame();
  const { bones } = skeleton;
  const frames = Math.floor(((last - first) * rate) / shotRate + 1e-9) + 1;
  let sized = false;
  /** For each frame and bone its move from where its parent puts it, and its turn in its parent. */
  const stands = Array.from({ length: frames }, (_, f) => {
    program.evaluate(first + (f * shotRate) / rate, frame);
    sized ||= isSized(frame, placed);
    const world = bones.map((bone) => standOf(bone, frame, placed));
    return bones.map((bone, b) => (bone.parent < 0 ? world[b] : within(bones, b, world)));
  });
  const moves = bones.map((bone, b) => bone.parent < 0 || stands.some((s) => Math.hypot(...s[b].place) > STILL));
  const joints = bones.map((bone, b): CaptureJoint => {
    const offset = bone.parent < 0 ? ([0, 0, 0] as const) : minus(bone.place, bones[bone.parent].place);
    const turns = ['turn.z', 'turn.x', 'turn.y'] as const;
    const channels = moves[b] ? (['move.x', 'move.y', 'move.z', ...turns] as const) : turns;
    return { name: bone.name, parent: bone.parent, offset: skeleton.sent(offset), channels, end: null };
  });
  const values: number[] = [];
  const last3 = bones.map((): Angles => [0, 0, 0]);
  for (const stand of stands) {
    stand.forEach(({ place, turn }, b) => {
      if (moves[b]) values.push(...skeleton.sent(place));
      const angles = quaternionToAngles(skeleton.sentTurn(turn), writtenOrder, last3[b]);
      last3[b] = angles;
      values.push(...[angles[2], angles[0], angles[1]].map((a) => (a * 180) / Math.PI));
    });
  }
  return { capture: { joints, rate, frames, values: Float64Array.from(values) }, sized };
}

function standOf({ joint, turn }: Bone, { world }: Frame, placed: PlacedRig): Stand {
  const at = (joint < 0 ? placed.root : placed.joints + joint) * 16;
  const place = [world[at + 12], world[at + 13], world[at + 14]] as const;
  return { place, turn: quaternionMultiply(turnAt(world, at), quaternionInverse(turn)) };
}

/** How a bone stands in its parent: how far it is from its rest there, and how it is turned. */
function within(bones: readonly Bone[], b: number, world: readonly Stand[]): Stand {
  const parent = world[bones[b].parent];
  const back = quaternionInverse(parent.turn);
  const offset = minus(bones[b].place, bones[bones[b].parent].place);
  const place = minus(quaternionTurn(back, minus(world[b].place, parent.place)), offset);
  return { place, turn: quaternionMultiply(back, world[b].turn) };
}

function isSized({ world }: Frame, { joints, compiled }: PlacedRig): boolean {
  for (let j = 0; j < compiled.rig.joints.length; j++) {
    for (const c of [0, 4, 8]) if (Math.abs(scaleOf(world, (joints + j) * 16 + c) - 1) > UNSIZED) return true;
  }
  return false;
}

const numbers = new Float64Array(4);

function turnAt(matrices: Float64Array, at: number): Quaternion {
  turnOf(numbers, 0, matrices, at);
  return [numbers[0], numbers[1], numbers[2], numbers[3]];
}
