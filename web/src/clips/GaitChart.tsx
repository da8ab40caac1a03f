import {
  applyRecipe,
  type BarMove,
  type BarMoved,
  barMoved,
  type Clip,
  type FootRow,
  footRows,
  piecesOf,
  type Shot,
  setStances,
  shiftInCycle,
} from '@varrup/core';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import type { Preview } from '../shot/previews.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { usePlayhead } from '../view/playhead.ts';
import { type Across, LEFT } from './across.ts';

const ROW = 17;
const TOP = 20;

/** Which foot is down when. A bar is dragged to move the foot's steps in time, its ends to let it stand shorter or longer. */
export function GaitChart({ shot, clip, width, across }: { shot: Shot; clip: Clip; width: number; across: Across }) {
  const rows = footRows(shot, clip);
  const [dragged, setDragged] = useState<string | null>(null);
  const preview = usePreview('gait chart');
  const press = useRef<(Omit<BarMove, 'by'> & { name: string; x: number; base: Shot }) | null>(null);
  const height = TOP + rows.length * ROW + 6;
  const perFrame = across(1) - across(0);

  const change = (by: number, live: boolean) => {
    const p = press.current;
    if (!p) return;
    setDragged(by === 0 ? null : `${p.name} ${by > 0 ? '+' : '−'}${Math.abs(by)}`);
    if (by === 0) preview.drop();
    else shown(preview, clip.id, p.control, barMoved(p.base, clip, { ...p, by }));
    if (!live && by !== 0) preview.keep();
  };
  const onDown = (event: PointerEvent, { control, name }: FootRow, stance: number, grip: BarMove['grip']) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const base = useShot.getState().committed;
    if (base) press.current = { control, name, stance, grip, x: event.clientX, alone: event.altKey, base };
  };
  const onMove = (event: PointerEvent) => {
    const p = press.current;
    if (p) change(Math.round((event.clientX - p.x) / perFrame), true);
  };
  const onUp = (event: PointerEvent) => {
    const p = press.current;
    if (!p) return;
    change(Math.round((event.clientX - p.x) / perFrame), false);
    press.current = null;
    setDragged(null);
  };
  const onCancel = () => {
    preview.drop();
    press.current = null;
    setDragged(null);
  };
  const onKey = (event: KeyboardEvent, { control }: FootRow, stance: number) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const base = useShot.getState().committed;
    if (!by || !base) return;
    event.preventDefault();
    event.stopPropagation();
    const grip = event.shiftKey ? 'to' : 'whole';
    shown(preview, clip.id, control, barMoved(base, clip, { control, stance, grip, by, alone: event.altKey }));
    preview.keep();
  };

  return (
    <section aria-label="Gait chart: which foot is down when" className="relative shrink-0 border-b border-rule">
      {/* biome-ignore lint/a11y/noSvgWithoutTitle: the section it is alone in names it, and a title would cover those of the bars */}
      <svg width={width} height={height} className="block">
        <Ruler clip={clip} across={across} height={height} />
        {rows.map((row, r) => {
          const y = TOP + r * ROW;
          const tint = row.side === 'left' ? 'var(--teal)' : row.side === 'right' ? 'var(--plum)' : 'var(--graphite)';
          return (
            <g key={row.control}>
              <text x={12} y={y + 11.5} className="fill-ink text-sm">
                {row.name}
              </text>
              <line x1={across(0)} x2={across(clip.length)} y1={y + 8} y2={y + 8} stroke="var(--rule)" />
              {row.stances.flatMap((stance, s) =>
                piecesOf(stance, clip.length).map(([from, to], piece) => (
                  <g key={`${row.control} ${from}`}>
                    <rect
                      x={across(from)}
                      y={y + 2.5}
                      width={Math.max(2, across(to) - across(from))}
                      height={11}
                      rx={4}
                      fill={tint}
                      className="cursor-grab outline-offset-2"
                      role="slider"
                      tabIndex={piece === 0 ? 0 : -1}
                      data-takes="ArrowLeft ArrowRight Alt+ArrowLeft Alt+ArrowRight"
                      aria-label={`${row.name} is down`}
                      aria-valuemin={0}
                      aria-valuemax={clip.length}
                      aria-valuenow={stance.from}
                      aria-valuetext={`from ${clip.first + stance.from} to ${clip.first + stance.to}`}
                      onPointerDown={(e) => onDown(e, row, s, 'whole')}
                      onPointerMove={onMove}
                      onPointerUp={onUp}
                      onPointerCancel={onCancel}
                      onKeyDown={(e) => onKey(e, row, s)}
                    >
                      <title>{`${row.name} is down from ${clip.first + stance.from} to ${clip.first + stance.to}. Drag to move its steps in time; with Alt this foot alone.`}</title>
                    </rect>
                    {(['from', 'to'] as const).map((end) => {
                      const at = end === 'from' ? from : to;
                      const isEnd =
                        end === 'from'
                          ? at === stance.from % clip.length
                          : at === (stance.to % clip.length || clip.length);
                      return isEnd ? (
                        <rect
                          key={end}
                          x={across(at) - (end === 'from' ? 0 : 6)}
                          y={y + 2.5}
                          width={6}
                          height={11}
                          fill="transparent"
                          className="cursor-ew-resize"
                          aria-hidden
                          onPointerDown={(e) => onDown(e, row, s, end)}
                          onPointerMove={onMove}
                          onPointerUp={onUp}
                          onPointerCancel={onCancel}
                        />
                      ) : null;
                    })}
                  </g>
                )),
              )}
            </g>
          );
        })}
      </svg>
      {rows.every((r) => r.stances.length === 0) ? (
        <p className="absolute top-6 text-sm text-graphite" style={{ left: LEFT + 8 }}>
          No foot is held to the ground yet: hold the feet, or use the Gait kit.
        </p>
      ) : null}
      {dragged ? (
        <span
          role="status"
          className="tabular absolute right-2 bottom-1 rounded-md bg-ink px-2 py-0.5 text-sm text-on-solid"
        >
          {dragged} frames
        </span>
      ) : null}
    </section>
  );
}

/** Frames and poses along the top: a press goes there. */
function Ruler({ clip, across, height }: { clip: Clip; across: Across; height: number }) {
  const every = [1, 2, 3, 4, 6, 12, 24, 48, 96].find((n) => n * (across(1) - across(0)) > 26) ?? 240;
  const labelled = new Map(clip.labels.map((l) => [l.frame, l.pose]));
  const ticks = Array.from({ length: clip.length + 1 }, (_, f) => f).filter((f) => labelled.has(f) || f % every === 0);
  return (
    <g className="text-xs">
      {ticks.map((f) => {
        const pose = labelled.get(f % clip.length);
        return (
          <g key={f} className="cursor-pointer" onPointerDown={() => usePlayhead.getState().go(clip.first + f)}>
            <line
              x1={across(f)}
              x2={across(f)}
              y1={pose ? 14 : 16}
              y2={height}
              stroke="var(--rule)"
              strokeDasharray={pose ? undefined : '1 3'}
            />
            <text x={across(f)} y={11} textAnchor="middle" className={pose ? 'fill-ink' : 'fill-graphite'}>
              {pose && f < clip.length ? `${clip.first + f} ${pose}` : clip.first + f}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** Makes what moving a bar comes to. */
function shown({ show }: Preview, id: string, control: string, moved: BarMoved): void {
  if (moved.kind === 'recipe') show(applyRecipe, { recipe: moved.recipe, replace: false });
  else if (moved.kind === 'shift') show(shiftInCycle, { id, by: moved.by });
  else show(setStances, { id, control, stances: moved.stances });
}
