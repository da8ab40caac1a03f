import {
  type Chart,
  channelWords,
  chartOf,
  placeBetween,
  placeTick,
  type Shot,
  shareAt,
  spacings,
  spacingWords,
} from '@varrup/core';
import { ArrowDownUp, ChevronDown, ChevronRight } from 'lucide-react';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { breakdownPaths, chartPaths, space, spacingHint } from '../commands/spacing.ts';
import type { Preview } from '../shot/previews.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { useHabits } from '../view/habits.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';

/** The timing chart of the two keys around the current frame, and the slider that places a breakdown between them. */
export function Spacing() {
  const shot = useShot((s) => s.shot);
  const frame = usePlayhead((p) => p.settled);
  useSelection((s) => s.picked);
  useSelection((s) => s.channels);
  const open = useHabits((h) => h.chart);
  if (!shot) return null;
  const paths = chartPaths(shot, frame);
  if (paths.length === 0) return null;
  const chart = chartOf(shot, paths, frame);
  return (
    <section
      aria-label="Spacing"
      className="max-h-[42%] shrink-0 overflow-y-auto border-t border-rule px-4 pt-2 pb-2.5"
    >
      <button
        type="button"
        aria-expanded={open}
        onClick={() => useHabits.getState().set({ chart: !open })}
        className="flex w-full items-center gap-1 rounded font-semibold"
      >
        {open ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
        Spacing
        {chart ? (
          <span className="tabular ml-1 font-medium">
            {round(chart.from)} → {round(chart.to)}
          </span>
        ) : null}
      </button>
      {chart && open ? <ChartOf key={`${chart.from} ${chart.to}`} shot={shot} chart={chart} frame={frame} /> : null}
      <Between shot={shot} frame={frame} />
    </section>
  );
}

const HEIGHT = 106;
/** Names of ticks nearer than this, in pixels, would run into one another. */
const NAMES_APART = 11;

/** The ticks that have room for their name: the current frame's first, then from the first on. */
function namedTicks(chart: Chart, y: (share: number) => number, frame: number): ReadonlySet<number> {
  const taken = [y(0), y(1)];
  const named = new Set<number>();
  const here = chart.ticks.filter((t) => Math.abs(t.frame - frame) < 1e-6);
  for (const tick of [...here, ...chart.ticks]) {
    const at = y(tick.share);
    if (taken.some((t) => Math.abs(t - at) < NAMES_APART)) continue;
    taken.push(at);
    named.add(tick.frame);
  }
  return named;
}

/** What is said of keys between which nothing of the chart moves. */
function sameWords(shot: Shot, { from, to, paths, passing }: Chart): string {
  const own = `${channelWords(shot, paths)} ${paths.length === 1 ? 'says' : 'say'} the same at ${round(from)} and ${round(to)}.`;
  return passing.length > 0 ? `${own} ${channelWords(shot, passing)} goes on: pick it to space it.` : own;
}

function ChartOf({ shot, chart, frame }: { shot: Shot; chart: Chart; frame: number }) {
  const paths = chart.paths;
  const moves = chart.length > 1e-9;
  const metres = paths.every((p) => p.includes('.move.'));
  return (
    <div className="mt-1.5 flex gap-3">
      <Ruler chart={chart} frame={frame} moves={moves} />
      <div className="min-w-0 grow">
        <div className="grid grid-cols-2 gap-1">
          {spacings.map((spacing) => (
            <Hint key={spacing} text={spacingHint(spacing)} side="left">
              <Button look="pill" className="h-6! px-1! text-sm" disabled={!moves} onClick={() => space(spacing)}>
                {spacing === 'slowBoth' ? 'both' : spacingWords[spacing]}
              </Button>
            </Hint>
          ))}
        </div>
        <div className="mt-1.5 flex items-center gap-1">
          <Hint text={commandOf('spacing.turn').label} side="left">
            <Button
              look="icon"
              className="size-6!"
              disabled={!moves}
              aria-label={commandOf('spacing.turn').label}
              onClick={() => commandOf('spacing.turn').run()}
            >
              <ArrowDownUp size={14} />
            </Button>
          </Hint>
          <p className="tabular text-xs text-graphite">
            {moves
              ? metres
                ? `${(chart.fastest * chart.length).toFixed(3)} m a frame at most`
                : `${Math.round(chart.fastest * 100)} % a frame at most`
              : sameWords(shot, chart)}
          </p>
        </div>
      </div>
    </div>
  );
}

const round = (frame: number) => Math.round(frame * 100) / 100;

/** The chart itself: the first key at the top, the second at the bottom, a tick for every frame between. */
function Ruler({ chart, frame, moves }: { chart: Chart; frame: number; moves: boolean }) {
  const svg = useRef<SVGSVGElement>(null);
  const preview = usePreview('timing chart');
  const [dragging, setDragging] = useState<number | null>(null);
  const shares = chart.ticks.map((t) => t.share);
  // Where frames overshoot, the chart makes room for them.
  const [low, high] = [Math.min(0, ...shares), Math.max(1, ...shares)];
  const y = (share: number) => 8 + ((share - low) / (high - low)) * (HEIGHT - 16);
  const shareAtY = (py: number) => low + ((py - 8) / (HEIGHT - 16)) * (high - low);
  const named = namedTicks(chart, y, frame);
  const place = (tick: number, share: number, act: Preview['show']) =>
    act(placeTick, { paths: chart.paths, frame: frame, tick, share });
  const onMove = (event: PointerEvent) => {
    if (dragging === null || !svg.current) return;
    const py = event.clientY - svg.current.getBoundingClientRect().top;
    place(dragging, snapped(Math.min(1.5, Math.max(-0.5, shareAtY(py))), event.shiftKey), preview.show);
  };
  const onKey = (event: KeyboardEvent, tick: Chart['ticks'][number]) => {
    const by = { ArrowUp: -0.01, ArrowDown: 0.01, PageUp: -0.1, PageDown: 0.1 }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    place(tick.frame, tick.share + by, preview.make);
  };
  return (
    <fieldset aria-label="Timing chart: drag a tick, or use the arrow keys" className="shrink-0">
      <svg
        ref={svg}
        width="72"
        height={HEIGHT}
        className="shrink-0 touch-none overflow-visible"
        onPointerMove={onMove}
        onPointerUp={() => {
          if (dragging !== null) preview.keep();
          setDragging(null);
        }}
        onPointerCancel={() => {
          preview.drop();
          setDragging(null);
        }}
      >
        <title>Timing chart</title>
        <line x1="20" x2="20" y1={y(0)} y2={y(1)} className="stroke-ink" strokeWidth="1.5" />
        {(
          [
            [0, chart.from],
            [1, chart.to],
          ] as const
        ).map(([share, at]) => (
          <g key={share}>
            <line x1="4" x2="36" y1={y(share)} y2={y(share)} className="stroke-ink" strokeWidth="2" />
            <text x="42" y={y(share) + 4} className="tabular fill-ink text-xs">
              {round(at)}
            </text>
          </g>
        ))}
        {moves
          ? chart.ticks.map((tick) => (
              <g
                key={tick.frame}
                role="slider"
                tabIndex={0}
                aria-label={`Frame ${tick.frame} of the chart`}
                aria-valuenow={Math.round(tick.share * 100)}
                aria-valuemin={-50}
                aria-valuemax={150}
                aria-orientation="vertical"
                className="cursor-ns-resize outline-none focus-visible:[&>line]:stroke-blue"
                onKeyDown={(event) => onKey(event, tick)}
                onPointerDown={(event) => {
                  event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
                  setDragging(tick.frame);
                }}
              >
                <rect x="4" y={y(tick.share) - 4} width="70" height="8" fill="transparent" />
                <line
                  x1={tick.breakdown ? 9 : 13}
                  x2={tick.breakdown ? 31 : 27}
                  y1={y(tick.share)}
                  y2={y(tick.share)}
                  className={Math.abs(tick.frame - frame) < 1e-6 ? 'stroke-vermilion' : 'stroke-ink'}
                  strokeWidth={tick.breakdown ? 2.2 : 1.2}
                />
                {named.has(tick.frame) ? (
                  <text x="42" y={y(tick.share) + 4} className="tabular pointer-events-none fill-graphite text-xs">
                    {tick.frame}
                  </text>
                ) : null}
              </g>
            ))
          : null}
      </svg>
    </fieldset>
  );
}

/** Near a half, a third or a quarter the tick goes there; with Shift it goes where the hand is. */
function snapped(share: number, free: boolean): number {
  const places = [0, 1 / 4, 1 / 3, 1 / 2, 2 / 3, 3 / 4, 1];
  const near = places.find((p) => Math.abs(p - share) < 0.02);
  return !free && near !== undefined ? near : share;
}

/** Places the channels between the keys before and after, or past them. */
function Between({ shot, frame }: { shot: Shot; frame: number }) {
  const preview = usePreview('breakdown slider');
  const paths = breakdownPaths(shot);
  const share = paths.map((p) => shareAt(shot, p, frame)).find((s) => s !== null) ?? null;
  const shown = share === null ? 50 : Math.round(share * 100);
  return (
    <label className="mt-2 flex items-center gap-2 text-sm text-graphite">
      <Hint
        text={`Places a breakdown here, between the keys before and after, or past them`}
        keys={shortcutOf('between.half')}
        side="left"
      >
        <span>between</span>
      </Hint>
      <input
        type="range"
        aria-label="Breakdown: percent of the way between the keys before and after"
        min={-25}
        max={125}
        value={Math.min(125, Math.max(-25, shown))}
        disabled={share === null}
        onChange={(event) => preview.show(placeBetween, { paths, frame, share: Number(event.target.value) / 100 })}
        onPointerUp={preview.keep}
        onKeyUp={preview.keep}
        onBlur={preview.keep}
        className="min-w-0 grow accent-ink"
      />
      <output className="tabular w-10 text-right">{share === null ? '–' : `${shown} %`}</output>
    </label>
  );
}
