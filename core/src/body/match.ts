import type { ChannelValue } from '../document/channels.ts';
import { channelPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { frameOf } from '../evaluate/program.ts';
import { compose, invert, multiply, scaleOf, transformPoint, turnOf } from '../pose/affine.ts';
import type { RigLimb } from '../rig/definition.ts';
import { softDistance } from '../rig/limb.ts';
import type { PlacedRig } from '../rig/placed.ts';
import { Table } from '../table/table.ts';
import { channelsAt } from './place-in.ts';

/** A limb of a rig in a shot. */
export interface LimbRef {
  /** The member that is the rig. */
  readonly rig: string;
  readonly limb: string;
}

/** The limb a control works: as its target, pole, dials or one of its joints. */
export function limbOfControl(shot: Shot, id: string, frame: Frame): { ref: LimbRef; limb: RigLimb } | null {
  const member = shot.members.get(id);
  if (member?.kind !== 'control' || member.parent === null) return null;
  const placed = frame.layout.rigAt.get(frame.layout.slotOf.get(member.parent) ?? -1);
  const control = shot.rigs.controlOf(member)?.id;
  const limb = placed?.compiled.rig.limbs.find(
    (l) => l.dials === control || l.pole === control || l.target.id === control || l.joints.includes(control ?? ''),
  );
  return limb ? { ref: { rig: member.parent, limb: limb.id }, limb } : null;
}

/** How far from full a limb is kept when its target is drawn away by hand: below where the checks would speak. */
const COMFORTABLE = 0.994;

/**
 * Where a limb's target may be for the limb to get there: a ball round its upper joint. Null for what is no target of a limb that
 * reaches, and for feet, which roll.
 */
export function reachOfTarget(
  shot: Shot,
  id: string,
  frame: Frame,
): { readonly middle: readonly [number, number, number]; readonly radius: number } | null {
  const found = limbOfControl(shot, id, frame);
  if (found?.limb.target.is !== 'control' || frame.value(id, 'reach') !== 1) return null;
  const placed = frame.layout.rigAt.get(frame.layout.slotOf.get(found.ref.rig)!)!;
  const at = [found.limb.upper, found.limb.lower, found.limb.end].map((j) => jointNode(placed, j) * 16 + 12);
  const { world } = frame;
  const between = (a: number, b: number) =>
    Math.hypot(world[b] - world[a], world[b + 1] - world[a + 1], world[b + 2] - world[a + 2]);
  const [u, l, e] = at;
  const middle = [world[u], world[u + 1], world[u + 2]] as const;
  return { middle, radius: (between(u, l) + between(l, e)) * COMFORTABLE };
}

const inverse = new Float64Array(16);
const matrix = new Float64Array(16);
const turn = new Float64Array(4);
const ahead = new Float64Array(3);

/**
 * The channels with which a limb goes over from reaching to being turned joint by joint, or back, and stays exactly as it is.
 * @param to what the limb is worked by from now on
 */
export function matched(
  shot: Shot,
  { rig, limb: id }: LimbRef,
  to: 'reach' | 'joints',
  time: number,
): Record<string, ChannelValue> {
  const frame = frameOf(shot, time);
  const placed = frame.layout.rigAt.get(frame.layout.slotOf.get(rig)!)!;
  const limb = placed.compiled.rig.limbs.find((l) => l.id === id)!;
  const values =
    to === 'joints' ? jointsMatched(shot, frame, placed, limb) : reachMatched(shot, frame, placed, limb, time);
  return { ...values, [channelPath(memberOf(frame, placed, limb.dials), 'reach')]: to === 'reach' ? 1 : 0 };
}

const memberOf = (frame: Frame, placed: PlacedRig, control: string): string =>
  frame.layout.ids[placed.controls[placed.compiled.controlAt.get(control)!]];

const jointNode = (placed: PlacedRig, joint: string) => placed.joints + placed.compiled.jointAt.get(joint)!;

/** Writes a joint's matrix as it would be if it were square to the rig at rest. */
function squared(frame: Frame, placed: PlacedRig, joint: string, out: Float64Array): void {
  const at = placed.compiled.jointAt.get(joint)! * 16;
  const { rests } = placed.compiled;
  matrix.set(rests.subarray(at, at + 16));
  matrix[12] = 0;
  matrix[13] = 0;
  matrix[14] = 0;
  invert(inverse, 0, matrix, 0);
  multiply(out, 0, frame.world, jointNode(placed, joint) * 16, inverse, 0);
}

/** Each joint's control is turned as its joint is, against the one before it. */
function jointsMatched(shot: Shot, frame: Frame, placed: PlacedRig, limb: RigLimb): Record<string, ChannelValue> {
  const out: Record<string, ChannelValue> = {};
  const wanted = new Float64Array(16);
  [limb.upper, limb.lower, limb.end].forEach((joint, i) => {
    const id = memberOf(frame, placed, limb.joints[i]);
    squared(frame, placed, joint, wanted);
    Object.assign(out, channelsIn(shot, frame, id, wanted));
    // The next one's space goes with this one: it is where it will be.
    const slot = frame.layout.slotOf.get(id)!;
    frame.world.set(wanted, slot * 16);
    const next = limb.joints[i + 1];
    if (next) {
      const space = placed.compiled.controlAt.get(next)!;
      frame.world.set(wanted, placed.spaces[space] * 16);
    }
  });
  return out;
}

const channelsIn = (shot: Shot, frame: Frame, id: string, world: Float64Array) =>
  channelsAt(shot, frame, id, world, 'turn');

/** The target goes to where the end is, and then the pole to where the bend is. */
function reachMatched(
  shot: Shot,
  frame: Frame,
  placed: PlacedRig,
  limb: RigLimb,
  time: number,
): Record<string, ChannelValue> {
  const { compiled } = placed;
  const target =
    limb.target.is === 'control' ? limb.target.id : compiled.rig.feet.find((f) => f.id === limb.target.id)!.control;
  const id = memberOf(frame, placed, target);
  const control = compiled.rig.controls[compiled.controlAt.get(target)!];
  const wanted = new Float64Array(16);
  squared(frame, placed, limb.end, wanted);
  // From the end joint to where the control stands beside it.
  const end = compiled.jointAt.get(limb.end)! * 16 + 12;
  const [x, y, z] = control.place.map((v, c) => v - compiled.rests[end + c]);
  transformPoint(ahead, 0, wanted, 0, x, y, z);
  wanted.set(ahead, 12);
  drawOut(frame, placed, limb, wanted);
  const values: Record<string, ChannelValue> = channelsAt(shot, frame, id, wanted);
  if (limb.target.is === 'foot') for (const dial of ['heel', 'ball', 'toe', 'bank']) values[channelPath(id, dial)] = 0;
  const moved = { ...shot, over: (shot.over ?? Table.empty<ChannelValue>()).withAll(values) };
  const after = frameOf(moved, time);
  return { ...values, ...poleMatched(moved, after, placed, limb) };
}

/** Puts a target as far beyond the end of a limb that is nearly straight as its soft reach will take back. */
function drawOut(frame: Frame, placed: PlacedRig, limb: RigLimb, target: Float64Array): void {
  const { world } = frame;
  const [u, l, e] = [limb.upper, limb.lower, limb.end].map((j) => jointNode(placed, j) * 16 + 12);
  const between = (a: number, b: number) =>
    Math.hypot(world[b] - world[a], world[b + 1] - world[a + 1], world[b + 2] - world[a + 2]);
  const reached = between(u, e);
  const soft = frame.value(memberOf(frame, placed, limb.dials), 'soft') ?? 0;
  const further = softDistance(reached, between(u, l) + between(l, e), Math.min(0.5, Math.max(0, soft))) / reached - 1;
  for (let c = 0; c < 3; c++) target[12 + c] += (world[e + c] - world[u + c]) * further;
}

function poleMatched(shot: Shot, frame: Frame, placed: PlacedRig, limb: RigLimb): Record<string, ChannelValue> {
  const { compiled } = placed;
  const pole = compiled.rig.controls[compiled.controlAt.get(limb.pole)!];
  const { world } = frame;
  const [u, l, e] = [limb.upper, limb.lower, limb.end].map((j) => jointNode(placed, j) * 16 + 12);
  const direction = [0, 1, 2].map((c) => world[e + c] - world[u + c]);
  const bend = [0, 1, 2].map((c) => world[l + c] - world[u + c]);
  const length = direction.reduce((s, v) => s + v * v, 0);
  const along = direction.reduce((s, v, c) => s + v * bend[c], 0) / length;
  let out = bend.map((v, c) => v - direction[c] * along);
  const size = Math.hypot(...out);
  const upper = new Float64Array(16);
  squared(frame, placed, limb.upper, upper);
  const lowerRest = compiled.jointAt.get(limb.lower)! * 16 + 12;
  const offset = pole.place.map((v, c) => v - compiled.rests[lowerRest + c]);
  if (size < 1e-4 * Math.sqrt(length)) {
    // Straight: the bend lies where the upper bone says it does.
    transformPoint(ahead, 0, upper, 0, offset[0], offset[1], offset[2]);
    out = [0, 1, 2].map((c) => ahead[c] - upper[12 + c]);
  }
  const reach = (Math.hypot(...offset) * scaleOf(upper, 0)) / Math.hypot(...out);
  turnOf(turn, 0, upper, 0);
  const wanted = new Float64Array(16);
  compose(wanted, 0, turn, 0, 1, ...([0, 1, 2].map((c) => world[l + c] + out[c] * reach) as [number, number, number]));
  return channelsAt(shot, frame, memberOf(frame, placed, limb.pole), wanted, 'move');
}
