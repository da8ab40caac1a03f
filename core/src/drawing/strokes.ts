import type { Stroke } from '../document/stroke.ts';
import type { Table } from '../table/table.ts';

const known = new WeakMap<Table<Stroke>, ReadonlyMap<string, readonly Stroke[]>>();
const NOTHING: readonly Stroke[] = [];

/** The lines that were drawn on something, in the order in which they were. The same list as long as nobody draws anywhere. */
export function strokesOn(strokes: Table<Stroke>, on: string): readonly Stroke[] {
  const all = known.get(strokes) ?? grouped(strokes);
  known.set(strokes, all);
  return all.get(on) ?? NOTHING;
}

function grouped(strokes: Table<Stroke>): ReadonlyMap<string, readonly Stroke[]> {
  const all = new Map<string, Stroke[]>();
  for (const stroke of strokes.values().sort((a, b) => a.place - b.place || (a.id < b.id ? -1 : 1))) {
    const list = all.get(stroke.on);
    if (list) list.push(stroke);
    else all.set(stroke.on, [stroke]);
  }
  return all;
}

/** A place for a line over all that are there. */
export const placeOnTop = (strokes: readonly Stroke[]): number => (strokes.at(-1)?.place ?? 0) + 1;
