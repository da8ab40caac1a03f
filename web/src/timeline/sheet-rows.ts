import {
  type Channel,
  type Curve,
  CurveReader,
  castOrder,
  channelPath,
  isUntouched,
  type Key,
  keyIndexAt,
  type Member,
  type Shot,
  shownChannels,
  spacing,
  splitPath,
} from '@varrup/core';
import type { RowFilter } from '../view/timing.ts';

/** A row of the sheet: a member with all its keys, or one of its channels. */
export interface SheetRow {
  readonly id: string;
  readonly member: string;
  /** The channel's path; null for a member's own row. */
  readonly path: string | null;
  readonly label: string;
  readonly folded: boolean;
  /** The channels whose keys the row shows. */
  readonly paths: readonly string[];
}

/** What the sheet shows, besides the shot. */
export interface RowChoice {
  readonly selection: readonly string[];
  readonly folded: readonly string[];
  readonly find: string;
  readonly filter: RowFilter;
  /** The frame that "keyed here" means. */
  readonly frame: number;
}

/** What is remembered of a member whose channels are not as they first are: other members start unfolded, controls folded. */
export const foldMark = (member: Member): string => (member.kind === 'control' ? `+${member.id}` : member.id);

const isFolded = (member: Member, marks: ReadonlySet<string>): boolean =>
  marks.has(foldMark(member)) !== (member.kind === 'control');

/** The marks that fold everything, or unfold it. */
export const allFolded = (shot: Shot, yes: boolean): string[] =>
  shot.members
    .values()
    .filter((m) => (m.kind === 'control') !== yes)
    .map(foldMark);

/** The keyed channels of each rig's controls. */
function rigPaths(shot: Shot): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const path of shot.curves.keys()) {
    const member = shot.members.get(splitPath(path).member);
    if (member?.kind === 'control' && member.parent) out.set(member.parent, [...(out.get(member.parent) ?? []), path]);
  }
  return out;
}

/** Members that have keys, and those picked, each with its animated channels underneath unless folded. */
export function sheetRows(shot: Shot, choice: RowChoice): SheetRow[] {
  const rows: SheetRow[] = [];
  const picked = new Set(choice.selection);
  const folded = new Set(choice.folded);
  const wanted = choice.find.trim().toLowerCase();
  const ofRigs = rigPaths(shot);
  const closed = new Set<string>();
  for (const { member } of castOrder(shot)) {
    const isPicked = picked.has(member.id);
    if (member.parent !== null && closed.has(member.parent)) continue;
    const body = ofRigs.get(member.id) ?? [];
    if (choice.filter === 'picked' && !isPicked) continue;
    const animated = shownChannels(member, shot.rigs).filter((c) => shot.curves.has(channelPath(member.id, c.id)));
    if (animated.length === 0 && body.length === 0 && !isPicked) continue;
    const named = member.name.toLowerCase().includes(wanted);
    const channels = animated.filter(
      (c) =>
        (wanted === '' || named || channelLabel(c).toLowerCase().includes(wanted)) &&
        (choice.filter !== 'here' || keyIndexAt(shot.curves.at(channelPath(member.id, c.id)).keys, choice.frame) >= 0),
    );
    const carries = body.length > 0 && choice.filter !== 'here' && wanted === '';
    if (channels.length === 0 && !carries && (choice.filter === 'here' || !named)) continue;
    const paths = channels.map((c) => channelPath(member.id, c.id));
    // What was searched for is shown, folded or not.
    const shut = isFolded(member, folded) && (wanted === '' || named);
    const label = member.name;
    rows.push({ id: member.id, member: member.id, path: null, label, folded: shut, paths: [...paths, ...body] });
    if (shut && body.length > 0) closed.add(member.id);
    if (shut) continue;
    channels.forEach((channel, i) => {
      const path = paths[i];
      rows.push({ id: path, member: member.id, path, label: channelLabel(channel), folded: false, paths: [path] });
    });
  }
  return rows;
}

const channelLabel = (channel: Channel) => `${channel.group} ${channel.label}`.trim();

/** A key as a row shows it: on a frame, from one or more channels. */
export interface RowKey {
  readonly frame: number;
  readonly paths: readonly string[];
  readonly breakdown: boolean;
  /** Written by a recipe, and as it wrote it. */
  readonly untouched: boolean;
}

