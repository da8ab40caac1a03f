import { type ClipSpan, type ClipTrack, putTrack, spanChanged } from '@varrup/core';
import { type PointerEvent, useRef } from 'react';
import { usePreview } from '../shot/use-preview.ts';

/** How far a span's strength is drawn up and down, pixels from the row's top. */
const [TOP, BOTTOM] = [24, 48];

/** The points of the picked span on its track: where its time is held, and how its strength goes. They are dragged; their numbers stand beside the stage. */
export function SpanPoints(props: {
  readonly track: ClipTrack;
  readonly span: ClipSpan;
  readonly left: number;
  readonly perFrame: number;
}) {
  const { track, span, left, perFrame } = props;
  const x = (at: number) => left + at * perFrame;
  const y = (share: number) => BOTTOM - (BOTTOM - TOP) * share;
  const ends = span.levels.length > 0 ? [span.levels[0], ...span.levels, span.levels[span.levels.length - 1]] : [];
  const path = ends.map((p, i) => {
    const at = i === 0 ? 0 : i === ends.length - 1 ? span.length : p.at;
    return `${i === 0 ? 'M' : 'L'}${at * perFrame} ${y(p.share) - TOP}`;
  });
  return (
    <>
      {path.length > 0 ? (
        <svg
          aria-hidden
          className="pointer-events-none absolute z-10 overflow-visible"
          style={{ left, top: TOP, width: span.length * perFrame, height: BOTTOM - TOP }}
        >
          <path d={path.join('')} fill="none" stroke="var(--blue)" strokeWidth="1.5" />
        </svg>
      ) : null}
      {span.levels.map((p, i) => (
        <Point
          key={p.at}
          track={track}
          span={span}
          place={{ left: x(p.at), top: y(p.share) }}
          look="rounded-full bg-blue"
          does="key the strength of a span"
          changed={(by, rise) => ({
            levels: moved(span.levels, i, {
              at: p.at + Math.round(by / perFrame),
              share: Math.min(1, Math.max(0, Math.round((p.share - rise / (BOTTOM - TOP)) * 100) / 100)),
            }),
          })}
        />
      ))}
      {span.time?.map((p, i, all) => (
        <Point
          key={p.at}
          track={track}
          span={span}
          place={{ left: x(p.at), top: TOP - 4 }}
          look="rotate-45 bg-ochre"
          does="bend the time of a span"
          changed={(by) => ({ time: moved(all, i, { ...p, at: p.at + Math.round(by / perFrame) }) })}
        />
      ))}
    </>
  );
}

/** Points with one of them elsewhere; it does not pass its neighbours. */
function moved<P extends { readonly at: number }>(points: readonly P[], i: number, point: P): P[] {
  const low = i > 0 ? points[i - 1].at + 1 : Number.NEGATIVE_INFINITY;
  const high = i + 1 < points.length ? points[i + 1].at - 1 : Number.POSITIVE_INFINITY;
  const next = [...points];
  next[i] = { ...point, at: Math.min(high, Math.max(low, point.at)) };
  return next;
}

function Point(props: {
  readonly track: ClipTrack;
  readonly span: ClipSpan;
  readonly place: { readonly left: number; readonly top: number };
  readonly look: string;
  readonly does: string;
  readonly changed: (by: number, rise: number) => Partial<ClipSpan>;
}) {
  const preview = usePreview('span point');
  const drag = useRef<{ x: number; y: number; props: typeof props } | null>(null);
  const onPointerDown = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, props };
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!drag.current) return;
    const { x, y, props: held } = drag.current;
    const change = held.changed(event.clientX - x, event.clientY - y);
    preview.show(putTrack, { track: spanChanged(held.track, held.span.id, change), does: held.does });
  };
  const end = (keep: boolean) => () => {
    if (drag.current) keep ? preview.keep() : preview.drop();
    drag.current = null;
  };
  return (
    <div
      aria-hidden
      className={`absolute z-20 size-2.5 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none border border-card ${props.look}`}
      style={props.place}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={end(true)}
      onPointerCancel={end(false)}
    />
  );
}
