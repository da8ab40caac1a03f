import { dragHandle, type KeySelection, movedSelection, moveKeys } from '@varrup/core';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useView } from '../view/view-store.ts';
import { CurveTools } from './CurveTools.tsx';
import { curvesRef } from './curves-ref.ts';
import { drawCurves, handleEnd, type ValueSpan, valueScale } from './draw-curves.ts';
import { RULER } from './draw-time.ts';
import { livingKeys } from './pick-keys.ts';
import { scrubTo, zoomOrPan } from './pointer.ts';
import { type ShownCurve, shownCurves, valueSpan } from './shown-curves.ts';
import { timeScale } from './time-axis.ts';
import { placeOn, useCancel } from './use-cancel.ts';
import { useCanvas } from './use-canvas.ts';
import { useWheel } from './use-wheel.ts';

interface KeyHit {
  readonly shown: ShownCurve;
  readonly index: number;
}
type Press =
  | { kind: 'scrub' }
  | { kind: 'pan'; x: number; y: number }
  | { kind: 'keys'; x: number; y: number; by: number; scale: number; fresh: KeySelection | null }
  | { kind: 'handle'; hit: KeyHit; side: 'in' | 'out' }
  | { kind: 'box'; x: number; y: number; toX: number; toY: number; add: boolean };

