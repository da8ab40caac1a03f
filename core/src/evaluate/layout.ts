import { channelsOf, constantValue } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { MemberDeformer } from '../document/deformer.ts';
import { castOrder } from '../document/hierarchy.ts';
import type { Member } from '../document/member.ts';
import type { Quaternion } from '../document/numbers.ts';
import type { Shot } from '../document/shot.ts';
import { orderAxes } from '../pose/rotation-order.ts';
import type { PlacedRig } from '../rig/placed.ts';
import type { Step } from '../rig/step.ts';
import { arrange } from './arrange.ts';
import type { HeldSpace } from './held-space.ts';

/**
 * Where everything stands in a frame's arrays: members in slots, parents before children, and each member's number
 * channels in one block of `values`. It changes only when somebody comes, goes, changes parent or gets a channel.
 */
export interface Layout {
  readonly ids: readonly string[];
  readonly slotOf: ReadonlyMap<string, number>;
  /** Slot of each slot's parent in the cast; -1 is the stage. */
  readonly carrier: Int32Array;
  /** The node each slot's channels are measured from: its parent, or a space of its own; -1 is the stage. */
  readonly parent: Int32Array;
  /** Where each slot's block of values begins. */
  readonly base: Int32Array;
  /** 1 where the slot turns by an orientation, 0 where by three angles. */
  readonly byOrientation: Uint8Array;
  /** Axes of the turns, first, second, third, and 1 where their order is not cyclic: four to a slot. */
  readonly turnAxes: Uint8Array;
  /** Place of each of a member's channels in its block. */
  readonly channelAt: ReadonlyMap<string, number>[];
  readonly valueCount: number;
  /** All numbers of a frame: the channels, then what rigs drive. */
  readonly numberCount: number;
  /** All matrices of a frame: members by slot, then joints and helpers. */
  readonly nodeCount: number;
  readonly rigs: readonly PlacedRig[];
  /** The rig that stands in a slot. */
  readonly rigAt: ReadonlyMap<number, PlacedRig>;
  /** What works the matrices out, each step after those it reads. */
  readonly steps: readonly Step[];
  readonly held: readonly HeldSpace[];
  /** All deformers, slot by slot, each slot's first one first. */
  readonly deformers: readonly { readonly slot: number; readonly deformer: MemberDeformer }[];
  /** Where each slot's deformers begin in that list, and at the end their number. */
  readonly deformersFrom: Int32Array;
}

export function makeLayout(shot: Shot): Layout {
  const members = castOrder(shot).map((c) => c.member);
  const n = members.length;
  const slotOf = new Map(members.map((m, slot) => [m.id, slot]));
  const carrier = new Int32Array(n);
  const base = new Int32Array(n);
  const byOrientation = new Uint8Array(n);
  const turnAxes = new Uint8Array(n * 4);
  const channelAt: Map<string, number>[] = [];
  let valueCount = 0;
  const deformers: { slot: number; deformer: MemberDeformer }[] = [];
  const deformersFrom = new Int32Array(n + 1);
  members.forEach((member, slot) => {
    carrier[slot] = member.parent === null ? -1 : (slotOf.get(member.parent) ?? -1);
    base[slot] = valueCount;
    byOrientation[slot] = member.rotation === 'orientation' ? 1 : 0;
    const [first, second, third, sign] = orderAxes[member.order];
    turnAxes.set([first, second, third, sign < 0 ? 1 : 0], slot * 4);
    const places = new Map(channelsOf(member).map((c, i) => [c.id, i]));
    channelAt.push(places);
    valueCount += places.size;
    for (const deformer of member.deformers) deformers.push({ slot, deformer });
    deformersFrom[slot + 1] = deformers.length;
  });
  const slots = { base, byOrientation, turnAxes, channelAt };
  return {
    ids: members.map((m) => m.id),
    slotOf,
    carrier,
    ...arrange(members, { ...slots, slotOf, carrier, valueCount }, travellingClips(shot)),
    base,
    byOrientation,
    turnAxes,
    channelAt,
    valueCount,
    deformers,
    deformersFrom,
  };
}

/** The clips at work that take their rigs over the stage. */
const travellingClips = (shot: Shot): Clip[] =>
  Object.values(shot.clips).filter((c) => c.kept === null && c.travelling);

/** Whether the same rigs travel, and in the same way. */
function sameTravels(old: Shot, next: Shot): boolean {
  if (old.clips === next.clips) return true;
  const [a, b] = [travellingClips(old), travellingClips(next)];
  const alike = (x: Clip, y: Clip) =>
    x === y ||
    (x.rig === y.rig &&
      x.first === y.first &&
      x.length === y.length &&
      x.cycles === y.cycles &&
      x.travel === y.travel &&
      x.way === y.way &&
      (x.way === null || x.stances === y.stances));
  return a.length === b.length && a.every((clip, i) => alike(clip, b[i]));
}

/** Whether a layout made for `old` still fits `next`. */
export function sameLayout(old: Shot, next: Shot): boolean {
  if (!sameTravels(old, next)) return false;
  if (old.members === next.members) return true;
  const ids = Object.keys(next.members);
  if (ids.length !== Object.keys(old.members).length) return false;
  return ids.every((id) => id in old.members && sameSlot(old.members[id], next.members[id]));
}

const sameSlot = (a: Member, b: Member) =>
  a === b ||
  (a.parent === b.parent &&
    a.kind === b.kind &&
    a.rotation === b.rotation &&
    a.order === b.order &&
    a.custom === b.custom &&
    a.deformers === b.deformers &&
    a.holds === b.holds &&
    ((a.deformers.length === 0 && a.kind !== 'rig' && a.kind !== 'control') || a.shape === b.shape) &&
    a.rank === b.rank);

/** Writes a member's constant values into its block of `values` and its orientation into `orientations`. */
export function writeConstants(layout: Layout, member: Member, values: Float64Array, orientations: Float64Array): void {
  const slot = layout.slotOf.get(member.id)!;
  channelsOf(member).forEach((channel, i) => {
    values[layout.base[slot] + i] = constantValue(member, channel);
  });
  writeUnit(member.orientation, orientations, slot * 4);
}

export function writeUnit(q: Quaternion, out: Float64Array, at: number): void {
  const length = Math.hypot(...q);
  for (let c = 0; c < 4; c++) out[at + c] = q[c] / length;
}
