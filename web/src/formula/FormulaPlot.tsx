import { channelSeries, draggableWaves, type FormulaCall, withArgument } from '@varrup/core';
import { extent, scaleLinear } from 'd3';
import { type PointerEvent, useMemo, useRef } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { useSize } from '../ui/use-size.ts';
import { usePlayhead } from '../view/playhead.ts';

/** How fine the plot is: one moment a pixel and a little more. */
const POINTS = 480;

/** A channel over the frames that play, as it comes out, with handles for the waves in its formula. */
export function FormulaPlot({
  path,
  unit,
  text,
  calls,
  onText,
  onCancel,
}: {
  path: string;
  unit: string;
  text: string;
  calls: readonly FormulaCall[];
  onText: (text: string, done: boolean) => void;
  /** The hand has let go without meaning it. */
  onCancel: () => void;
}) {
  const shot = useShot((s) => s.shot);
  const frame = usePlayhead((p) => p.settled);
  const box = useRef<HTMLDivElement>(null);
  const size = useSize(box) ?? { width: 400, height: 160 };
  const drag = useRef<{ call: FormulaCall; text: string } | null>(null);
  const { first, last } = shot?.play ?? { first: 1, last: 2 };
  const series = useMemo(
    () => (shot ? channelSeries(shot, path, first, last, POINTS) : new Float64Array(2)),
    [shot, path, first, last],
  );
  if (!shot) return null;
  const [least, most] = extent(series) as [number, number];
  const margin = Math.max((most - least) * 0.15, 1e-3);
  const x = scaleLinear([first, last], [34, size.width - 8]);
  const y = scaleLinear([least - margin, most + margin], [size.height - 16, 8]);
  const line = [...series]
    .map((v, i) => `${x(first + ((last - first) * i) / (POINTS - 1)).toFixed(1)},${y(v).toFixed(1)}`)
    .join(' ');
  const middle = (least + most) / 2;
  const waves = draggableWaves(calls).filter((c) => c.name !== 'noise');

  const place = (event: PointerEvent, done: boolean) => {
    const held = drag.current;
    if (!held || !box.current) return;
    const at = box.current.getBoundingClientRect();
    const [px, py] = [event.clientX - at.left, event.clientY - at.top];
    const period = Math.max(1, Math.round(8 * (x.invert(px) - first)) / 2);
    const strength = Number((y.invert(py) - middle).toPrecision(3));
    const changed = withArgument(withArgument(held.text, held.call, 1, period), held.call, 0, strength);
    onText(changed, done);
    if (done) drag.current = null;
  };
  return (
    <div ref={box} className="relative min-h-24 min-w-0 grow overflow-hidden rounded-md border border-rule bg-card">
      <svg
        width={size.width}
        height={size.height}
        className="absolute inset-0 touch-none"
        role="img"
        aria-label={`The channel over frames ${first} to ${last}: from ${least.toFixed(3)} to ${most.toFixed(3)} ${unit}`}
        onPointerMove={(event) => place(event, false)}
        onPointerUp={(event) => place(event, true)}
        onPointerCancel={() => {
          drag.current = null;
          onCancel();
        }}
      >
        {y.ticks(4).map((v) => (
          <g key={v}>
            <line x1="34" x2={size.width} y1={y(v)} y2={y(v)} className="stroke-rule" />
            <text x="30" y={y(v) + 4} textAnchor="end" className="tabular fill-graphite text-xs">
              {Number(v.toPrecision(4))}
            </text>
          </g>
        ))}
        {x.ticks(6).map((f) => (
          <text key={f} x={x(f)} y={size.height - 3} textAnchor="middle" className="tabular fill-graphite text-xs">
            {f}
          </text>
        ))}
        <polyline points={line} className="fill-none stroke-umber" strokeWidth="1.75" />
        <line x1={x(frame)} x2={x(frame)} y1="0" y2={size.height - 14} className="stroke-vermilion" strokeWidth="1.5" />
        {waves.map((call) => {
          const [strength, period] = [call.arguments[0].value ?? 0, call.arguments[1].value ?? 1];
          const [hx, hy] = [x(first + period / 4), y(middle + strength)];
          return (
            <g key={call.start}>
              <line x1={x(first)} y1={y(middle)} x2={hx} y2={hy} className="stroke-blue" strokeDasharray="3 3" />
              <circle
                cx={hx}
                cy={hy}
                r="6"
                role="slider"
                tabIndex={0}
                aria-label={`Strength and period of ${text.slice(call.start, call.end)}: arrows change them`}
                aria-valuenow={strength}
                className="cursor-move fill-blue stroke-card outline-none focus-visible:stroke-ink"
                strokeWidth="2"
                onPointerDown={(event) => {
                  event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
                  drag.current = { call, text };
                }}
                onKeyDown={(event) => {
                  const up = { ArrowUp: 1.05, ArrowDown: 1 / 1.05 }[event.key];
                  const along = { ArrowRight: 0.5, ArrowLeft: -0.5 }[event.key];
                  if (!up && !along) return;
                  event.preventDefault();
                  event.stopPropagation();
                  if (up) onText(withArgument(text, call, 0, Number((strength * up).toPrecision(3))), true);
                  if (along) onText(withArgument(text, call, 1, Math.max(1, period + along)), true);
                }}
              >
                <title>Drag up for strength, sideways for period</title>
              </circle>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
