import {
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { changePanel, movePanel, type PanelRun, panelAt, type Shot, strokesOn } from '@varrup/core';
import { Copy, Plus, Scissors, Trash2 } from 'lucide-react';
import { type KeyboardEvent, memo, type ReactNode, useEffect, useRef } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { SoundStrip } from '../sound/SoundStrip.tsx';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { runsOf } from './board-view.ts';
import { PanelThumb } from './PanelThumb.tsx';

/** The board: its panels in a row, each with how long it stands. A press goes there, a drag puts it elsewhere. */
export function BoardPanel({ shot }: { shot: Shot }) {
  const runs = runsOf(shot);
  const settled = usePlayhead((p) => p.settled);
  const here = panelAt(runs, settled);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { keyboardCodes: { start: [], cancel: ['Escape'], end: [] } }),
  );
  const row = useRef<HTMLUListElement>(null);
  useEffect(() => {
    if (here)
      row.current
        ?.querySelector(`[data-panel="${here.panel.id}"]`)
        ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [here]);
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || over.id === active.id) return;
    const [from, to] = [active.id, over.id].map((id) => runs.findIndex((r) => r.panel.id === id));
    // Dropped on one that stands later, it comes after that one.
    const before = from < to ? (runs[to + 1]?.panel.id ?? null) : String(over.id);
    useShot.getState().run(movePanel, { id: String(active.id), before });
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex min-h-0 grow">
        <div className="flex w-28 shrink-0 flex-col gap-1 border-r border-rule p-2">
          <Act id="panel.add" sign={<Plus size={14} />} word="panel" />
          <Act id="panel.copy" sign={<Copy size={14} />} word="copy" />
          <Act id="panel.split" sign={<Scissors size={14} />} word="split here" />
          <Act id="panel.remove" sign={<Trash2 size={14} />} word="take away" />
        </div>
        <DndContext sensors={sensors} onDragEnd={drop}>
          <ul
            ref={row}
            aria-label="Panels of the board"
            className="flex min-w-0 grow items-start gap-2 overflow-x-auto p-2"
          >
            {runs.map((run) => (
              <Card key={run.panel.id} shot={shot} run={run} runs={runs} here={run.panel.id === here?.panel.id} />
            ))}
            {runs.length === 0 ? (
              <li className="p-3 text-graphite">Panels stand here one after another, each as long as it says.</li>
            ) : null}
          </ul>
        </DndContext>
      </div>
      <SoundStrip shot={shot} />
    </div>
  );
}

function Act({ id, sign, word }: { id: string; sign: ReactNode; word: string }) {
  const command = commandOf(id);
  return (
    <Hint text={command.label} keys={shortcutOf(id)} side="right">
      <Button className="text-left" disabled={command.enabled?.() === false} onClick={() => command.run()}>
        <span className="flex items-center gap-1.5">
          {sign} {word}
        </span>
      </Button>
    </Hint>
  );
}

interface CardProps {
  readonly shot: Shot;
  readonly run: PanelRun;
  readonly runs: readonly PanelRun[];
  readonly here: boolean;
}

/** Whether a card shows the same: of the shot it shows only what is drawn on its panel, and its rate. */
const showsTheSame = (a: CardProps, b: CardProps): boolean =>
  a.run === b.run &&
  a.runs === b.runs &&
  a.here === b.here &&
  a.shot.rate === b.shot.rate &&
  strokesOn(a.shot.strokes, a.run.panel.id) === strokesOn(b.shot.strokes, b.run.panel.id);

const Card = memo(function Card({ shot, run: { panel, index, first, last }, runs, here }: CardProps) {
  const { run } = useShot.getState();
  const drag = useDraggable({ id: panel.id });
  const drop = useDroppable({ id: panel.id });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    const next = runs[index + by];
    if (!next) return;
    if (event.altKey) {
      const before = by < 0 ? next.panel.id : (runs[index + 2]?.panel.id ?? null);
      run(movePanel, { id: panel.id, before });
    } else usePlayhead.getState().go(next.first);
    // The focus goes with it.
    const list = event.currentTarget.closest('ul');
    requestAnimationFrame(() =>
      list
        ?.querySelector<HTMLElement>(`[data-panel="${event.altKey ? panel.id : next.panel.id}"] [role=option]`)
        ?.focus(),
    );
  };
  const words = panel.name || panel.happens.split('\n')[0];
  return (
    <li
      ref={drop.setNodeRef}
      data-panel={panel.id}
      className={`flex w-36 shrink-0 flex-col rounded-lg border bg-card ${here ? 'border-vermilion ring-1 ring-vermilion' : 'border-rule'} ${drop.isOver && drag.active?.id !== panel.id ? 'border-blue ring-2 ring-blue' : ''} ${drag.isDragging ? 'opacity-40' : ''}`}
    >
      <button
        type="button"
        ref={drag.setNodeRef}
        {...drag.listeners}
        aria-current={here}
        aria-label={`Panel ${index + 1}${words ? `, ${words}` : ''}: frames ${first} to ${last}. Alt with an arrow moves it.`}
        title={`Panel ${index + 1}: frames ${first} to ${last}. Drag it to another place; Alt ← → moves it.`}
        tabIndex={here ? 0 : -1}
        data-takes="ArrowLeft ArrowRight Alt+ArrowLeft Alt+ArrowRight"
        onKeyDown={onKeyDown}
        onClick={() => usePlayhead.getState().go(first)}
        className="cursor-pointer overflow-hidden rounded-t-lg text-left outline-offset-1"
      >
        <PanelThumb shot={shot} panel={panel} />
        <span className="flex items-baseline gap-1.5 px-2 pt-1">
          <span className={`tabular text-sm font-semibold ${here ? 'text-vermilion-ink' : ''}`}>{index + 1}</span>
          <span className="truncate text-sm text-graphite">{words || '—'}</span>
        </span>
      </button>
      <span className="flex items-center gap-1 px-2 pb-1.5">
        <span className="w-16">
          <NumberField
            label={`Frames of panel ${index + 1}`}
            value={panel.frames}
            step={1}
            digits={0}
            whole
            min={1}
            max={20_000}
            onChange={(frames) => run(changePanel, { id: panel.id, change: { frames } })}
          />
        </span>
        <span className="tabular text-xs text-graphite">{(panel.frames / shot.rate).toFixed(2)} s</span>
      </span>
    </li>
  );
}, showsTheSame);
