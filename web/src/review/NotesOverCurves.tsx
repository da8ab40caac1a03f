import type { Shot } from '@varrup/core';
import { useMemo } from 'react';
import type { ShownCurve } from '../timeline/shown-curves.ts';
import { DrawnOver } from './DrawnOver.tsx';
import { notesOf } from './notes-of.ts';

/** Frames that a drawing on a curve counts as one. */
const FRAMES = 100;

type Scale = ((value: number) => number) & { invert(pixel: number): number };

/** What was drawn and said on curves, over them: it stays on its frames and values however they are looked at. */
export function NotesOverCurves({
  shot,
  curves,
  x,
  y,
}: {
  shot: Shot;
  curves: readonly ShownCurve[];
  /** Where frames and shown values are, in pixels, and back. */
  x: Scale;
  y: Scale;
}) {
  const notes = useMemo(() => notesOf(shot), [shot]);
  const shown = notes.flatMap((note, i) => {
    const { on } = note;
    const curve = on.is === 'curve' ? curves.find((c) => c.path === on.path) : undefined;
    return on.is === 'curve' && curve ? [{ note, number: i + 1, on, curve }] : [];
  });
  if (shown.length === 0) return null;
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {shown.map(({ note, number, on, curve }) => (
        <DrawnOver
          key={note.id}
          shot={shot}
          note={note}
          number={number}
          on="curve"
          seen={([frames, down]) => [
            x(note.first + frames * FRAMES),
            y((on.value - down * on.per) * curve.scale + curve.shift),
          ]}
          meant={([left, top]) => [
            (x.invert(left) - note.first) / FRAMES,
            (on.value - (y.invert(top) - curve.shift) / curve.scale) / on.per,
          ]}
        />
      ))}
    </div>
  );
}
