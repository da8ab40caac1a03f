import { type Note, type Shot, strokesOn, unpackPoints } from '@varrup/core';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { tints } from '../drawing/raster.ts';
import { useStrokes } from '../drawing/use-strokes.ts';
import { Tools } from './NotesOverStage.tsx';
import { stateLook, useNotes } from './notes.ts';

type Point = readonly [x: number, y: number];

interface DrawnOverProps {
  readonly shot: Shot;
  readonly note: Note;
  readonly number: number;
  /** Where a point of the drawing is, in pixels of what it lies over, and back. */
  readonly seen: (point: Point) => Point;
  readonly meant: (pixel: Point) => Point;
  /** What it lies over, in words and for tests. */
  readonly on: 'curve' | 'sheet';
  /** The lowest of it that may be drawn over, in pixels from above. */
  readonly below?: number;
}

/** What was drawn for a note over something that is looked at in many ways: it is drawn where it belongs, however that is. With the note’s sign. */
export function DrawnOver({ shot, note, number, seen, meant, on, below = 0 }: DrawnOverProps) {
  const picked = useNotes((n) => n.picked === note.id);
  const drawing = useNotes((n) => n.drawing && n.picked === note.id);
  const canvas = useRef<HTMLCanvasElement>(null);
  const fresh = useRef<Parameters<NonNullable<Parameters<typeof useStrokes>[0]>['live']>[0]>(null);
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
      for (let i = 0; i < points.length; i += 3) {
        const [x, y] = seen([points[i], points[i + 1]]);
        context[i === 0 ? 'moveTo' : 'lineTo'](x, y - below);
      }
      context.stroke();
    }
  };
  // However it is looked at, it is drawn where it belongs.
  useEffect(draw);
  const paper = {
    on: note.id,
    sheet: 0,
    at: (clientX: number, clientY: number, box: DOMRect) => meant([clientX - box.left, clientY - box.top + below]),
    live(stroke: typeof fresh.current) {
      fresh.current = stroke;
      draw();
    },
  };
  const { hands } = useStrokes(drawing ? paper : null);
  const [left, top] = seen([0, 0]);
  return (
    <div className="absolute inset-x-0 bottom-0 overflow-hidden" style={{ top: below }}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Drawn on the ${on} for the note: ${note.text || 'no words'}`}
        data-testid={`${on}-drawing`}
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
        style={{ left, top: Math.max(24, top - below) }}
      >
        {number}
      </button>
      {drawing ? <ToolsBeyond /> : null}
    </div>
  );
}

/** Lower than this the stage has no room for the tools. Pixels. */
const ROOM = 120;

/** The tools over the lower edge of the stage: what lies below it is low, and they would cover what is drawn on. */
function ToolsBeyond() {
  const [box, setBox] = useState<DOMRect | null>(null);
  useLayoutEffect(() => {
    const measure = () => setBox(document.querySelector('[data-place="stage"]')?.getBoundingClientRect() ?? null);
    measure();
    addEventListener('resize', measure);
    return () => removeEventListener('resize', measure);
  }, []);
  if (!box || box.height < ROOM) return <Tools low />;
  const { left, width, bottom } = box;
  return (
    <div className="pointer-events-none fixed z-20" style={{ left, width, top: bottom - 46, height: 44 }}>
      <Tools low />
    </div>
  );
}
