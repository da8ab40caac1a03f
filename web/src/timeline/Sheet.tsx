import { countKeys, movedSelection, moveKeys, planRetiming } from '@varrup/core';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useView } from '../view/view-store.ts';
import { drawSheet, ROW } from './draw-sheet.ts';
import { RULER } from './draw-time.ts';
import { keyNear, livingKeys, selectionOf, toggledKey } from './pick-keys.ts';
import { scrubTo, zoomOrPan } from './pointer.ts';
import { type RowKey, rowKeys, type SheetRow, sheetRows } from './sheet-rows.ts';
import { timeScale } from './time-axis.ts';
import { placeOn, useCancel } from './use-cancel.ts';
import { useCanvas } from './use-canvas.ts';
import { useWheel } from './use-wheel.ts';

type Press =
  | { kind: 'scrub' }
  | { kind: 'keys'; from: number; by: number; copy: boolean; fresh: RowKey | null }
  | { kind: 'box'; x: number; y: number; toX: number; toY: number; add: boolean };

/** The sheet: who has keys when, and how fast everything moves between them. */
export function Sheet() {
  const shot = useShot((s) => s.shot);
  const { selection, folded, keys, span } = useView();
  const rows = useMemo(() => (shot ? sheetRows(shot, selection, folded) : []), [shot, selection, folded]);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const press = useRef<Press | null>(null);
  const [scroll, setScroll] = useState(0);
  const [note, setNote] = useState('');

  const draw = useCanvas(canvas, (element) => {
    if (!shot) return;
    const p = press.current;
    const drawn =
      p?.kind === 'box'
        ? ([Math.min(p.x, p.toX), Math.min(p.y, p.toY), Math.max(p.x, p.toX), Math.max(p.y, p.toY)] as const)
        : null;
    const shown = p?.kind === 'keys' ? movedSelection(keys, p.by) : livingKeys(shot, keys);
    drawSheet(element, {
      shot,
      rows,
      keys: shown,
      selection,
      span,
      scroll,
      frame: usePlayhead.getState().frame,
      box: drawn,
    });
  });
  useEffect(draw);
  useEffect(() => live.listen(draw), [draw]);

  const frameAt = (x: number) => timeScale(span, canvas.current!.clientWidth).invert(x);
  useWheel(box, (event) => {
    if (event.ctrlKey || event.altKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      zoomOrPan(event, canvas.current!);
      return;
    }
    const most = Math.max(0, rows.length * ROW - canvas.current!.clientHeight + RULER);
    setScroll((s) => Math.min(most, Math.max(0, s + event.deltaY)));
  });

  const cancel = useCancel(press, () => setNote(''));

  if (!shot) return null;
  const at = (event: PointerEvent) => placeOn(canvas.current!, event);
  const rowAt = (y: number): SheetRow | undefined => rows[Math.floor((y - RULER + scroll) / ROW)];

  const onPointerDown = (event: PointerEvent) => {
    if (event.button !== 0) return;
    canvas.current!.setPointerCapture(event.pointerId);
    const [x, y] = at(event);
    if (y < RULER) {
      press.current = { kind: 'scrub' };
      scrubTo(frameAt(x), shot);
      return;
    }
    const row = rowAt(y);
    const key = row && keyNear(shot, row, span, canvas.current!.clientWidth, x);
    if (!key) {
      press.current = { kind: 'box', x, y, toX: x, toY: y, add: event.shiftKey };
      if (row && !event.shiftKey) useView.getState().select([row.member]);
      return;
    }
    const isPicked = key.paths.some((p) => keys[p]?.includes(key.frame));
    if (event.shiftKey) useView.getState().set({ keys: toggledKey(keys, key) });
    else if (!isPicked) useView.getState().set({ keys: selectionOf([key]) });
    if (!event.shiftKey && !useView.getState().selection.includes(row.member)) useView.getState().select([row.member]);
    press.current = { kind: 'keys', from: x, by: 0, copy: event.altKey, fresh: isPicked ? key : null };
  };

  const onPointerMove = (event: PointerEvent) => {
    const p = press.current;
    const [x, y] = at(event);
    if (!p) {
      const row = y > RULER ? rowAt(y) : undefined;
      const over = row && keyNear(shot, row, span, canvas.current!.clientWidth, x);
      canvas.current!.style.cursor = over ? 'ew-resize' : 'default';
    } else if (p.kind === 'scrub') scrubTo(frameAt(x), shot);
    else if (p.kind === 'box') {
      [p.toX, p.toY] = [x, y];
      draw();
    } else {
      const by = Math.round(frameAt(x) - frameAt(p.from));
      if (by === p.by) return;
      p.by = by;
      p.copy = event.altKey;
      const base = useShot.getState().committed!;
      const hits = planRetiming(base, keys, { kind: 'move', by }, 'replace').replaced;
      setNote(dragNote(countKeys(keys), by, hits, p.copy, shot.rate));
      useShot.getState().preview(moveKeys, { keys, by, copy: p.copy });
    }
  };

  const onPointerUp = (event: PointerEvent) => {
    const p = press.current;
    press.current = null;
    setNote('');
    if (p?.kind === 'keys' && p.by !== 0) {
      useShot.getState().finish();
      useView.getState().set({ keys: movedSelection(keys, p.by) });
    } else if (p?.kind === 'keys' && p.fresh && !event.shiftKey) {
      useView.getState().set({ keys: selectionOf([p.fresh]) });
    } else if (p?.kind === 'box') {
      const picked = inBox(p);
      useView.getState().set({ keys: p.add ? { ...keys, ...selectionOf(picked) } : selectionOf(picked) });
    }
    draw();
  };

  const inBox = (p: Extract<Press, { kind: 'box' }>): RowKey[] => {
    const [y0, y1] = [Math.min(p.y, p.toY), Math.max(p.y, p.toY)];
    const [f0, f1] = [frameAt(Math.min(p.x, p.toX)), frameAt(Math.max(p.x, p.toX))];
    return rows.flatMap((row, i) => {
      const middle = RULER + i * ROW - scroll + ROW / 2;
      return middle < y0 || middle > y1 ? [] : rowKeys(shot, row).filter((k) => k.frame >= f0 && k.frame <= f1);
    });
  };

  return (
    <div className="flex h-full" ref={box}>
      <div className="relative w-64 shrink-0 overflow-hidden border-r border-rule bg-card">
        <ul className="absolute inset-x-0" style={{ top: RULER - scroll }} aria-label="Rows of the sheet">
          {rows.map((row) => (
            <RowName key={row.id} row={row} picked={selection.includes(row.member)} />
          ))}
        </ul>
        <div className="absolute inset-x-0 top-0 bg-card" style={{ height: RULER - 1 }} />
      </div>
      <div className="relative min-w-0 grow">
        <canvas
          ref={canvas}
          className="absolute inset-0 size-full touch-none"
          role="img"
          aria-label="Keys over time. Keys can be picked with E and Shift+E, moved with Alt+arrows and deleted with Delete."
          data-testid="sheet"
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerCancel={cancel}
        />
        {note ? (
          <div
            className="pointer-events-none absolute bottom-2 left-3 rounded-md bg-ink px-2 py-1 text-sm text-on-solid"
            role="status"
          >
            {note}
          </div>
        ) : null}
        {rows.length === 0 ? (
          <p className="pointer-events-none absolute inset-0 grid place-items-center text-graphite">
            No keys yet. Pick something, pose it, and press K to key it on this frame.
          </p>
        ) : null}
      </div>
    </div>
  );
}

