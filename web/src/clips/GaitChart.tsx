import {
  anatomyOf,
  applyRecipe,
  type Clip,
  controlsOf,
  type Recipe,
  type Shot,
  type Stance,
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

type Grip = 'whole' | 'from' | 'to';

/** A foot of the chart. */
interface Row {
  readonly control: string;
  readonly member: string;
  readonly name: string;
  readonly side: string;
  readonly stances: readonly Stance[];
}

/** Which foot is down when. A bar is dragged to move the foot's steps in time, its ends to let it stand shorter or longer. */
export function GaitChart({ shot, clip, width, across }: { shot: Shot; clip: Clip; width: number; across: Across }) {
  const rows = rowsOf(shot, clip);
  const [dragged, setDragged] = useState<string | null>(null);
  const preview = usePreview('gait chart');
  const press = useRef<{ row: Row; stance: number; grip: Grip; x: number; alone: boolean; base: Shot } | null>(null);
  const height = TOP + rows.length * ROW + 6;
  const perFrame = across(1) - across(0);

  const change = (by: number, live: boolean) => {
    const p = press.current;
    if (!p) return;
    const done = moved(p.base, clip, p.row, p.stance, p.grip, by, p.alone);
    setDragged(by === 0 ? null : `${p.row.name} ${by > 0 ? '+' : '−'}${Math.abs(by)}`);
    if (by === 0) preview.drop();
    else shown(preview, done);
    if (!live && by !== 0) preview.keep();
  };
  const onDown = (event: PointerEvent, row: Row, stance: number, grip: Grip) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const base = useShot.getState().committed;
    if (base) press.current = { row, stance, grip, x: event.clientX, alone: event.altKey, base };
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
  const onKey = (event: KeyboardEvent, row: Row, stance: number) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const base = useShot.getState().committed;
    if (!by || !base) return;
    event.preventDefault();
    event.stopPropagation();
    shown(preview, moved(base, clip, row, stance, event.shiftKey ? 'to' : 'whole', by, event.altKey));
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
                pieces(stance, clip.length).map(([from, to], piece) => (
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

const rowsOf = (shot: Shot, clip: Clip): Row[] => {
  const member = shot.members.get(clip.rig);
  if (member?.kind !== 'rig') return [];
  const own = new Map(controlsOf(shot, clip.rig).map((c) => [c.shape.control, c]));
  return shot.rigs.at(member.shape).rig.feet.flatMap((foot) => {
    const control = own.get(foot.control);
    if (!control) return [];
    const side = shot.rigs.control(control.shape)?.side ?? 'centre';
    return [
      {
        control: foot.control,
        member: control.id,
        name: control.name,
        side,
        stances: clip.stances[foot.control] ?? [],
      },
    ];
  });
};

/** A stance as it is seen in one round: in one piece, or in two where it goes through the seam. */
const pieces = ({ from, to }: Stance, length: number): [number, number][] =>
  to <= length
    ? [[from, to]]
    : [
        [from, length],
        [0, to - length],
      ];

type Done =
  | { readonly kind: 'recipe'; readonly recipe: Recipe }
  | { readonly kind: 'shift'; readonly id: string; readonly by: Record<string, number> }
  | { readonly kind: 'stances'; readonly id: string; readonly control: string; readonly stances: Stance[] };

/** What a drag on the chart comes to: other settings of the gait that wrote it, or keys moved round the cycle. */
function moved(shot: Shot, clip: Clip, row: Row, stance: number, grip: Grip, by: number, alone: boolean): Done {
  const recipe = shot.recipes.values().find((r) => r.kit === 'gait' && r.member === clip.rig);
  const feet = legOrder(shot, clip);
  const share = (by / clip.length) * 100;
  if (recipe && grip === 'whole') {
    const settings = { ...recipe.settings };
    const pair = alone ? [row.control] : [row.control, ...partnersOfFoot(shot, clip, row.control)];
    for (const control of pair) {
      const name = `fall${feet.indexOf(control) + 1}`;
      settings[name] = (((Number(settings[name]) + share) % 100) + 100) % 100;
    }
    return { kind: 'recipe', recipe: { ...recipe, settings } };
  }
  if (recipe) {
    const down = Number(recipe.settings.down) + (grip === 'to' ? share : -share);
    return { kind: 'recipe', recipe: { ...recipe, settings: { ...recipe.settings, down } } };
  }
  if (grip === 'whole') {
    const controls =
      alone || clip.halves === 'free' ? [row.control] : [row.control, ...partnersOfFoot(shot, clip, row.control)];
    const ids = controlsOf(shot, clip.rig)
      .filter((c) => controls.includes(c.shape.control))
      .map((c) => c.id);
    return { kind: 'shift', id: clip.id, by: Object.fromEntries(ids.map((id) => [id, by])) };
  }
  const stances = row.stances.map((s, i) => {
    if (i !== stance) return s;
    const from = grip === 'from' ? s.from + by : s.from;
    const to = grip === 'to' ? s.to + by : s.to;
    const start = ((from % clip.length) + clip.length) % clip.length;
    return { from: start, to: start + Math.min(clip.length - 1, Math.max(1, to - from)) };
  });
  return { kind: 'stances', id: clip.id, control: row.control, stances };
}

function shown({ show }: Preview, done: Done): void {
  if (done.kind === 'recipe') show(applyRecipe, { recipe: done.recipe, replace: false });
  else if (done.kind === 'shift') show(shiftInCycle, { id: done.id, by: done.by });
  else show(setStances, { id: done.id, control: done.control, stances: done.stances });
}

/** The feet in the order of the gait's settings: hind left, hind right, fore left, fore right. */
function legOrder(shot: Shot, clip: Clip): string[] {
  const member = shot.members.get(clip.rig);
  const anatomy = member?.kind === 'rig' ? anatomyOf(shot.rigs.at(member.shape)) : '';
  return typeof anatomy === 'string' ? [] : anatomy.legs.map((leg) => leg.control);
}

function partnersOfFoot(shot: Shot, clip: Clip, control: string): string[] {
  const own = controlsOf(shot, clip.rig).find((c) => c.shape.control === control);
  const partner = own && shot.rigs.control(own.shape)?.partner;
  return partner ? [partner] : [];
}
