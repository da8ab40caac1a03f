import { type Curve, CurveReader, castOrder, channelPath, type Shot, shownChannels, spacing } from '@varrup/core';

/** A row of the sheet: a member with all its keys, or one of its channels. */
export interface SheetRow {
  readonly id: string;
  readonly member: string;
  /** The channel's path; null for a member's own row. */
  readonly path: string | null;
  readonly label: string;
  readonly depth: number;
  readonly folded: boolean;
  /** The channels whose keys the row shows. */
  readonly paths: readonly string[];
}

/** Members that have keys, and those picked, each with its animated channels underneath unless folded. */
export function sheetRows(shot: Shot, selection: readonly string[], folded: readonly string[]): SheetRow[] {
  const rows: SheetRow[] = [];
  for (const { member } of castOrder(shot)) {
    const channels = shownChannels(member).filter((c) => channelPath(member.id, c.id) in shot.curves);
    if (channels.length === 0 && !selection.includes(member.id)) continue;
    const paths = channels.map((c) => channelPath(member.id, c.id));
    const isFolded = folded.includes(member.id);
    rows.push({ id: member.id, member: member.id, path: null, label: member.name, depth: 0, folded: isFolded, paths });
    if (isFolded) continue;
    for (const channel of channels) {
      const path = channelPath(member.id, channel.id);
      const label = `${channel.group} ${channel.label}`.trim();
      rows.push({ id: path, member: member.id, path, label, depth: 1, folded: false, paths: [path] });
    }
  }
  return rows;
}

/** A key as a row shows it: on a frame, from one or more channels. */
export interface RowKey {
  readonly frame: number;
  readonly paths: readonly string[];
  readonly breakdown: boolean;
  /** Whether every channel of the row keeps its value until its next key. */
  readonly held: boolean;
}

const keyCache = new WeakMap<Curve, Map<string, RowKey[]>>();

/** The keys of a row, in order. Those of one channel are remembered with its curve. */
export function rowKeys(shot: Shot, row: SheetRow): RowKey[] {
  if (row.paths.length === 1) return channelKeys(shot, row.paths[0]);
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
      held: keys.length === row.paths.length && keys.every((k) => k.held),
    }));
}

function channelKeys(shot: Shot, path: string): RowKey[] {
  const curve = shot.curves[path];
  if (!curve) return [];
  const cached = keyCache.get(curve)?.get(path);
  if (cached) return cached;
  const keys = curve.keys.map((key, i): RowKey => {
    const next = curve.keys[i + 1];
    const held = next !== undefined && (key.out.kind === 'stepped' || String(next.value) === String(key.value));
    return { frame: key.frame, paths: [path], breakdown: key.role === 'breakdown', held };
  });
  keyCache.set(curve, new Map([[path, keys]]));
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
  const curve = shot.curves[path];
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
