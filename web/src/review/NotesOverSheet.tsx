import { type Shot, strokesOn } from '@varrup/core';
import { useMemo } from 'react';
import type { SheetRow } from '../timeline/sheet-rows.ts';
import { DrawnOver } from './DrawnOver.tsx';
import { useNotes } from './notes.ts';
import { notesOf } from './notes-of.ts';

/** Frames, and rows, that a drawing on the sheet counts as one. */
const FRAMES = 100;
const ROWS = 10;

/** What was drawn on the sheet, over it: it stays on its frames, and at the rows of whom it is about. */
export function NotesOverSheet({
  shot,
  rows,
  x,
  top,
  row,
  below,
}: {
  shot: Shot;
  rows: readonly SheetRow[];
  x: ((frame: number) => number) & { invert(pixel: number): number };
  /** Where the first row begins, how high each is, and where the ruler ends: pixels. */
  top: number;
  row: number;
  below: number;
}) {
  const notes = useMemo(() => notesOf(shot), [shot]);
  const begun = useNotes((n) => (n.drawing ? n.picked : null));
  const shown = notes.flatMap((note, i) => {
    const { on } = note;
    if (on.is !== 'sheet' || (note.id !== begun && strokesOn(shot.strokes, note.id).length === 0)) return [];
    const at = on.member === null ? 0 : rows.findIndex((r) => r.member === on.member);
    // Whose rows are not there are not drawn on.
    return at < 0 ? [] : [{ note, number: i + 1, first: top + at * row }];
  });
  if (shown.length === 0) return null;
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {shown.map(({ note, number, first }) => (
        <DrawnOver
          key={note.id}
          shot={shot}
          note={note}
          number={number}
          on="sheet"
          below={below}
          seen={([frames, down]) => [x(note.first + frames * FRAMES), first + down * ROWS * row]}
          meant={([left, y]) => [(x.invert(left) - note.first) / FRAMES, (y - first) / (ROWS * row)]}
        />
      ))}
    </div>
  );
}
