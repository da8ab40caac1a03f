import { type Clip, controlsOf, Program, type Shot } from '@varrup/core';
import { line as lineOf, scaleLinear } from 'd3';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useView } from '../view/view-store.ts';
import type { Across } from './across.ts';

const measures = { height: 'height', forward: 'forward place', speed: 'speed' } as const;
type Measure = keyof typeof measures;

/** Samples a frame: the line is drawn through them. */
const FINE = 4;

/** How a point of the body goes over one round: how high, how far forward, how fast. As it was before the last edit behind it. */
export function StudyGraph({ shot, clip, width, across }: { shot: Shot; clip: Clip; width: number; across: Across }) {
  const [measure, setMeasure] = useState<Measure>('height');
  const [chosen, setChosen] = useState<string>('hips');
  const [height, setHeight] = useState(90);
  const box = useRef<HTMLDivElement>(null);
  const lead = useView((v) => v.selection.at(-1));
  const settled = usePlayhead((p) => p.settled);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setHeight(entry.contentRect.height));
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  const controls = controlsOf(shot, clip.rig).filter((c) => !c.name.startsWith('look'));
  const own = controls.find((c) => c.shape.control === chosen) ?? controls[0];
  const member = chosen === 'picked' && controls.some((c) => c.id === lead) ? lead : own?.id;
  const committed = useShot((s) => s.committed);
  const now = useMemo(() => (member ? pathOf(shot, clip, member) : null), [shot, clip, member]);
  const before = useLast(committed, shot === committed, clip.id, member);
  if (!member || !now) return null;
  const values = valuesOf(now, measure, clip, shot.rate);
  const old = before ? valuesOf(before.path, measure, before.clip, shot.rate) : null;
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
    all.map((v, i) => (i % FINE === 0 ? `M${across(i / FINE)} ${up(v)}h0` : '')).join('');
  const phase = (((settled - clip.first) % clip.length) + clip.length) % clip.length;
  const here = values[Math.min(values.length - 1, Math.round(phase * FINE))];
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
    const path = pathOf(committed, own, member);
    if (was?.member === member && was.clip.id === clip && !same(was.path, path)) setBefore(was);
    last.current = { shot: committed, clip: own, member, path };
  }, [committed, clip, member]);
  const shown = settled ? before : last.current;
  return shown && shown.member === member && shown.clip.id === clip ? shown : null;
}

const same = (a: Float64Array, b: Float64Array) =>
  a.length === b.length && a.every((v, i) => Math.abs(v - b[i]) < 1e-9);

/** Where a control is over one round, as its rig stays in place: three numbers a sample, from its beginning to its end. */
function pathOf(shot: Shot, clip: Clip, member: string): Float64Array {
  const still: Shot = { ...shot, clips: shot.clips.with(clip.id, { ...clip, travelling: false }) };
  const program = new Program(still);
  const frame = program.createFrame();
  const [slot, rig] = [program.layout.slotOf.get(member)!, program.layout.slotOf.get(clip.rig)!];
  const count = clip.length * FINE + 1;
  const out = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    program.evaluate(clip.first + i / FINE, frame);
    const w = frame.world;
    // Seen from the rig: up, forward and aside are its own, wherever it faces.
    const from = [0, 1, 2].map((r) => w[slot * 16 + 12 + r] - w[rig * 16 + 12 + r]);
    for (let axis = 0; axis < 3; axis++) {
      const a = rig * 16 + axis * 4;
      const size = Math.hypot(w[a], w[a + 1], w[a + 2]) || 1;
      out[i * 3 + axis] = (from[0] * w[a] + from[1] * w[a + 1] + from[2] * w[a + 2]) / size;
    }
  }
  return out;
}

function valuesOf(path: Float64Array, measure: Measure, clip: Clip, rate: number): number[] {
  const count = path.length / 3;
  const step = clip.travel / clip.length / FINE;
  const at = (i: number, axis: number) => path[i * 3 + axis] + (axis === 2 ? step * i : 0);
  if (measure !== 'speed') {
    // Forward is how it goes to and fro in the body's own space: with the travel the line would only be steep.
    return Array.from({ length: count }, (_, i) => path[i * 3 + (measure === 'height' ? 1 : 2)]);
  }
  return Array.from({ length: count }, (_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(count - 1, i + 1)];
    const far = Math.hypot(...[0, 1, 2].map((axis) => at(b, axis) - at(a, axis)));
    return (far / ((b - a) / FINE)) * rate;
  });
}