/** The curves of what is picked, to be shaped by their keys and handles. */
export function Curves() {
  const shot = useShot((s) => s.shot);
  const { selection, channels, keys, span } = useView();
  const curves = useMemo(() => (shot ? shownCurves(shot, selection, channels) : []), [shot, selection, channels]);
  const [values, setValues] = useState<ValueSpan>({ low: -1, high: 1 });
  const canvas = useRef<HTMLCanvasElement>(null);
  const press = useRef<Press | null>(null);

  const draw = useCanvas(canvas, (element) => {
    if (!shot) return;
    const p = press.current;
    const box =
      p?.kind === 'box'
        ? ([Math.min(p.x, p.toX), Math.min(p.y, p.toY), Math.max(p.x, p.toX), Math.max(p.y, p.toY)] as const)
        : null;
    const shown = p?.kind === 'keys' ? movedSelection(keys, p.by) : livingKeys(shot, keys);
    drawCurves(element, { shot, curves, keys: shown, span, values, frame: usePlayhead.getState().frame, box });
  });
  useEffect(draw);
  useEffect(() => live.listen(draw), [draw]);

  const which = curves.map((c) => c.path).join(' ');
  // A new set of curves comes into the window; while it is the same set, the hand decides what is seen.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the set of curves is what matters, not each version of them
  useEffect(() => setValues(valueSpan(curves)), [which]);
  useEffect(() => {
    curvesRef.current = {
      frameAll() {
        setValues(valueSpan(curves));
        const frames = curves.flatMap((c) => [c.curve.keys[0].frame, c.curve.keys[c.curve.keys.length - 1].frame]);
        if (frames.length === 0) return;
        const [first, last] = [Math.min(...frames), Math.max(...frames)];
        const margin = Math.max(2, (last - first) * 0.05);
        useView.getState().set({ span: { first: first - margin, last: last + margin } });
      },
    };
    return () => {
      curvesRef.current = null;
    };
  }, [curves]);
  useWheel(canvas, (event) => {
    if (!event.shiftKey) {
      zoomOrPan(event, canvas.current!);
      return;
    }
    const about = valueScale(values, canvas.current!.clientHeight).invert(
      event.clientY - canvas.current!.getBoundingClientRect().top,
    );
    const factor = Math.exp((event.deltaY || event.deltaX) * 0.0022);
    setValues({ low: about + (values.low - about) * factor, high: about + (values.high - about) * factor });
  });

  const cancel = useCancel(press, draw);

  if (!shot) return null;
  const size = () => [canvas.current!.clientWidth, canvas.current!.clientHeight] as const;
  const at = (event: PointerEvent) => placeOn(canvas.current!, event);
  const frameAt = (x: number) => timeScale(span, size()[0]).invert(x);
  const valueAt = (y: number) => valueScale(values, size()[1]).invert(y);

  const keyHit = (x: number, y: number): KeyHit | null => {
    const [tx, ty] = [timeScale(span, size()[0]), valueScale(values, size()[1])];
    for (const shown of curves) {
      const index = shown.curve.keys.findIndex(
        (k) => Math.abs(tx(k.frame) - x) < 6 && Math.abs(ty(k.value * shown.scale) - y) < 9,
      );
      if (index >= 0) return { shown, index };
    }
    return null;
  };
  const handleHit = (x: number, y: number): Extract<Press, { kind: 'handle' }> | null => {
    for (const shown of curves) {
      for (const frame of keys[shown.path] ?? []) {
        const index = shown.curve.keys.findIndex((k) => k.frame === frame);
        for (const side of ['in', 'out'] as const) {
          const end = index < 0 ? null : handleEnd({ span, values }, shown, index, side, ...size());
          if (end && Math.hypot(end[0] - x, end[1] - y) < 8) return { kind: 'handle', hit: { shown, index }, side };
        }
      }
    }
    return null;
  };

  const onPointerDown = (event: PointerEvent) => {
    canvas.current!.setPointerCapture(event.pointerId);
    const [x, y] = at(event);
    if (event.button !== 0) {
      press.current = { kind: 'pan', x, y };
      return;
    }
    if (y < RULER) {
      press.current = { kind: 'scrub' };
      scrubTo(frameAt(x), shot);
      return;
    }
    const handle = handleHit(x, y);
    if (handle) {
      press.current = handle;
      return;
    }
    const hit = keyHit(x, y);
    if (!hit) {
      press.current = { kind: 'box', x, y, toX: x, toY: y, add: event.shiftKey };
      return;
    }
    const { path, curve, scale } = hit.shown;
    const { frame } = curve.keys[hit.index];
    const isPicked = keys[path]?.includes(frame) ?? false;
    const alone = { [path]: [frame] };
    if (event.shiftKey) {
      const others = (keys[path] ?? []).filter((f) => f !== frame);
      useView.getState().set({ keys: { ...keys, [path]: isPicked ? others : [...others, frame] } });
    } else if (!isPicked) useView.getState().set({ keys: alone });
    press.current = { kind: 'keys', x, y, by: 0, scale, fresh: isPicked && !event.shiftKey ? alone : null };
  };

  const onPointerMove = (event: PointerEvent) => {
    const p = press.current;
    const [x, y] = at(event);
    if (!p) {
      canvas.current!.style.cursor = handleHit(x, y) || keyHit(x, y) ? 'grab' : 'default';
    } else if (p.kind === 'scrub') scrubTo(frameAt(x), shot);
    else if (p.kind === 'pan') {
      const [by, rise] = [frameAt(p.x) - frameAt(x), valueAt(p.y) - valueAt(y)];
      [p.x, p.y] = [x, y];
      useView.getState().set({ span: { first: span.first + by, last: span.last + by } });
      setValues({ low: values.low + rise, high: values.high + rise });
    } else if (p.kind === 'box') {
      [p.toX, p.toY] = [x, y];
      draw();
    } else if (p.kind === 'handle') dragHandleTo(p, x, y);
    else {
      // With Shift a drag goes only the way it goes most.
      const [dx, dy] = [Math.abs(x - p.x), Math.abs(y - p.y)];
      const by = event.shiftKey && dy > dx ? 0 : Math.round(frameAt(x) - frameAt(p.x));
      const rise = (event.shiftKey && dx >= dy) || dy < 3 ? 0 : (valueAt(y) - valueAt(p.y)) / p.scale;
      p.by = by;
      useShot.getState().preview(moveKeys, { keys, by, rise });
    }
  };

  const dragHandleTo = (p: Extract<Press, { kind: 'handle' }>, x: number, y: number) => {
    const { path, curve, scale } = p.hit.shown;
    const key = curve.keys[p.hit.index];
    const frames = (p.side === 'out' ? 1 : -1) * (frameAt(x) - key.frame);
    useShot.getState().preview(dragHandle, {
      path,
      frame: key.frame,
      side: p.side,
      frames: Math.max(0.01, frames),
      rise: valueAt(y) / scale - key.value,
    });
  };

  const onPointerUp = () => {
    const p = press.current;
    press.current = null;
    if (p?.kind === 'keys') {
      const moved = useShot.getState().shot !== useShot.getState().committed;
      useShot.getState().finish();
      if (moved) useView.getState().set({ keys: movedSelection(keys, p.by) });
      else if (p.fresh) useView.getState().set({ keys: p.fresh });
    } else if (p?.kind === 'handle') useShot.getState().finish();
    else if (p?.kind === 'box') {
      const picked = inBox(p);
      useView.getState().set({ keys: p.add ? { ...keys, ...picked } : picked });
    }
    draw();
  };

  const inBox = (p: Extract<Press, { kind: 'box' }>): KeySelection => {
    const [f0, f1] = [frameAt(Math.min(p.x, p.toX)), frameAt(Math.max(p.x, p.toX))];
    const [v0, v1] = [valueAt(Math.max(p.y, p.toY)), valueAt(Math.min(p.y, p.toY))];
    const found = curves.map(({ path, curve, scale }) => {
      const inside = curve.keys.filter(
        (k) => k.frame >= f0 && k.frame <= f1 && k.value * scale >= v0 && k.value * scale <= v1,
      );
      return [path, inside.map((k) => k.frame)] as const;
    });
    return Object.fromEntries(found.filter(([, frames]) => frames.length > 0));
  };

  return (
    <div className="flex h-full">
      <div className="flex w-64 shrink-0 flex-col border-r border-rule bg-card">
        <CurveTools curves={curves} />
      </div>
      <div className="relative min-w-0 grow">
        <canvas
          ref={canvas}
          className="absolute inset-0 size-full touch-none"
          role="img"
          aria-label="Curves of what is picked. Keys can be picked with E and Shift+E and given exact numbers beside."
          data-testid="curves"
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerCancel={cancel}
          onContextMenu={(event) => event.preventDefault()}
        />
        {curves.length === 0 ? (
          <p className="pointer-events-none absolute inset-0 grid place-items-center text-graphite">
            No curves here yet. Key something on two frames, and its curve appears.
          </p>
        ) : null}
      </div>
    </div>
  );
}
