import {
  controlsOf,
  dragHandle,
  handleReach,
  type KeySelection,
  playedCurve,
  type RetimingPlan,
  type Shot,
  splitPath,
} from '@varrup/core';
import { extent } from 'd3';
import { type MouseEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { openHere } from '../menus/here.ts';
import { NotesOverCurves } from '../review/NotesOverCurves.tsx';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { useCurveView } from '../view/curve-view.ts';
import { pickKeys, useSelection } from '../view/selection.ts';
import { useTiming } from '../view/timing.ts';
import { useAsItWas } from './as-it-was.ts';
import { CurveBar } from './CurveBar.tsx';
import { CurveTools } from './CurveTools.tsx';
import { type HandleHit, handleUnder, keysWithin, keyUnder } from './curve-hits.ts';
import { curvesRef } from './curves-ref.ts';
import { DragNote } from './DragNote.tsx';
import { draggedBy, dragWords, finishDrag, type Held, heldIn, previewDrag, useCollisionKeys } from './drag-keys.ts';
import { drawCurves } from './draw-curves.ts';
import { drawNowAlone } from './draw-time.ts';
import { joinedKeys, livingKeys } from './pick-keys.ts';
import { boxOf, scrubTo, zoomOrPan } from './pointer.ts';
import { RULER } from './ruler.ts';
import { shownCurve, shownCurves, valueSpan } from './shown-curves.ts';
import { timeScale } from './time-axis.ts';
import { placeOn, useCancel } from './use-cancel.ts';
import { useCanvas } from './use-canvas.ts';
import { useNow } from './use-now.ts';
import { useWheel } from './use-wheel.ts';
import { type ValueSpan, valueScale } from './value-axis.ts';

/** Less rise than this, in pixels, was not meant. */
const LEAST_RISE = 3;

type Press =
  | { kind: 'scrub' }
  | { kind: 'pan'; x: number; y: number }
  | { kind: 'keys'; from: Place; to: Place; scale: number; keys: KeySelection; fresh: KeySelection | null; event: Held }
  | { kind: 'handle'; hit: HandleHit }
  | { kind: 'box'; x: number; y: number; toX: number; toY: number; add: boolean };

interface Place {
  readonly x: number;
  readonly y: number;
}

/** The curves of what is picked, to be shaped by their keys and handles. */
export function Curves() {
  const shot = useShot((s) => s.shot);
  const selection = useSelection((s) => s.picked);
  const channels = useSelection((s) => s.channels);
  const keys = useSelection((s) => s.keys);
  const span = useTiming((s) => s.span);
  const pinned = useCurveView((s) => s.pinned);
  const hidden = useCurveView((s) => s.hidden);
  const isolated = useCurveView((s) => s.isolated);
  const normal = useCurveView((s) => s.normal);
  const speed = useCurveView((s) => s.speed);
  const holdLength = useCurveView((s) => s.holdLength);
  const listed = useMemo(
    () => (shot ? shownCurves(shot, { selection, channels, pinned, hidden, isolated, normal }) : []),
    [shot, selection, channels, pinned, hidden, isolated, normal],
  );
  const curves = useMemo(() => listed.filter((c) => !hidden.includes(c.path)), [listed, hidden]);
  const asItWas = useAsItWas();
  const before = useMemo(
    () =>
      !shot
        ? []
        : curves.flatMap(({ path, curve, scale, shift }) => {
            // The curve as it was, and what it comes to with the tracks it corrects; by the measure of the curve of now, to be compared.
            const others = [asItWas?.curves.get(path), playedCurve(shot, path)];
            return others.flatMap((other) => {
              const shown =
                other?.type === 'number' && other !== curve ? shownCurve(shot, path, other, false, true) : null;
              return shown ? [{ ...shown, scale, shift }] : [];
            });
          }),
    [shot, curves, asItWas],
  );
  const plan = useRef<RetimingPlan | null>(null);
  const [note, setNote] = useState('');
  const [values, setValues] = useState<ValueSpan>({ low: -1, high: 1 });
  const canvas = useRef<HTMLCanvasElement>(null);
  const preview = usePreview('curves');
  const press = useRef<Press | null>(null);

  const draw = useCanvas(canvas, (element) => {
    if (!shot) return;
    const p = press.current;
    const box = p?.kind === 'box' ? boxOf(p) : null;
    const shown = plan.current?.keys ?? livingKeys(shot, keys);
    drawCurves(element, { shot, curves, before, keys: shown, span, values, normal, speed, box });
  });
  useEffect(draw);
  const now = useRef<HTMLCanvasElement>(null);
  useNow(now, (element, frame) => drawNowAlone(element, frame, span));

  const which = `${normal} ${curves.map((c) => c.path).join(' ')}`;
  // A new set of curves comes into the window; while it is the same set, the hand decides what is seen.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the set of curves is what matters, not each version of them
  useEffect(() => setValues(valueSpan(curves)), [which]);
  useEffect(() => {
    curvesRef.current = {
      frame(what) {
        const picked = what === 'picked' ? livingKeys(useShot.getState().shot!, useSelection.getState().keys) : null;
        const wanted = picked ? curves.filter((c) => picked[c.path]) : curves;
        const places = wanted.flatMap((c) =>
          c.curve.keys
            .filter((k) => !picked || picked[c.path].includes(k.frame))
            .map((k) => [k.frame, k.value * c.scale + c.shift] as const),
        );
        if (places.length === 0) return;
        const [first = 0, last = 0] = extent(places, ([f]) => f);
        const margin = Math.max(2, (last - first) * 0.05);
        useTiming.setState({ span: { first: first - margin, last: last + margin } });
        setValues(picked ? spanOf(places.map(([, v]) => v)) : valueSpan(curves));
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

  const letGo = () => {
    plan.current = null;
    setNote('');
    draw();
  };
  const cancel = useCancel(press, preview, letGo);

  /** Shows the drag of keys that is under way. */
  const showDrag = () => {
    const p = press.current;
    if (p?.kind !== 'keys' || !canvas.current) return;
    const [x, y] = [timeScale(span, canvas.current.clientWidth), valueScale(values, canvas.current.clientHeight)];
    const [dx, dy] = [Math.abs(p.to.x - p.from.x), Math.abs(p.to.y - p.from.y)];
    // With Shift a drag goes only the way it goes most; with Ctrl it leaves the whole frames.
    const [from, to] = [x.invert(p.from.x), x.invert(p.to.x)];
    const by = p.event.shift && dy > dx ? 0 : draggedBy(from, to - from, p.event.ctrl);
    const lifted = (!p.event.shift || dx < dy) && dy >= LEAST_RISE;
    const rise = lifted ? (y.invert(p.to.y) - y.invert(p.from.y)) / p.scale : 0;
    if (by === 0 && rise === 0) {
      plan.current = null;
      preview.drop();
    } else plan.current = previewDrag(preview, p.keys, { how: { kind: 'move', by }, rise, copy: p.event.alt });
    setNote(plan.current && by !== 0 ? dragWords(plan.current, shot!.rate, p.event.alt) : '');
    draw();
  };
  useCollisionKeys(press, showDrag);

  if (!shot) return null;
  const size = () => [canvas.current!.clientWidth, canvas.current!.clientHeight] as const;
  const at = (event: PointerEvent) => placeOn(canvas.current!, event);
  const frameAt = (x: number) => timeScale(span, size()[0]).invert(x);
  const valueAt = (y: number) => valueScale(values, size()[1]).invert(y);

  const here = () => ({ curves, keys, span, values, width: size()[0], height: size()[1] });

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
    const handle = handleUnder(here(), x, y);
    if (handle) {
      press.current = { kind: 'handle', hit: handle };
      return;
    }
    const hit = keyUnder(here(), x, y);
    if (!hit) {
      press.current = { kind: 'box', x, y, toX: x, toY: y, add: event.shiftKey };
      return;
    }
    const { path, curve, scale } = hit.shown;
    const { frame } = curve.keys[hit.index];
    const isPicked = keys[path]?.includes(frame) ?? false;
    const alone = { [path]: [frame] };
    const others = (keys[path] ?? []).filter((f) => f !== frame);
    const next = event.shiftKey ? { ...keys, [path]: isPicked ? others : [...others, frame] } : isPicked ? keys : alone;
    pickKeys(next);
    const place = { x, y };
    press.current = {
      kind: 'keys',
      from: place,
      to: place,
      scale,
      keys: livingKeys(shot, next),
      fresh: isPicked && !event.shiftKey ? alone : null,
      event: heldIn(event),
    };
  };

  const onPointerMove = (event: PointerEvent) => {
    const p = press.current;
    const [x, y] = at(event);
    if (!p) {
      canvas.current!.style.cursor = handleUnder(here(), x, y) || keyUnder(here(), x, y) ? 'grab' : 'default';
    } else if (p.kind === 'scrub') scrubTo(frameAt(x), shot);
    else if (p.kind === 'pan') {
      const [by, rise] = [frameAt(p.x) - frameAt(x), valueAt(p.y) - valueAt(y)];
      [p.x, p.y] = [x, y];
      useTiming.setState({ span: { first: span.first + by, last: span.last + by } });
      setValues({ low: values.low + rise, high: values.high + rise });
    } else if (p.kind === 'box') {
      [p.toX, p.toY] = [x, y];
      draw();
    } else if (p.kind === 'handle') dragHandleTo(p, x, y);
    else {
      p.to = { x, y };
      p.event = heldIn(event);
      showDrag();
    }
  };

  const dragHandleTo = (p: Extract<Press, { kind: 'handle' }>, x: number, y: number) => {
    const { path, curve, scale, shift } = p.hit.shown;
    const key = curve.keys[p.hit.index];
    const frames = Math.max(0.01, (p.hit.side === 'out' ? 1 : -1) * (frameAt(x) - key.frame));
    const rise = (valueAt(y) - shift) / scale - key.value;
    // A held length only turns: the handle keeps its reach in frames.
    const held = holdLength ? (handleReach(curve, p.hit.index, p.hit.side)?.frames ?? frames) : frames;
    preview.show(dragHandle, {
      path,
      frame: key.frame,
      side: p.hit.side,
      frames: held,
      rise: (rise * held) / frames,
    });
  };

  /** The menu of the key under the pointer, unless the press goes over the graph. */
  const onContextMenu = (event: MouseEvent) => {
    event.preventDefault();
    const hit = keyUnder(here(), ...placeOn(canvas.current!, event));
    if (!hit) return;
    press.current = null;
    const frame = hit.shown.curve.keys[hit.index].frame;
    if (!keys[hit.shown.path]?.includes(frame)) pickKeys({ [hit.shown.path]: [frame] });
    openHere('keys', event);
  };

  const onPointerUp = () => {
    const p = press.current;
    press.current = null;
    if (p?.kind === 'keys') {
      if (plan.current) finishDrag(preview, plan.current);
      else if (p.fresh) pickKeys(p.fresh);
    } else if (p?.kind === 'handle') preview.keep();
    else if (p?.kind === 'box') {
      const picked = keysWithin(here(), boxOf(p));
      pickKeys(p.add ? joinedKeys(keys, picked) : picked);
    }
    letGo();
  };

  const keyedRig = shot && curves.length === 0 ? rigWithKeys(shot, selection) : null;
  return (
    <div className="flex h-full">
      <div className="flex w-64 shrink-0 flex-col border-r border-rule bg-card">
        <CurveTools listed={listed} />
      </div>
      <div className="flex min-w-0 grow flex-col">
        <CurveBar curves={curves} />
        <div className="relative min-h-0 grow">
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
            onContextMenu={onContextMenu}
          />
          <canvas ref={now} className="pointer-events-none absolute inset-0 size-full" aria-hidden />
          {shot && canvas.current && shot.notes.size > 0 ? (
            <NotesOverCurves
              shot={shot}
              curves={curves}
              x={timeScale(span, canvas.current.clientWidth)}
              y={valueScale(values, canvas.current.clientHeight)}
            />
          ) : null}
          {curves.length === 0 ? (
            <p className="pointer-events-none absolute inset-0 grid place-items-center text-graphite">
              {keyedRig
                ? `The keys of ${keyedRig} are on its controls: pick one, in the stage or in the sheet, to see its curves.`
                : 'No curves here yet. Key something on two frames, and its curve appears.'}
            </p>
          ) : null}
          <DragNote text={note} />
        </div>
      </div>
    </div>
  );
}

/** The name of a picked rig whose controls have keys. */
function rigWithKeys(shot: Shot, selection: readonly string[]): string | null {
  const rig = selection.map((id) => shot.members.get(id)).find((m) => m?.kind === 'rig');
  const own = rig && new Set(controlsOf(shot, rig.id).map((c) => c.id));
  return own && shot.curves.keys().some((path) => own.has(splitPath(path).member)) ? rig.name : null;
}

/** Values shown with a margin of their own. */
function spanOf(values: readonly number[]): ValueSpan {
  const [low = -1, high = 1] = extent(values);
  const margin = Math.max((high - low) * 0.3, 0.05);
  return { low: low - margin, high: high + margin };
}
