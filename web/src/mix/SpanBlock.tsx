import {
  type ClipSpan,
  type ClipTrack,
  footfallsOf,
  pegsOf,
  putTrack,
  type Shot,
  spanMoved,
  spanSlid,
  spanTrimmed,
} from '@varrup/core';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from 'react';
import { run } from '../commands/now.ts';
import { usePreview } from '../shot/use-preview.ts';
import { usePlayhead } from '../view/playhead.ts';
import { copySpan, openClip, pickSpan, putOnTrack, removeSpan, splitSpan, trackBeside, useMix } from './mix.ts';
import { SpanPoints } from './SpanPoints.tsx';
import type { Across } from './TrackRow.tsx';

/** How near an end must come to something to go there, pixels. */
const NEAR = 7;
/** How wide the ends are by which a span is trimmed, pixels. */
const END = 8;

type Hold = 'move' | 'start' | 'end' | 'slide';

const words: Record<Hold, string> = {
  move: 'move a span',
  start: 'trim a span',
  end: 'trim a span',
  slide: 'slide a span’s clip',
};

/** A span on its track: drawn by its middle or its ends, with Alt its clip slides inside it. */
export function SpanBlock(props: {
  readonly shot: Shot;
  readonly track: ClipTrack;
  readonly span: ClipSpan;
  readonly x: Across;
  /** Up to which frame the span before it lies over it. */
  readonly covered: number;
  /** Whether the one after it lies over its end. */
  readonly under: boolean;
}) {
  const { shot, track, span, x } = props;
  const clip = shot.clips.get(span.clip);
  const picked = useMix((m) => m.span === span.id);
  const preview = usePreview('span');
  const drag = useRef<{ hold: Hold; x: number; track: ClipTrack; marks: readonly number[]; moved: boolean } | null>(
    null,
  );
  const pegs = useMemo(() => pegsOf(shot, track, span.id), [shot, track, span.id]);
  const falls = useMemo(() => Object.entries(footfallsOf(shot, track, span.id)), [shot, track, span.id]);
  const [isHeld, setHeld] = useState(false);
  if (!clip) return null;
  const perFrame = x(1) - x(0);
  const [left, wide] = [x(span.from), span.length * perFrame];
  const about = `${clip.name}, frames ${span.from} to ${span.from + span.length - 1}`;

  const changed = (event: PointerEvent): ClipTrack => {
    const { hold, track: held, marks, x: begun } = drag.current!;
    const own = held.spans.find((s) => s.id === span.id)!;
    const by = (event.clientX - begun) / perFrame;
    const near = (frame: number) => (event.ctrlKey ? frame : nearest(frame, marks, NEAR / perFrame));
    if (hold === 'slide') return spanSlid(held, span.id, -Math.round(by) * own.speed);
    if (hold === 'end') return spanTrimmed(held, span.id, 'end', near(own.from + own.length + by));
    if (hold === 'start') return spanTrimmed(held, span.id, 'start', near(own.from + by));
    const [from, end] = [own.from + by, own.from + by + own.length];
    const start = near(from);
    return spanMoved(held, span.id, start !== from ? start : near(end) - own.length);
  };

  const take = (event: PointerEvent<HTMLElement>, meant: Hold | null) => {
    if (event.button !== 0) return;
    pickSpan(span.id);
    if (track.locked) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const at = event.clientX - event.currentTarget.getBoundingClientRect().left;
    const end = Math.min(END, wide / 3);
    const hold = meant ?? (event.altKey ? 'slide' : at < end ? 'start' : at > wide - end ? 'end' : 'move');
    drag.current = { hold, x: event.clientX, track, marks: marksFor(shot, track, span), moved: false };
  };

  /** Goes to the track above or below, and the focus with it. */
  const moveOver = (by: 1 | -1) => {
    const to = trackBeside(shot, track, by);
    if (!to) return;
    putOnTrack(track, span, to);
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-span="${span.id}"]`)?.focus());
  };

  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const put = (next: ClipTrack, hold: Hold) => run(putTrack, { track: next, does: words[hold] });
    if (event.key === 'Enter') openClip(span);
    else if (track.locked) return;
    else if (by && event.altKey) put(spanSlid(track, span.id, by * span.speed), 'slide');
    else if (by && event.shiftKey) put(spanTrimmed(track, span.id, 'end', span.from + span.length + by), 'end');
    else if (by && event.ctrlKey) put(spanTrimmed(track, span.id, 'start', span.from + by), 'start');
    else if (by) put(spanMoved(track, span.id, span.from + by), 'move');
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') moveOver(event.key === 'ArrowUp' ? -1 : 1);
    else if (event.key === 'Delete') removeSpan(track, span);
    else if (event.key === 's') splitSpan(track, span);
    else if (event.key === 'c') copySpan(track, span);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const dragged = {
    onPointerMove(event: PointerEvent) {
      if (!drag.current) return;
      drag.current.moved ||= Math.abs(event.clientX - drag.current.x) > 3;
      if (drag.current.moved) preview.show(putTrack, { track: changed(event), does: words[drag.current.hold] });
    },
    onPointerUp(event: PointerEvent) {
      const { current } = drag;
      const over = document
        .elementsFromPoint(event.clientX, event.clientY)
        .flatMap((e) => (e instanceof HTMLElement && e.dataset.track ? [e.dataset.track] : []))[0];
      const to = over === undefined ? undefined : shot.tracks.get(over);
      if (current?.moved && current.hold === 'move' && to && to.id !== track.id) {
        // Let go of over another track it goes there.
        const at = changed(event).spans.find((s) => s.id === span.id)!.from;
        preview.drop();
        putOnTrack(current.track, span, to, at);
      } else if (current?.moved) preview.keep();
      drag.current = null;
      setHeld(false);
    },
    onPointerCancel() {
      drag.current = null;
      setHeld(false);
      preview.drop();
    },
  };

  const block = (
    <button
      type="button"
      aria-label={`${about}. Arrows move it, with Shift its end, with Ctrl its beginning, with Alt its clip inside it, up and down to another track; S splits it at the frame of now, C copies it, Enter takes its clip up, Delete takes it away.`}
      title={about}
      aria-pressed={picked}
      data-span={span.id}
      data-takes="ArrowUp ArrowDown ArrowLeft ArrowRight Alt+ArrowLeft Alt+ArrowRight Delete Enter s c"
      className={`absolute inset-y-1 touch-none overflow-hidden rounded-md border text-left outline-none focus-visible:ring-2 focus-visible:ring-blue ${
        picked ? 'border-blue bg-blue-wash' : 'border-graphite/50 bg-well'
      } ${track.locked ? '' : 'cursor-grab'}`}
      style={{ left, width: Math.max(4, wide) }}
      onPointerDown={(event) => take(event, null)}
      {...dragged}
      onDoubleClick={() => openClip(span)}
      onKeyDown={onKeyDown}
    >
      <Eases span={span} perFrame={perFrame} wide={wide} />
      <Pegs pegs={pegs} from={span.from} perFrame={perFrame} />
      <span
        className="absolute inset-x-0 top-0 truncate px-2 leading-5"
        style={{ left: (props.covered - span.from) * perFrame }}
      >
        {clip.name}
        <span className="tabular ml-1.5 text-sm text-graphite">
          {span.time ? 'bent ' : span.speed === 1 ? '' : `×${span.speed} `}
          {span.loop ? 'repeats ' : ''}
          {span.how === 'onTop' ? 'on top ' : ''}
          {span.strength < 1 ? `${Math.round(span.strength * 100)} %` : ''}
        </span>
      </span>
      {falls.map(([foot, frames], row) =>
        frames.map((f) => (
          <span
            key={`${foot} ${f}`}
            aria-hidden
            className="absolute size-1 rounded-full bg-moss"
            style={{ left: (f - span.from) * perFrame - 2, bottom: 3 + (row % 4) * 5 }}
          />
        )),
      )}
    </button>
  );
  return (
    <>
      {block}
      {picked && !track.locked ? <SpanPoints track={track} span={span} left={left} perFrame={perFrame} /> : null}
      {/* What is in the hand stays there, wherever it is drawn. */}
      {(props.under || isHeld) && !track.locked ? (
        <div
          className="absolute inset-y-1 z-10 w-2 cursor-ew-resize touch-none"
          style={{ left: left + wide - 5 }}
          onPointerDown={(event) => {
            take(event, 'end');
            setHeld(true);
          }}
          {...dragged}
        />
      ) : null}
    </>
  );
}

/** Pegs nearer to one another than this are not drawn, pixels: one sees nothing of them. */
const APART = 3;

/** The keys of a clip as they come along its span: where any of its channels has one. */
function Pegs({ pegs, from, perFrame }: { pegs: readonly number[]; from: number; perFrame: number }) {
  const near = pegs.length > 1 ? ((pegs[pegs.length - 1] - pegs[0]) * perFrame) / (pegs.length - 1) : APART;
  if (near < APART) return null;
  return pegs.map((frame) => (
    <span
      key={frame}
      aria-hidden
      className="absolute top-5.5 h-2 w-1 rounded-full bg-ink/20"
      style={{ left: (frame - from) * perFrame - 2 }}
    />
  ));
}

/** How a span comes and goes, as slopes over its corners. */
function Eases({ span, perFrame, wide }: { span: ClipSpan; perFrame: number; wide: number }) {
  const [come, go] = [span.easeIn * perFrame, span.easeOut * perFrame];
  if (come + go === 0) return null;
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-0 size-full">
      <path d={`M0 46L${come} 0H0Z`} fill="var(--card)" fillOpacity="0.75" />
      <path d={`M${wide} 46L${wide - go} 0H${wide}Z`} fill="var(--card)" fillOpacity="0.75" />
    </svg>
  );
}

/** What the ends of a span go to: ends and footfalls of others of its rig, and the frame of now. */
function marksFor(shot: Shot, track: ClipTrack, own: ClipSpan): number[] {
  const tracks = shot.tracks.values().filter((t) => t.rig === track.rig);
  const others = tracks.flatMap((t) =>
    t.spans
      .filter((s) => s.id !== own.id)
      .flatMap((s) => [s.from, s.from + s.length, ...Object.values(footfallsOf(shot, t, s.id)).flat()]),
  );
  return [...others.map(Math.round), usePlayhead.getState().frame];
}

function nearest(frame: number, marks: readonly number[], reach: number): number {
  let [best, far] = [frame, reach];
  for (const mark of marks) if (Math.abs(mark - frame) < far) [best, far] = [mark, Math.abs(mark - frame)];
  return best;
}
