import { holdAt, type KeySelection, type RetimingPlan, runSpan, type Shot, slideSpacing } from '@varrup/core';
import { ChevronDown, ChevronRight, ListFilter, Search } from 'lucide-react';
import { type MouseEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { SideMark } from '../cast/SideMark.tsx';
import { findingsByMember, useFindings } from '../checks/findings.ts';
import { channelHere, membersHere, openHere } from '../menus/here.ts';
import { NotesOverSheet } from '../review/NotesOverSheet.tsx';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { Button } from '../ui/Button.tsx';
import { Menu, MenuItem, MenuLine } from '../ui/Menu.tsx';
import { foldRows, useHabits } from '../view/habits.ts';
import { usePlayhead } from '../view/playhead.ts';
import { pickChannels, pickKeys, select, useSelection } from '../view/selection.ts';
import { type RowFilter, useTiming } from '../view/timing.ts';
import { DragNote } from './DragNote.tsx';
import { draggedBy, dragWords, finishDrag, type Held, heldIn, previewDrag, useCollisionKeys } from './drag-keys.ts';
import { bracketOf, drawSheet, drawSheetNow, ROW, type SheetPicture } from './draw-sheet.ts';
import { joinedKeys, keyNear, livingKeys, selectionOf, toggledKey } from './pick-keys.ts';
import { boxOf, scrubTo, zoomOrPan } from './pointer.ts';
import { RULER } from './ruler.ts';
import { allFolded, foldMark, type RowKey, ribbonHalf, rowKeys, type SheetRow, sheetRows } from './sheet-rows.ts';
import { timeScale } from './time-axis.ts';
import { placeOn, useCancel } from './use-cancel.ts';
import { useCanvas } from './use-canvas.ts';
import { useNow } from './use-now.ts';
import { useWheel } from './use-wheel.ts';

type Press =
  | { kind: 'scrub' }
  | { kind: 'keys'; from: number; x: number; keys: KeySelection; fresh: RowKey | null; event: Held }
  | { kind: 'scale'; about: number; arm: number; x: number; keys: KeySelection; event: Held }
  | { kind: 'ribbon'; row: SheetRow; frame: number; x: number }
  | { kind: 'box'; x: number; y: number; toX: number; toY: number; add: boolean };

const NOTHING: readonly string[] = [];

/** The sheet: who has keys when, and how fast everything moves between them. */
export function Sheet() {
  const shot = useShot((s) => s.shot);
  const selection = useSelection((s) => s.picked);
  const keys = useSelection((s) => s.keys);
  const span = useTiming((s) => s.span);
  const find = useTiming((s) => s.find);
  const filter = useTiming((s) => s.rows);
  const folded = useHabits((h) => (shot ? h.folded[shot.id] : undefined)) ?? NOTHING;
  const here = usePlayhead((p) => (filter === 'here' ? p.settled : 0));
  const rows = useMemo(
    () => (shot ? sheetRows(shot, { selection, folded, find, filter, frame: here }) : []),
    [shot, selection, folded, find, filter, here],
  );
  const findings = findingsByMember(useFindings((f) => f.findings));
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const preview = usePreview('sheet');
  const press = useRef<Press | null>(null);
  const plan = useRef<RetimingPlan | null>(null);
  const [wanted, setScroll] = useState(0);
  const [height, setHeight] = useState(0);
  const [note, setNote] = useState('');
  const scroll = Math.max(0, Math.min(wanted, rows.length * ROW - height + RULER));

  const picture = (of: Shot): SheetPicture => {
    const p = press.current;
    const box = p?.kind === 'box' ? boxOf(p) : null;
    return { shot: of, rows, keys: plan.current?.keys ?? livingKeys(of, keys), selection, span, scroll, findings, box };
  };
  const draw = useCanvas(canvas, (element) => {
    if (!shot) return;
    if (element.clientHeight !== height) setHeight(element.clientHeight);
    drawSheet(element, picture(shot));
  });
  useEffect(draw);
  const now = useRef<HTMLCanvasElement>(null);
  useNow(now, (element, frame) => {
    if (shot) drawSheetNow(element, picture(shot), frame);
  });

  const x = (frame: number) => timeScale(span, canvas.current!.clientWidth)(frame);
  const frameAt = (px: number) => timeScale(span, canvas.current!.clientWidth).invert(px);
  useWheel(box, (event) => {
    if (event.ctrlKey || event.altKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      zoomOrPan(event, canvas.current!);
      return;
    }
    setScroll(Math.max(0, scroll + event.deltaY));
  });

  const letGo = () => {
    plan.current = null;
    setNote('');
    draw();
  };
  const cancel = useCancel(press, preview, letGo);

  /** Shows the drag that is under way, at where the hand is and with what it holds down. */
  const showDrag = () => {
    const p = press.current;
    if (p?.kind === 'keys') {
      // With Ctrl held, keys leave the whole frames.
      const by = draggedBy(frameAt(p.from), frameAt(p.x) - frameAt(p.from), p.event.ctrl);
      plan.current = by === 0 ? null : previewDrag(preview, p.keys, { how: { kind: 'move', by }, copy: p.event.alt });
      if (by === 0) preview.drop();
    } else if (p?.kind === 'scale') {
      const arm = frameAt(p.x) - p.about;
      const to = p.event.ctrl ? arm : Math.round(arm);
      const factor = Math.max(0.01, to / p.arm);
      plan.current = previewDrag(preview, p.keys, {
        how: { kind: 'scale', about: p.about, factor, whole: !p.event.ctrl },
      });
    }
    if (plan.current) setNote(dragWords(plan.current, shot!.rate, p?.kind === 'keys' && p.event.alt));
    draw();
  };
  useCollisionKeys(press, showDrag);

  if (!shot) return null;
  const at = (event: PointerEvent) => placeOn(canvas.current!, event);
  const rowAt = (y: number): SheetRow | undefined => rows[Math.floor((y - RULER + scroll) / ROW)];

  /** What a press at a place would take hold of. */
  const under = (px: number, py: number) => {
    const bracket = bracketOf(livingKeys(shot, keys), span, canvas.current!.clientWidth);
    if (bracket && py >= RULER - 10 && py < RULER + 2) {
      if (Math.abs(px - bracket.from) < 7) return { kind: 'grip' as const, end: 'first' as const };
      if (Math.abs(px - bracket.to) < 7) return { kind: 'grip' as const, end: 'last' as const };
      if (px > bracket.from && px < bracket.to && py > RULER - 8) return { kind: 'bracket' as const };
    }
    if (py < RULER) return { kind: 'ruler' as const };
    const row = rowAt(py);
    if (!row) return { kind: 'nothing' as const };
    const key = keyNear(shot, row, span, canvas.current!.clientWidth, px);
    if (key) return { kind: 'key' as const, row, key };
    const middle = RULER + Math.floor((py - RULER + scroll) / ROW) * ROW - scroll + ROW / 2;
    const half = ribbonHalf(shot, row, frameAt(px));
    if (half > 2 && Math.abs(py - middle) <= Math.max(3, half) && selection.includes(row.member)) {
      return { kind: 'ribbon' as const, row };
    }
    return { kind: 'nothing' as const, row };
  };

  const onPointerDown = (event: PointerEvent) => {
    if (event.button !== 0) return;
    canvas.current!.setPointerCapture(event.pointerId);
    const [px, py] = at(event);
    const hit = under(px, py);
    const living = livingKeys(shot, keys);
    if (hit.kind === 'ruler') {
      press.current = { kind: 'scrub' };
      scrubTo(frameAt(px), shot);
    } else if (hit.kind === 'grip') {
      const run = runSpan(living)!;
      // With Shift the other end does not hold still: time is scaled about the current frame.
      const about = event.shiftKey ? usePlayhead.getState().frame : hit.end === 'first' ? run.last : run.first;
      const arm = run[hit.end] - about;
      if (arm !== 0) press.current = { kind: 'scale', about, arm, x: px, keys: living, event: heldIn(event) };
    } else if (hit.kind === 'bracket') {
      press.current = { kind: 'keys', from: px, x: px, keys: living, fresh: null, event: heldIn(event) };
    } else if (hit.kind === 'key') pressKey(hit.row, hit.key, px, event);
    else if (hit.kind === 'ribbon') press.current = { kind: 'ribbon', row: hit.row, frame: frameAt(px), x: px };
    else {
      press.current = { kind: 'box', x: px, y: py, toX: px, toY: py, add: event.shiftKey };
      if (hit.row && !event.shiftKey) select([hit.row.member]);
    }
  };

  const pressKey = (row: SheetRow, key: RowKey, px: number, event: PointerEvent) => {
    const isPicked = key.paths.some((p) => keys[p]?.includes(key.frame));
    const next = event.shiftKey ? toggledKey(keys, key) : isPicked ? keys : selectionOf([key]);
    pickKeys(next);
    if (!event.shiftKey && !useSelection.getState().picked.includes(row.member)) select([row.member]);
    press.current = {
      kind: 'keys',
      from: px,
      x: px,
      keys: livingKeys(shot, next),
      fresh: isPicked && !event.shiftKey ? key : null,
      event: heldIn(event),
    };
  };

  const onPointerMove = (event: PointerEvent) => {
    const p = press.current;
    const [px, py] = at(event);
    if (!p) {
      canvas.current!.style.cursor = cursors[under(px, py).kind];
    } else if (p.kind === 'scrub') scrubTo(frameAt(px), shot);
    else if (p.kind === 'box') {
      [p.toX, p.toY] = [px, py];
      draw();
    } else if (p.kind === 'ribbon') {
      const by = frameAt(px) - frameAt(p.x);
      preview.show(slideSpacing, { paths: p.row.paths, frame: p.frame, by });
      setNote(`the spacing of ${p.row.label} slides ${Math.abs(by).toFixed(1)} frames ${by < 0 ? 'earlier' : 'later'}`);
    } else {
      p.x = px;
      p.event = heldIn(event);
      showDrag();
    }
  };

  const onPointerUp = (event: PointerEvent) => {
    const p = press.current;
    press.current = null;
    if (p?.kind === 'ribbon') preview.keep();
    else if (p?.kind === 'keys' || p?.kind === 'scale') {
      if (plan.current) finishDrag(preview, plan.current);
      else if (p.kind === 'keys' && p.fresh && !event.shiftKey) pickKeys(selectionOf([p.fresh]));
    } else if (p?.kind === 'box') {
      const picked = inBox(p);
      pickKeys(p.add ? joinedKeys(keys, selectionOf(picked)) : selectionOf(picked));
    }
    letGo();
  };

  /** The menu of the key under the pointer, or of whose row it is. */
  const onContextMenu = (event: MouseEvent) => {
    event.preventDefault();
    const [px, py] = placeOn(canvas.current!, event);
    const hit = under(px, py);
    if (hit.kind === 'key') {
      const isPicked = hit.key.paths.some((p) => keys[p]?.includes(hit.key.frame));
      if (!isPicked) pickKeys(selectionOf([hit.key]));
      openHere('keys', event);
    } else if ('row' in hit && hit.row) rowHere(hit.row, event);
  };

  const inBox = (p: Extract<Press, { kind: 'box' }>): RowKey[] => {
    const [x0, y0, x1, y1] = boxOf(p);
    return rows.flatMap((row, i) => {
      const middle = RULER + i * ROW - scroll + ROW / 2;
      if (middle < y0 || middle > y1) return [];
      return rowKeys(shot, row).filter((k) => x(k.frame) >= x0 && x(k.frame) <= x1);
    });
  };

  const first = Math.floor(scroll / ROW);
  const visible = rows.slice(first, first + Math.ceil(height / ROW) + 1);
  return (
    <div className="flex h-full" ref={box}>
      <div className="relative w-64 shrink-0 overflow-hidden border-r border-rule bg-card">
        <ul
          className="absolute inset-x-0"
          style={{ top: RULER + first * ROW - scroll }}
          aria-label={`Rows of the sheet, ${rows.length} in all`}
        >
          {visible.map((row) => (
            <RowName key={row.id} shot={shot} row={row} folded={folded} picked={selection.includes(row.member)} />
          ))}
        </ul>
        <FindRows shot={shot} />
      </div>
      <div className="relative min-w-0 grow">
        <canvas
          ref={canvas}
          className="absolute inset-0 size-full touch-none"
          role="img"
          aria-label="Keys over time. Keys can be picked with E and Shift+E, moved with Alt+arrows, retimed with R and deleted with Delete."
          data-testid="sheet"
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerCancel={cancel}
          onContextMenu={onContextMenu}
        />
        <canvas ref={now} className="pointer-events-none absolute inset-0 size-full" aria-hidden />
        {canvas.current && shot.notes.size > 0 ? (
          <NotesOverSheet
            shot={shot}
            rows={rows}
            x={timeScale(span, canvas.current.clientWidth)}
            top={RULER - scroll}
            row={ROW}
            below={RULER}
          />
        ) : null}
        <DragNote text={note} />
        {rows.length === 0 ? (
          <p className="pointer-events-none absolute inset-0 grid place-items-center text-graphite">
            {find || filter !== 'keyed'
              ? 'No row is like that. Clear the search, or show all rows again.'
              : 'No keys yet. Pick something, pose it, and press K to key it on this frame.'}
          </p>
        ) : null}
      </div>
    </div>
  );
}

/** The menu of a row: of its channel, or of whose it is. */
function rowHere(row: SheetRow, place: { clientX: number; clientY: number }): void {
  if (row.path) channelHere(row.path, place);
  else membersHere([row.member], place);
}

const cursors = {
  grip: 'ew-resize',
  bracket: 'grab',
  ruler: 'default',
  key: 'ew-resize',
  ribbon: 'col-resize',
  nothing: 'default',
} as const;

const filterWords: Record<RowFilter, string> = {
  keyed: 'everybody who has keys',
  picked: 'only who is picked',
  here: 'only what is keyed on this frame',
};

/** Finds rows by a word, and chooses which are shown. */
function FindRows({ shot }: { shot: Shot }) {
  const find = useTiming((s) => s.find);
  const rows = useTiming((s) => s.rows);
  return (
    <div className="absolute inset-x-0 top-0 flex items-center gap-1 bg-card pr-1 pl-2" style={{ height: RULER - 1 }}>
      <Search size={12} className="shrink-0 text-graphite" aria-hidden />
      <input
        type="search"
        aria-label="Find rows"
        placeholder="find rows"
        value={find}
        onChange={(event) => useTiming.setState({ find: event.target.value })}
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          useTiming.setState({ find: '' });
          event.currentTarget.blur();
        }}
        className="h-5 min-w-0 grow bg-transparent text-sm outline-none"
      />
      <Menu
        align="end"
        trigger={
          <Button
            look="icon"
            className="size-5!"
            aria-label={`Rows shown: ${filterWords[rows]}`}
            title="Which rows are shown"
            aria-pressed={rows !== 'keyed'}
          >
            <ListFilter size={13} />
          </Button>
        }
      >
        {(Object.keys(filterWords) as RowFilter[]).map((filter) => (
          <MenuItem key={filter} checked={rows === filter} onPick={() => useTiming.setState({ rows: filter })}>
            {filterWords[filter]}
          </MenuItem>
        ))}
        <MenuLine />
        <MenuItem onPick={() => foldRows(shot.id, allFolded(shot, true))}>fold all</MenuItem>
        <MenuItem onPick={() => foldRows(shot.id, allFolded(shot, false))}>unfold all</MenuItem>
      </Menu>
    </div>
  );
}