function dragNote(count: number, by: number, hits: number, copy: boolean, rate: number): string {
  const what = `${copy ? 'copy' : 'move'} ${count === 1 ? 'a key' : `${count} keys`} by ${by} (${(by / rate).toFixed(2)} s)`;
  return hits > 0 ? `${what}: replaces ${hits === 1 ? 'a key' : `${hits} keys`}` : what;
}

function RowName({ row, picked }: { row: SheetRow; picked: boolean }) {
  const fold = () => {
    const { folded, set } = useView.getState();
    set({ folded: row.folded ? folded.filter((id) => id !== row.member) : [...folded, row.member] });
  };
  return (
    <li className={`flex items-center ${picked ? 'bg-blue-wash' : ''}`} style={{ height: ROW }}>
      {row.path === null ? (
        <button
          type="button"
          onClick={fold}
          aria-label={row.folded ? `Unfold ${row.label}` : `Fold ${row.label}`}
          aria-expanded={!row.folded}
          className="grid h-6 w-6 shrink-0 place-items-center rounded text-graphite hover:text-ink"
        >
          {row.folded ? <ChevronRight size={13} /> : <ChevronDown size={13} />}
        </button>
      ) : (
        <span className="w-10 shrink-0" />
      )}
      <button
        type="button"
        title={row.label}
        onClick={() => {
          useView.getState().select([row.member]);
          if (row.path) useView.getState().set({ channels: [row.path] });
        }}
        className={`min-w-0 grow truncate rounded pr-2 text-left ${row.path ? 'text-sm text-graphite' : 'font-medium'}`}
      >
        {row.label}
      </button>
    </li>
  );
}
