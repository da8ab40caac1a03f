import { deformers } from '../deform/kinds.ts';
import { isOpen } from '../rig/compiled.ts';
import type { RigControl } from '../rig/definition.ts';
import type { RigLink, Rigs } from '../rig/rigs.ts';
import type { Channel, ChannelValue } from '../schema/channel.ts';
import { colourNumbers } from '../schema/numbers.ts';
import { deformChannel } from './deformer.ts';
import { kinds } from './kinds/index.ts';
import { surfaceChannels } from './material.ts';
import type { Member } from './member.ts';

export type { Channel, ChannelValue };

const xyz = (group: string, unit: Channel['unit'], initial: number, everyday: boolean): Channel[] =>
  ['x', 'y', 'z'].map((label) => ({ id: `${group}.${label}`, group, label, unit, initial, everyday }));

/** The channels every member has, in the order their values stand in a frame. */
export const standardChannels: readonly Channel[] = [
  ...xyz('move', 'm', 0, true),
  ...xyz('turn', '°', 0, true),
  ...xyz('size', '', 1, true),
  ...xyz('pivot', 'm', 0, false),
  { id: 'visible', group: 'visible', label: '', unit: '', initial: 1, min: 0, max: 1, everyday: false },
  ...['r', 'g', 'b'].map((label) => ({
    id: `colour.${label}`,
    group: 'colour',
    label,
    unit: '' as const,
    initial: 1,
    min: 0,
    max: 1,
    everyday: false,
  })),
];

/** How far anything goes: metres, ten thousand; angles, a thousand turns; plain numbers, ten thousand. */
const REACH = { m: 10_000, '°': 2000 * Math.PI, '': 10_000 } as const;

/** From where to where a channel's value may be set, in metres, radians or its own measure. */
export const rangeOf = ({ min, max, unit }: Pick<Channel, 'min' | 'max' | 'unit'>): { min: number; max: number } => ({
  min: min ?? -REACH[unit],
  max: max ?? REACH[unit],
});

/** Where a standard channel's value stands in a member's block of values. */
export const channelOffset = { move: 0, turn: 3, size: 6, pivot: 9, visible: 12, colour: 13 } as const;

/** The one channel that is not a number but a quaternion. */
export const ORIENTATION = 'orientation';

/** Channels by what decides them. Members of a kind without anything of their own all have the same. */
const ofKinds = new Map<string, readonly Channel[]>();
const ofControls = new WeakMap<RigControl, readonly Channel[]>();
/** By the member's own channels and then by its deformers: lists that stay the same object while nobody changes them. */
const ofLists = new WeakMap<Member['custom'], WeakMap<Member['deformers'], Map<string, readonly Channel[]>>>();

/** A member's number channels in the order of its block of values: the standard ones, its kind's, its surface's, its own, its deformers'. */
export function channelsOf(member: Member, rigs: Rigs): readonly Channel[] {
  if (member.kind === 'control') return controlChannels(member.shape, rigs);
  const kind = member.material ? `${member.kind} with a material` : member.kind;
  const known = member.custom.length === 0 && member.deformers.length === 0 ? ofKinds : byLists(member);
  const made = known.get(kind) ?? memberChannels(member);
  known.set(kind, made);
  return made;
}

function byLists({ custom, deformers: bends }: Member): Map<string, readonly Channel[]> {
  const lists = ofLists.get(custom) ?? new WeakMap<Member['deformers'], Map<string, readonly Channel[]>>();
  ofLists.set(custom, lists);
  const known = lists.get(bends) ?? new Map<string, readonly Channel[]>();
  lists.set(bends, known);
  return known;
}

