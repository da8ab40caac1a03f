import { type Channel, channelsOf, constantValue, splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { MemberDeformer } from '../document/deformer.ts';
import { castOrder } from '../document/hierarchy.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { orderAxes } from '../pose/rotation-order.ts';
import type { Operation } from '../rig/operation.ts';
import type { PlacedRig } from '../rig/placed.ts';
import type { Rigs } from '../rig/rigs.ts';
import type { Quaternion } from '../schema/numbers.ts';
import { givenBy, riggedByTracks } from '../track/arrangement.ts';
import { arrange, type Travels } from './arrange.ts';
import type { HeldSpace } from './held-space.ts';
import type { AlongTracks } from './travelling.ts';

/**
 * Where everything stands in a frame's arrays: members in slots, parents before children, and each member's number
 * channels in one block of `values`. It changes only when somebody comes, goes, changes parent or gets a channel.
 */
export interface Layout {
  readonly ids: readonly string[];
  readonly slotOf: ReadonlyMap<string, number>;
  /** Slot of each slot's parent in the cast; -1 is the stage. */
  readonly parent: Int32Array;
  /** The node each slot's channels are measured from: its parent, or a space of its own; -1 is the stage. */
  readonly space: Int32Array;
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
  readonly steps: readonly Operation[];
  readonly held: readonly HeldSpace[];
  /** What takes rigs along that go as far as their tracks take them, by the rig. */
  readonly onTracks: ReadonlyMap<string, AlongTracks>;
  /** All deformers, slot by slot, each slot's first one first. */
  readonly deformers: readonly { readonly slot: number; readonly deformer: MemberDeformer }[];
  /** Where each slot's deformers begin in that list, and at the end their number. */
  readonly deformersFrom: Int32Array;
}

/** Where a number channel stands in the values, looked up once for many frames; -1 where it does not. */
export function placeOf({ slotOf, channelAt, base }: Layout, path: string): number {
  const { member, channel } = splitPath(path);
  const slot = slotOf.get(member);
  const place = slot === undefined ? undefined : channelAt[slot].get(channel);
  return slot === undefined || place === undefined ? -1 : base[slot] + place;
}

export function makeLayout(shot: Shot): Layout {
  const members = castOrder(shot).map((c) => c.member);
  const n = members.length;
  const slotOf = new Map(members.map((m, slot) => [m.id, slot]));
  const parent = new Int32Array(n);
  const base = new Int32Array(n);
  const byOrientation = new Uint8Array(n);
  const turnAxes = new Uint8Array(n * 4);
  const channelAt: ReadonlyMap<string, number>[] = [];
  let valueCount = 0;
  members.forEach((member, slot) => {
    parent[slot] = member.parent === null ? -1 : (slotOf.get(member.parent) ?? -1);
    base[slot] = valueCount;
    byOrientation[slot] = member.rotation === 'orientation' ? 1 : 0;
    const [first, second, third, sign] = orderAxes[member.order];
    turnAxes.set([first, second, third, sign < 0 ? 1 : 0], slot * 4);
    const places = placesIn(channelsOf(member, shot.rigs));
    channelAt.push(places);
    valueCount += places.size;
  });
  const slots = { slotOf, parent, base, byOrientation, turnAxes, channelAt, valueCount };
  return {
    ids: members.map((m) => m.id),
    ...slots,
    ...arrange(members, slots, travelsOf(shot), shot.rigs),
    ...deformersOf(members),
  };
}

const known = new WeakMap<readonly Channel[], ReadonlyMap<string, number>>();

/** The places of channels in their block. Members with the same channels share them. */
function placesIn(channels: readonly Channel[]): ReadonlyMap<string, number> {
  const places = known.get(channels) ?? new Map(channels.map((c, i) => [c.id, i]));
  known.set(channels, places);
  return places;
}

function deformersOf(members: readonly Member[]): Pick<Layout, 'deformers' | 'deformersFrom'> {
  const deformers: { slot: number; deformer: MemberDeformer }[] = [];
  const deformersFrom = new Int32Array(members.length + 1);
  members.forEach((member, slot) => {
    for (const deformer of member.deformers) deformers.push({ slot, deformer });
    deformersFrom[slot + 1] = deformers.length;
  });
  return { deformers, deformersFrom };
}

/**
 * The layout for the next version of a shot: the same where nothing of it is touched. Where only who carries whom over time, who travels
 * or how something is bent has changed, values keep their places (`base` is the same object) and curves stay where they are.
 */
export function nextLayout(layout: Layout, old: Shot, next: Shot): Layout {
  let places = old.rigs === next.rigs || layout.rigs.every((rig) => sameRig(layout, rig, next));
  let [holds, bends] = [sameTravels(old, next), true];
  old.members.changesTo(next.members, (_, a, b) => {
    if (!a || !b || !samePlaces(a, b)) places = false;
    else {
      holds &&= a.holds === b.holds;
      bends &&= a.deformers === b.deformers && (a.deformers.length === 0 || a.shape === b.shape);
    }
  });
  if (!places) return makeLayout(next);
  if (holds && bends) return layout;
  const members = layout.ids.map((id) => next.members.at(id));
  return {
    ...layout,
    ...(holds ? {} : arrange(members, layout, travelsOf(next), next.rigs)),
    ...(bends ? {} : deformersOf(members)),
  };
}

function sameRig(layout: Layout, rig: PlacedRig, next: Shot): boolean {
  const member = next.members.get(layout.ids[rig.slot]);
  return member?.kind === 'rig' && next.rigs.find(member.shape) === rig.compiled;
}

/** The clips at work that take their rigs over the stage. */
const travellingClips = (shot: Shot): Clip[] => shot.clips.values().filter((c) => c.kept === null && c.travelling);

/** The rigs that their tracks take along. */
const takenAlong = (shot: Shot): Set<string> =>
  new Set([...riggedByTracks(shot)].filter((rig) => givenBy(shot, rig)?.travels));

const travelsOf = (shot: Shot): Travels => ({ clips: travellingClips(shot), onTracks: takenAlong(shot) });

/** Whether the same rigs travel, and in the same way. How far tracks take a rig is told to the step that takes it along. */
function sameTravels(old: Shot, next: Shot): boolean {
  if (old.clips === next.clips && old.tracks === next.tracks) return true;
  if (old.tracks.size + next.tracks.size > 0) {
    const [a, b] = [takenAlong(old), takenAlong(next)];
    if (a.size !== b.size || [...a].some((rig) => !b.has(rig))) return false;
  }
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

/** Whether two versions of a member have their values, and what is worked out from them, in the same places. */
const samePlaces = (a: Member, b: Member) =>
  a.parent === b.parent &&
  a.kind === b.kind &&
  a.rotation === b.rotation &&
  a.order === b.order &&
  (a.material === undefined) === (b.material === undefined) &&
  a.custom === b.custom &&
  sameDeformers(a.deformers, b.deformers) &&
  ((a.kind !== 'rig' && a.kind !== 'control') || a.shape === b.shape) &&
  a.rank === b.rank;

/** Whether two stacks have the same channels: their settings may differ. */
const sameDeformers = (a: Member['deformers'], b: Member['deformers']) =>
  a === b || (a.length === b.length && a.every((d, i) => d.id === b[i].id && d.kind === b[i].kind));

/** Writes a member's constant values into its block of `values` and its orientation into `orientations`. */
export function writeConstants(
  layout: Layout,
  member: Member,
  rigs: Rigs,
  values: Float64Array,
  orientations: Float64Array,
): void {
  const slot = layout.slotOf.get(member.id)!;
  channelsOf(member, rigs).forEach((channel, i) => {
    values[layout.base[slot] + i] = constantValue(member, channel);
  });
  writeUnit(member.orientation, orientations, slot * 4);
}

export function writeUnit(q: Quaternion, out: Float64Array, at: number): void {
  const length = Math.hypot(...q);
  for (let c = 0; c < 4; c++) out[at + c] = q[c] / length;
}
