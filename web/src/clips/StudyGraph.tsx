import {
  type Clip,
  controlsOf,
  type Measure,
  type Shot,
  STUDY_SAMPLES,
  studiedPath,
  studiedValues,
} from '@varrup/core';
import { line as lineOf, scaleLinear } from 'd3';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { useSize } from '../ui/use-size.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';
import type { Across } from './across.ts';

const measures: Readonly<Record<Measure, string>> = { height: 'height', forward: 'forward place', speed: 'speed' };

/** How a point of the body goes over one round: how high, how far forward, how fast. As it was before the last edit behind it. */
export function StudyGraph({ shot, clip, width, across }: { shot: Shot; clip: Clip; width: number; across: Across }) {
  const [measure, setMeasure] = useState<Measure>('height');
  const [chosen, setChosen] = useState<string>('hips');
  const box = useRef<HTMLDivElement>(null);
  const lead = useSelection((s) => s.picked.at(-1));
  const settled = usePlayhead((p) => p.settled);
  const height = useSize(box)?.height ?? 90;
  const controls = controlsOf(shot, clip.rig).filter((c) => !c.name.startsWith('look'));
  const own = controls.find((c) => c.shape.control === chosen) ?? controls[0];
  const member = chosen === 'picked' && controls.some((c) => c.id === lead) ? lead : own?.id;
  const committed = useShot((s) => s.committed);
  const now = useMemo(() => (member ? studiedPath(shot, clip, member) : null), [shot, clip, member]);
  const before = useLast(committed, shot === committed, clip.id, member);
  if (!member || !now) return null;
  const values = studiedValues(now, measure, clip, shot.rate);
  const old = before ? studiedValues(before.path, measure, before.clip, shot.rate) : null;
  const all = [...values, ...(old ?? [])];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = Math.max((high - low) * 0.12, 1e-4);
  const up = scaleLinear([low - pad, high + pad], [Math.max(20, height - 6), 6]);
  // A version that took more frames, or fewer, is laid over the same round.
  const path = (all: readonly number[]) =>
    lineOf<number>()
      .x((_, i) => across((i / (all.length - 1)) * clip.length))
      .y((v) => up(v))(all);
  const dots = (all: readonly number[]) =>
    all.map((v, i) => (i % STUDY_SAMPLES === 0 ? `M${across(i / STUDY_SAMPLES)} ${up(v)}h0` : '')).join('');
  const phase = (((settled - clip.first) % clip.length) + clip.length) % clip.length;
  const here = values[Math.min(values.length - 1, Math.round(phase * STUDY_SAMPLES))];
  const unit = measure === 'speed' ? 'm/s' : 'm';
  return (
    <div className="flex min-h-0 grow">
      <div className="absolute z-10 flex w-[100px] flex-col gap-1 p-1.5 text-sm">
        <select
          aria-label="The point that is studied"
          className="h-6 rounded-md border border-rule bg-paper px-1"
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
        >
          <option value="picked">what is picked</option>
          {controls.map((c) => (
            <option key={c.id} value={c.shape.control}>
              {c.name}
            </option>
          ))}
        </select>
        <select
          aria-label="What is measured of it"
          className="h-6 rounded-md border border-rule bg-paper px-1"
          value={measure}
          onChange={(event) => setMeasure(event.target.value as Measure)}
        >
          {Object.entries(measures).map(([value, word]) => (
            <option key={value} value={value}>
              {word}
            </option>
          ))}
        </select>
        <output className="tabular px-1" aria-label="Here">
          {here.toFixed(3)} {unit}
        </output>
      </div>
      <div ref={box} className="min-h-0 min-w-0 grow">
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={`${measures[measure]} over the cycle`}
        >
          {clip.labels.map((l) => (
            <line
              key={`${l.frame} ${l.pose}`}
              x1={across(l.frame)}
              x2={across(l.frame)}
              y1={0}
              y2={height}
              stroke="var(--rule)"
            />
          ))}
          {[low, high].map((v, i) => (
            <g key={v}>
              <line
                x1={across(0)}
                x2={across(clip.length)}
                y1={up(v)}
                y2={up(v)}
                stroke="var(--rule)"
                strokeDasharray="2 4"
              />
              <text
                x={across(clip.length) - 4}
                y={up(v) + (i === 0 ? -3 : 11)}
                textAnchor="end"
                className="tabular fill-graphite text-xs"
              >
                {v.toFixed(3)}
              </text>
            </g>
          ))}
          {old ? (
            <path
              d={path(old) ?? ''}
              fill="none"
              stroke="var(--graphite)"
              strokeWidth={1}
              strokeDasharray="4 3"
              opacity={0.7}
            />
          ) : null}
          <path d={path(values) ?? ''} fill="none" stroke="var(--blue)" strokeWidth={1.6} />
          {/* One dot a frame: where they stand apart it goes fast. */}
          <path d={dots(values)} stroke="var(--blue)" strokeWidth={3.6} strokeLinecap="round" />
        </svg>
      </div>
    </div>
  );
}

/** A way of a point of the body, and the clip it was in. */
interface Studied {
  readonly member: string;
  readonly clip: Clip;
  readonly path: Float64Array;
}

/**
 * The way of the same point as it was: while something is tried or dragged as it is without that, and otherwise before the last edit
 * that changed it.
 */
function useLast(committed: Shot | null, settled: boolean, clip: string, member: string | undefined): Studied | null {
  const [before, setBefore] = useState<Studied | null>(null);
  const last = useRef<(Studied & { shot: Shot }) | null>(null);
  useEffect(() => {
    const own = committed?.clips.get(clip);
    if (!committed || !member || !own || own.kept) return;
    const was = last.current;
    if (was?.shot === committed && was.member === member && was.clip.id === clip) return;
    const path = studiedPath(committed, own, member);
    if (was?.member === member && was.clip.id === clip && !same(was.path, path)) setBefore(was);
    last.current = { shot: committed, clip: own, member, path };
  }, [committed, clip, member]);
  const shown = settled ? before : last.current;
  return shown && shown.member === member && shown.clip.id === clip ? shown : null;
}

const same = (a: Float64Array, b: Float64Array) =>
  a.length === b.length && a.every((v, i) => Math.abs(v - b[i]) < 1e-9);
