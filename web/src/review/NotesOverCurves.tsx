import { type Note, type Shot, strokesOn, unpackPoints } from '@varrup/core';
import { useEffect, useMemo, useRef } from 'react';
import { tints } from '../drawing/raster.ts';
import { useStrokes } from '../drawing/use-strokes.ts';
import type { ShownCurve } from '../timeline/shown-curves.ts';
import { Tools } from './NotesOverStage.tsx';
import { stateLook, useNotes } from './notes.ts';
import { notesOf } from './notes-of.ts';

type CurveNote = Note & { readonly on: Extract<Note['on'], { is: 'curve' }> };

/** Frames that a drawing on a curve counts as one. */
const FRAMES = 100;

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
  x: ((frame: number) => number) & { invert(pixel: number): number };
  y: ((value: number) => number) & { invert(pixel: number): number };
}) {
  const notes = useMemo(() => notesOf(shot), [shot]);
  const picked = useNotes((n) => n.picked);
  const drawing = useNotes((n) => n.drawing);
  const shown = notes.filter(
    (n): n is CurveNote => n.on.is === 'curve' && curves.some((c) => n.on.is === 'curve' && c.path === n.on.path),
  );
  if (shown.length === 0) return null;
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {shown.map((note) => (
        <OnCurve
          key={note.id}
          shot={shot}
          note={note}
          curve={curves.find((c) => c.path === note.on.path)!}
          number={notes.indexOf(note) + 1}
          picked={picked === note.id}
          drawing={drawing && picked === note.id}
          x={x}
          y={y}
        />
      ))}
    </div>
  );
}

function OnCurve({
  shot,
  note,
  curve,
  number,
  picked,
  drawing,
  x,
  y,
}: {
  shot: Shot;
  note: CurveNote;
  curve: ShownCurve;
  number: number;
  picked: boolean;
  drawing: boolean;
} & Pick<Parameters<typeof NotesOverCurves>[0], 'x' | 'y'>) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const fresh = useRef<Parameters<NonNullable<Parameters<typeof useStrokes>[0]>['live']>[0]>(null);
  const { first, on } = note;
  const shownOf = (value: number) => y(value * curve.scale + curve.shift);
  const draw = () => {
    const element = canvas.current;
    if (!element) return;
    const { clientWidth, clientHeight } = element;
    element.width = clientWidth * devicePixelRatio;
    element.height = clientHeight * devicePixelRatio;
    const context = element.getContext('2d')!;
    context.scale(devicePixelRatio, devicePixelRatio);
    context.lineCap = 'round';
    context.lineJoin = 'round';
    const strokes = strokesOn(shot.strokes, note.id);
    for (const stroke of fresh.current ? [...strokes, fresh.current] : strokes) {
      const points = unpackPoints(stroke.points);
      context.strokeStyle = tints[stroke.tint];
      context.globalCompositeOperation = stroke.tool === 'rubber' ? 'destination-out' : 'source-over';
      context.globalAlpha = stroke.tool === 'tone' ? 0.25 : 1;
      context.lineWidth = stroke.tool === 'pencil' ? 1.5 + stroke.wide * 200 : 12;
      context.beginPath();
      for (let i = 0; i < points.length; i += 3)
        context[i === 0 ? 'moveTo' : 'lineTo'](
          x(first + points[i] * FRAMES),
          shownOf(on.value - points[i + 1] * on.per),
        );
      context.stroke();
    }
  };
  // However it is looked at, it is drawn where it belongs.
  useEffect(draw);
  const paper = {
    on: note.id,
    sheet: 0,
    at: (clientX: number, clientY: number, box: DOMRect): readonly [number, number] => {
      const value = (y.invert(clientY - box.top) - curve.shift) / curve.scale;
      return [(x.invert(clientX - box.left) - first) / FRAMES, (on.value - value) / on.per];
    },
    live(stroke: typeof fresh.current) {
      fresh.current = stroke;
      draw();
    },
  };
  const { hands } = useStrokes(drawing ? paper : null);
  return (
    <>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Drawn on the curve for the note: ${note.text || 'no words'}`}
        data-testid="curve-drawing"
        tabIndex={drawing ? 0 : -1}
        className={`absolute inset-0 size-full touch-none ${drawing ? 'pointer-events-auto cursor-crosshair' : ''}`}
        {...(drawing ? hands : {})}
      />
      <button
        type="button"
        aria-label={`Note ${number}: ${note.text || 'drawn'}`}
        title={note.text || 'a drawing'}
        aria-pressed={picked}
        onClick={() => useNotes.setState({ picked: note.id })}
        className={`pointer-events-auto absolute grid size-6 -translate-x-1/2 -translate-y-full place-items-center rounded-full rounded-bl-none border-2 text-xs font-semibold shadow ${stateLook[note.state]} ${picked ? 'ring-2 ring-blue' : ''}`}
        style={{ left: x(first), top: shownOf(on.value) }}
      >
        {number}
      </button>
      {drawing ? <Tools low /> : null}
    </>
  );
}