const keyCache = new WeakMap<Curve, { path: string; recipes: Shot['recipes']; keys: RowKey[] }>();

/** The keys of rows of several channels, remembered with the first of their curves for as long as all of them are the same. */
const mergedCache = new WeakMap<
  Curve,
  {
    all: Shot['curves'];
    paths: readonly string[];
    curves: readonly (Curve | undefined)[];
    recipes: Shot['recipes'];
    keys: RowKey[];
  }
>();

/** The keys of a row, in order; remembered with its curves. */
export function rowKeys(shot: Shot, row: SheetRow): RowKey[] {
  const { paths } = row;
  if (paths.length === 1) return channelKeys(shot, paths[0]);
  const first = shot.curves.get(paths[0] ?? '');
  const cached = first && mergedCache.get(first);
  if (cached?.all === shot.curves && cached.recipes === shot.recipes && cached.paths === paths) return cached.keys;
  if (
    cached?.recipes === shot.recipes &&
    cached.paths.length === paths.length &&
    paths.every((path, i) => cached.paths[i] === path && cached.curves[i] === shot.curves.get(path))
  )
    return cached.keys;
  const keys = mergedKeys(shot, row);
  if (first)
    mergedCache.set(first, {
      all: shot.curves,
      paths,
      curves: paths.map((p) => shot.curves.get(p)),
      recipes: shot.recipes,
      keys,
    });
  return keys;
}

function mergedKeys(shot: Shot, row: SheetRow): RowKey[] {
  const byFrame = new Map<number, RowKey[]>();
  for (const path of row.paths) {
    for (const key of channelKeys(shot, path)) {
      const there = byFrame.get(key.frame);
      if (there) there.push(key);
      else byFrame.set(key.frame, [key]);
    }
  }
  return [...byFrame]
    .sort(([a], [b]) => a - b)
    .map(([frame, keys]) => ({
      frame,
      paths: keys.flatMap((k) => k.paths),
      breakdown: keys.every((k) => k.breakdown),
      untouched: keys.every((k) => k.untouched),
    }));
}

function channelKeys(shot: Shot, path: string): RowKey[] {
  const curve = shot.curves.get(path);
  if (!curve) return [];
  const cached = keyCache.get(curve);
  if (cached?.path === path && cached.recipes === shot.recipes) return cached.keys;
  const keys = curve.keys.map(
    (key): RowKey => ({
      frame: key.frame,
      paths: [path],
      breakdown: key.role === 'breakdown',
      untouched: typeof key.value === 'number' && isUntouched(shot.recipes, path, key as Key),
    }),
  );
  keyCache.set(curve, { path, recipes: shot.recipes, keys });
  return keys;
}

interface Profile {
  readonly first: number;
  readonly speeds: Float64Array;
  readonly most: number;
}
const profiles = new WeakMap<Curve, Profile>();

/** How fast a channel moves from each frame of the range to the next; remembered with its curve. */
export function profileOf(shot: Shot, path: string): Profile | null {
  const curve = shot.curves.get(path);
  if (curve?.type !== 'number') return null;
  const { first, last } = shot.range;
  const cached = profiles.get(curve);
  if (cached?.first === first && cached.speeds.length === last - first) return cached;
  const speeds = new Float64Array(Math.max(0, last - first));
  const most = spacing(new CurveReader(curve), first, speeds);
  const profile = { first, speeds, most };
  profiles.set(curve, profile);
  return profile;
}

/** Half the thickness of a row's ribbon at a frame, in pixels: as the fastest of its channels moves. */
export function ribbonHalf(shot: Shot, row: SheetRow, frame: number): number {
  let share = 0;
  for (const path of row.paths) {
    const p = profileOf(shot, path);
    if (p && p.most > 1e-9) share = Math.max(share, (p.speeds[Math.floor(frame) - p.first] ?? 0) / p.most);
  }
  return share > 0 ? thickness(share) : 0;
}

/** Half the thickness of a ribbon for a share of its fastest, in pixels. */
export const thickness = (share: number): number => 0.75 + Math.sqrt(share) * 6.5;
