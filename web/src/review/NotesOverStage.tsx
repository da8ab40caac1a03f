import { type Note, type Shot, strokesOn } from '@varrup/core';
import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { DrawingTools } from '../drawing/DrawingTools.tsx';
import { DrawingRaster } from '../drawing/raster.ts';
import { useStrokes } from '../drawing/use-strokes.ts';
import { useShot } from '../shot/shot-store.ts';
import { pinPlace } from '../stage/pins.ts';
import { Button } from '../ui/Button.tsx';
import { useSize } from '../ui/use-size.ts';
import { live } from '../view/live.ts';
import { useLooking } from '../view/looking.ts';
import { usePlayhead } from '../view/playhead.ts';
import { stageRef } from '../view/stage-ref.ts';
import { stateLook, useNotes } from './notes.ts';
import { notesOf } from './notes-of.ts';
import { sameLook } from './same-look.ts';

/** Pixels a drawing on the stage is kept with. */
const WIDTH = 1_280;
const ASPECT = 16 / 9;

type StageNote = Note & { readonly on: Extract<Note['on'], { is: 'stage' }> };

/** The picture that drawings on the stage are measured by: what a camera films; in a free view it is as high as the stage. */
function pictureIn(width: number, height: number, filming: boolean): { left: number; top: number; wide: number } {
  const wide = filming ? Math.min(width, height * ASPECT) : height * ASPECT;
  return { left: (width - wide) / 2, top: (height - wide / ASPECT) / 2, wide };
}

/** What was drawn and said on the stage, over it: each note on its frames, where what it is pinned to is. */
export function NotesOverStage() {
  const shot = useShot((s) => s.shot);
  const notes = useMemo(() => (shot ? notesOf(shot).filter((n): n is StageNote => n.on.is === 'stage') : []), [shot]);
  return shot && notes.length > 0 ? <Over shot={shot} notes={notes} /> : null;
}

function Over({ shot, notes }: { shot: Shot; notes: readonly StageNote[] }) {
  const settled = usePlayhead((p) => p.settled);
  const playing = usePlayhead((p) => p.playing);
  const filming = useLooking((l) => l.looking === 'camera' && !l.four);
  const box = useRef<HTMLDivElement>(null);
  const size = useSize(box);
  const [, draw] = useReducer((n: number) => n + 1, 0);
  // Wherever the stage is looked at from, what is pinned goes along.
  useEffect(() => stageRef.current?.afterDrawing(draw), []);
  const frame = playing ? usePlayhead.getState().frame : settled;
  const here = notes.filter((n) => frame >= n.first && frame <= n.last);
  return (
    <div ref={box} className="pointer-events-none absolute inset-0 z-10 overflow-hidden">
      {size
        ? here.map((note) => (
            <OnStage
              key={note.id}
              shot={shot}
              note={note}
              number={notes.indexOf(note) + 1}
              width={size.width}
              height={size.height}
              filming={filming}
            />
          ))
        : null}
    </div>
  );
}

interface OnStageProps {
  readonly shot: Shot;
  readonly note: StageNote;
  readonly number: number;
  readonly width: number;
  readonly height: number;
  readonly filming: boolean;
}

function OnStage({ shot, note, number, width, height, filming }: OnStageProps) {
  const picked = useNotes((n) => n.picked === note.id);
  const drawing = useNotes((n) => n.drawing && n.picked === note.id);
  const picture = pictureIn(width, height, filming);
  const view = stageRef.current?.view;
  const { on } = note;
  // What was drawn fits only the look it was drawn over.
  const fits = view !== undefined && sameLook(view, on.view);
  const now = live.now;
  const pin = on.pin && now ? seenAt(now, on.pin) : null;
  // It goes where what it is pinned to has gone since its first frame.
  const then = on.pin && fits && !drawing ? seenAt(live.sample(note.first), on.pin) : null;
  const shift: readonly [number, number] = pin && then ? [pin[0] - then[0], pin[1] - then[1]] : [0, 0];
  const strokes = strokesOn(shot.strokes, note.id);
  return (
    <>
      {fits && (strokes.length > 0 || drawing) ? (
        <Drawn note={note} shot={shot} picture={picture} shift={shift} drawing={drawing} />
      ) : null}
      <button
        type="button"
        aria-label={`Note ${number}: ${note.text || 'drawn'}`}
        title={note.text || 'a drawing'}
        aria-pressed={picked}
        onClick={() => useNotes.setState({ picked: note.id })}
        className={`pointer-events-auto absolute grid size-6 -translate-x-1/2 -translate-y-full place-items-center rounded-full rounded-bl-none border-2 text-xs font-semibold shadow ${stateLook[note.state]} ${picked ? 'ring-2 ring-blue' : ''}`}
        style={
          pin
            ? { left: pin[0], top: pin[1] }
            : { left: picture.left + 28 + (number % 8) * 30, top: Math.max(34, picture.top + 34) }
        }
      >
        {number}
      </button>
    </>
  );
}

function seenAt(frame: ReturnType<typeof live.sample>, pin: NonNullable<StageNote['on']['pin']>) {
  const place = frame && pinPlace(frame, pin);
  return place ? (stageRef.current?.seen(place) ?? null) : null;
}

function Drawn({
  shot,
  note,
  picture,
  shift,
  drawing,
}: {
  shot: Shot;
  note: StageNote;
  picture: { left: number; top: number; wide: number };
  shift: readonly [number, number];
  drawing: boolean;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [raster] = useState(() => new DrawingRaster(WIDTH, WIDTH / ASPECT));
  const draw = useRef(() => {});
  draw.current = () => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, WIDTH, WIDTH / ASPECT);
    raster.onto(context);
  };
  useEffect(() => {
    raster.draw(strokesOn(shot.strokes, note.id));
    draw.current();
  }, [raster, shot.strokes, note.id]);
  const paper = useMemo(
    () => ({
      on: note.id,
      sheet: 0,
      live(stroke: Parameters<DrawingRaster['live']>[0]) {
        raster.live(stroke, 0);
        draw.current();
      },
    }),
    [note.id, raster],
  );
  const { hands } = useStrokes(drawing ? paper : null);
  return (
    <>
      <canvas
        ref={canvas}
        width={WIDTH}
        height={WIDTH / ASPECT}
        // It is drawn on by keys as well, while one draws.
        tabIndex={drawing ? 0 : -1}
        role="img"
        aria-label={`Drawn for the note: ${note.text || 'no words'}`}
        data-testid="note-drawing"
        className={`absolute max-w-none touch-none ${drawing ? 'pointer-events-auto cursor-crosshair' : ''}`}
        style={{
          left: picture.left + shift[0],
          top: picture.top + shift[1],
          width: picture.wide,
          height: picture.wide / ASPECT,
        }}
        {...(drawing ? hands : {})}
      />
      {drawing ? <Tools /> : null}
    </>
  );
}

/** What one draws with, over the stage, while one draws for a note. @param low whether there is little height: only tools and tints then */
export function Tools({ low = false }: { low?: boolean }) {
  return (
    <div
      className={`pointer-events-auto absolute top-1.5 left-1/2 flex max-w-[96%] -translate-x-1/2 items-center gap-2 rounded-full border border-rule bg-card px-3 py-0.5 shadow-md ${low ? '' : 'flex-wrap'}`}
    >
      <DrawingTools low={low} />
      <Button look="solid" className="h-7!" onClick={() => useNotes.setState({ drawing: false })}>
        pencil down
      </Button>
    </div>
  );
}
