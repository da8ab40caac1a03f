import type { Stroke } from '../document/stroke.ts';
import type { Table } from '../table/table.ts';

type Lists = ReadonlyMap<string, readonly Stroke[]>;

const known = new WeakMap<Table<Stroke>, Lists>();
/** The lines that were asked about last: those of now differ from them by few. */
let latest: WeakRef<Table<Stroke>> | null = null;
const NOTHING: readonly Stroke[] = [];

/** The lines that were drawn on something, in the order in which they were. The same list as long as nobody draws on it. */
export function strokesOn(strokes: Table<Stroke>, on: string): readonly Stroke[] {
  const all = known.get(strokes) ?? listed(strokes);
  return all.get(on) ?? NOTHING;
}

function listed(strokes: Table<Stroke>): Lists {
  const before = latest?.deref();
  const lists = before && known.get(before);
  const made = before && lists ? relisted(before, lists, strokes) : grouped(strokes.values());
  known.set(strokes, made);
  latest = new WeakRef(strokes);
  return made;
}

/** The lists as they were, but for those on which somebody has drawn since. */
function relisted(before: Table<Stroke>, lists: Lists, strokes: Table<Stroke>): Lists {
  const came: Stroke[] = [];
  const changed = new Set<string>();
  before.changesTo(strokes, (_, was, is) => {
    if (was) changed.add(was.on);
    if (!is) return;
    changed.add(is.on);
    came.push(is);
  });
  const fresh = grouped(came);
  const all = new Map(lists);
  for (const on of changed) {
    const stayed = (lists.get(on) ?? NOTHING).filter((stroke) => strokes.get(stroke.id) === stroke);
    const list = [...stayed, ...(fresh.get(on) ?? NOTHING)].sort(inOrder);
    if (list.length > 0) all.set(on, list);
    else all.delete(on);
  }
  return all;
}

function grouped(strokes: readonly Stroke[]): Lists {
  const all = new Map<string, Stroke[]>();
  for (const stroke of [...strokes].sort(inOrder)) {
    const list = all.get(stroke.on);
    if (list) list.push(stroke);
    else all.set(stroke.on, [stroke]);
  }
  return all;
}

const inOrder = (a: Stroke, b: Stroke): number => a.place - b.place || (a.id < b.id ? -1 : 1);

/** A place for a line over all that are there. */
export const placeOnTop = (strokes: readonly Stroke[]): number => (strokes.at(-1)?.place ?? 0) + 1;
