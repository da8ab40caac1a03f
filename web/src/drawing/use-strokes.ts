import { drawStroke, placeOnTop, type Stroke, strokesOn } from '@varrup/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { pencilNow } from './drawing-tool.ts';
import { MOST_POINTS, Pen } from './pen.ts';

/** What a drawing is made on. */
export interface Paper {
  /** The panel or the note. */
  readonly on: string;
  readonly sheet: number;
  /** Where a place of the window is on it; widths of its canvas without. */
  readonly at?: (x: number, y: number, box: DOMRect) => readonly [number, number];
  /** Shows a line that is not done yet; null takes it away. */
  live(stroke: Stroke | null): void;
}

/** Where the pencil is that is moved by keys, and whether it is down. Widths of the picture. */
export interface KeyPencil {
  readonly x: number;
  readonly y: number;
  readonly down: boolean;
}

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Drawing with pen, mouse and keyboard on a canvas whose width is the picture's. */
export function useStrokes(paper: Paper | null) {
  const pen = useRef<Pen | null>(null);
  const [keys, setKeys] = useState<KeyPencil>({ x: 0.5, y: 0.28, down: false });

  const shown = (now: Pen) => now.stroke(pencilNow(), paper!.on, paper!.sheet, Number.MAX_SAFE_INTEGER / 16);
  /** Puts the line down. */
  const finish = () => {
    const now = pen.current;
    pen.current = null;
    const { committed, run } = useShot.getState();
    if (!now || !paper || !committed || now.count === 0) return;
    paper.live(null);
    const place = placeOnTop(strokesOn(committed.strokes, paper.on));
    run(drawStroke, { stroke: now.stroke(pencilNow(), paper.on, paper.sheet, place) });
  };
  const leave = () => {
    if (pen.current) paper?.live(null);
    pen.current = null;
  };
  // Whoever goes to another panel has put the pencil down.
  const end = useRef(finish);
  end.current = finish;
  // biome-ignore lint/correctness/useExhaustiveDependencies: it ends with the paper it began on.
  useEffect(() => () => end.current(), [paper?.on]);

  const go = (x: number, y: number, pressure: number | null, time: number) => {
    if (!pen.current || !paper) return;
    pen.current.to(x, y, pressure, time);
    if (pen.current.count < MOST_POINTS) return;
    finish();
    pen.current = new Pen();
    pen.current.to(x, y, pressure, time);
  };
  const along = (event: PointerEvent<HTMLCanvasElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const native = event.nativeEvent;
    const all = native.getCoalescedEvents?.() ?? [];
    for (const e of all.length > 0 ? all : [native]) {
      const [x, y] = paper?.at?.(e.clientX, e.clientY, box) ?? [
        (e.clientX - box.left) / box.width,
        (e.clientY - box.top) / box.width,
      ];
      go(x, y, e.pointerType === 'pen' ? e.pressure : null, e.timeStamp);
    }
    if (pen.current && paper) paper.live(shown(pen.current));
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (!paper) return;
    const step = STEPS[event.key];
    if (step) {
      const far = event.shiftKey ? 0.05 : event.altKey ? 0.002 : 0.01;
      const next = { ...keys, x: keys.x + step[0] * far, y: keys.y + step[1] * far };
      setKeys(next);
      if (keys.down && pen.current) {
        go(next.x, next.y, 0.6, event.timeStamp);
        if (pen.current) paper.live(shown(pen.current));
      }
    } else if (event.key === 'Enter') {
      if (keys.down) finish();
      else {
        pen.current = new Pen();
        pen.current.to(keys.x, keys.y, 0.6, event.timeStamp);
        paper.live(shown(pen.current));
      }
      setKeys({ ...keys, down: !keys.down });
    } else if (event.key === 'Escape' && pen.current) {
      leave();
      setKeys({ ...keys, down: false });
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return {
    keys,
    /** To be spread on the canvas. */
    hands: {
      onPointerDown: (event: PointerEvent<HTMLCanvasElement>) => {
        if (event.button !== 0 || !paper) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        event.currentTarget.focus({ preventScroll: true });
        pen.current = new Pen();
        along(event);
      },
      onPointerMove: (event: PointerEvent<HTMLCanvasElement>) => {
        if (pen.current && event.buttons > 0) along(event);
      },
      onPointerUp: finish,
      onPointerCancel: leave,
      onKeyDown,
      onBlur: () => {
        if (!keys.down) return;
        finish();
        setKeys({ ...keys, down: false });
      },
      'data-takes':
        'ArrowLeft ArrowRight ArrowUp ArrowDown Alt+ArrowLeft Alt+ArrowRight Alt+ArrowUp Alt+ArrowDown Enter Escape',
    },
  };
}