function memberChannels(member: Member): readonly Channel[] {
  const own = kinds[member.kind].channels.map((c) => ({ ...c, group: c.label, label: '', everyday: true }));
  const custom = member.custom.map((c) => ({
    id: `custom.${c.id}`,
    group: c.name,
    label: '',
    unit: '' as const,
    initial: c.initial,
    everyday: true,
  }));
  const bent = member.deformers.flatMap((d) =>
    deformers[d.kind].channels.map((c) => ({
      ...c,
      id: deformChannel(d.id, c.id),
      group: d.name,
      label: c.label,
      everyday: false,
    })),
  );
  const surface = member.material
    ? surfaceChannels.map((c) => ({ ...c, group: c.label, label: '', unit: '' as const, everyday: false }))
    : [];
  const colour = colourChannels(kinds[member.kind].colour);
  const standard = standardChannels.map((c) => (c.group === 'colour' ? { ...c, initial: colour[c.id] } : c));
  return [...standard, ...own, ...surface, ...custom, ...bent];
}

/** A control's channels: the standard ones with those its rig locks closed, and its dials. */
function controlChannels(link: RigLink & { readonly control: string }, rigs: Rigs): readonly Channel[] {
  const control = rigs.control(link);
  if (!control) return standardChannels;
  const known = ofControls.get(control);
  if (known) return known;
  const made = [
    ...standardChannels.map((c) => ({ ...c, ...control.limits[c.id], closed: !isOpen(control, c.id) })),
    ...rigs.at(link).dials.get(control.id)!,
  ];
  ofControls.set(control, made);
  return made;
}

/** The channels an animator sees, in the two ways a member can turn, and each by its id. */
interface Shown {
  readonly channels: readonly Channel[];
  readonly byId: ReadonlyMap<string, Channel>;
}
const shown = new WeakMap<readonly Channel[], { readonly [way in Member['rotation']]: Shown }>();

const orientationChannel: Channel = {
  id: ORIENTATION,
  group: 'orientation',
  label: '',
  unit: '°',
  initial: 0,
  everyday: true,
};

function shownOf(member: Member, rigs: Rigs): Shown {
  const all = channelsOf(member, rigs);
  const known = shown.get(all);
  if (known) return known[member.rotation];
  const open = all.filter((c) => !c.closed);
  const turned = open.flatMap((c) => (c.id === 'turn.x' ? [orientationChannel] : c.group === 'turn' ? [] : [c]));
  const listed = (channels: readonly Channel[]): Shown => ({ channels, byId: new Map(channels.map((c) => [c.id, c])) });
  const made = {
    angles: listed(open),
    orientation: listed(open.some((c) => c.id === 'turn.x') ? turned : open),
  };
  shown.set(all, made);
  return made[member.rotation];
}

/** The channels an animator sees for a member: angles or orientation, never both. */
export const shownChannels = (member: Member, rigs: Rigs): readonly Channel[] => shownOf(member, rigs).channels;

export const findChannel = (member: Member, id: string, rigs: Rigs): Channel | undefined =>
  shownOf(member, rigs).byId.get(id);

/** `#rrggbb` as three numbers from 0 to 1, as the colour channels hold them. */
export function colourChannels(colour: string): Record<string, number> {
  const [r, g, b] = colourNumbers(colour);
  return { 'colour.r': r, 'colour.g': g, 'colour.b': b };
}

/** Three numbers from 0 to 1 as `#rrggbb`; what lies outside is clipped. */
export const colourText = (r: number, g: number, b: number): string =>
  `#${[r, g, b]
    .map((v) =>
      Math.round(255 * Math.min(1, Math.max(0, v)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

/** The path by which the shot knows a channel. */
export const channelPath = (memberId: string, channelId: string): string => `${memberId}.${channelId}`;

/** Takes a path apart again. Ids hold no dot, so the first one divides. */
export function splitPath(path: string): { member: string; channel: string } {
  const dot = path.indexOf('.');
  return { member: path.slice(0, dot), channel: path.slice(dot + 1) };
}

/** What a channel holds while no curve moves it. */
export function constantValue(member: Member, channel: Channel): number {
  return member.values[channel.id] ?? channel.initial;
}