function RowName({
  shot,
  row,
  folded,
  picked,
}: {
  shot: Shot;
  row: SheetRow;
  folded: readonly string[];
  picked: boolean;
}) {
  const member = shot.members.at(row.member);
  const mark = foldMark(member);
  const fold = () => foldRows(shot.id, folded.includes(mark) ? folded.filter((m) => m !== mark) : [...folded, mark]);
  const control = shot.rigs.controlOf(member);
  const here = usePlayhead((p) => p.settled);
  const held = control ? holdAt(member, here)?.by.is : undefined;
  return (
    <li
      className={`flex items-center ${picked ? 'bg-blue-wash' : ''}`}
      style={{ height: ROW }}
      data-here
      onContextMenu={(event) => {
        event.preventDefault();
        rowHere(row, event);
      }}
    >
      {row.path === null ? (
        <button
          type="button"
          onClick={fold}
          aria-label={row.folded ? `Unfold ${row.label}` : `Fold ${row.label}`}
          aria-expanded={!row.folded}
          className={`grid h-6 w-6 shrink-0 ${control ? 'ml-3' : ''} place-items-center rounded text-graphite hover:text-ink`}
        >
          {row.folded ? <ChevronRight size={13} /> : <ChevronDown size={13} />}
        </button>
      ) : (
        <span className={`shrink-0 ${control ? 'w-14' : 'w-10'}`} />
      )}
      <button
        type="button"
        title={`${row.label}: press to pick it, twice to pick all its keys`}
        onClick={(event) => {
          const { channels } = useSelection.getState();
          const adding = event.shiftKey || event.ctrlKey || event.metaKey;
          const kept = adding ? channels : [];
          select([row.member], adding ? 'add' : 'only');
          if (row.path) pickChannels([...kept.filter((p) => p !== row.path), row.path]);
        }}
        onDoubleClick={() => {
          // Twice: all its keys.
          const all = Object.fromEntries(row.paths.map((p) => [p, shot.curves.at(p).keys.map((k) => k.frame)]));
          pickKeys(all);
        }}
        className={`min-w-0 grow truncate rounded pr-2 text-left ${row.path ? 'text-sm text-graphite' : 'font-medium'}`}
      >
        {control && row.path === null ? (
          <span className="mr-1.5 inline-block align-middle">
            <SideMark side={control.side} />
          </span>
        ) : null}
        {row.label}
      </button>
      {held && held !== 'own' && row.path === null ? (
        <span className="shrink-0 pr-2 text-sm text-graphite">{held === 'stage' ? 'planted' : 'carried'}</span>
      ) : null}
    </li>
  );
}
