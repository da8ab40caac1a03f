import {
  addPanel,
  clearDrawing,
  copyPanel,
  DRAWING_SHEETS,
  markPanels,
  newId,
  putMarker,
  removePanels,
  splitPanel,
} from '@varrup/core';
import { toast } from 'sonner';
import { becomeShots } from '../board/become-shots.ts';
import { freshPanel, runNow, runsOf, useBoardView } from '../board/board-view.ts';
import { layStill } from '../board/panel-media.ts';
import { changeWidth, useDrawing } from '../drawing/drawing-tool.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasShot, run, shotNow, withShot } from './now.ts';

/** The plan: the board, what is drawn on it, and what becomes of it. */

const onPlan = () => location.pathname.split('/')[3] === 'plan';
const isDrawing = () => onPlan() || location.pathname.split('/')[3] === 'review';
const hasPanel = () => (shotNow()?.panels.size ?? 0) > 0;

/** A second, where nobody has said otherwise. */
const firstFrames = (rate: number) => Math.max(1, Math.round(rate));

/** Puts a panel after the one that one is at, and goes there. */
function putPanel(): void {
  const shot = shotNow();
  if (!shot) return;
  const now = runNow();
  const id = newId();
  const before = now ? (runsOf(shot)[now.index + 1]?.panel.id ?? null) : null;
  run(addPanel, { panel: freshPanel(id, now?.panel.frames ?? firstFrames(shot.rate)), before });
  goTo(id);
}

function goTo(panel: string): void {
  const { shot } = useShot.getState();
  const there = shot && runsOf(shot).find((r) => r.panel.id === panel);
  if (there) usePlayhead.getState().go(there.first);
}

const withPanel = (act: (now: NonNullable<ReturnType<typeof runNow>>) => void) => () => {
  const now = runNow();
  if (now) act(now);
};

const walk = (by: 1 | -1) => () => {
  const shot = shotNow();
  const now = runNow();
  const next = shot && now ? runsOf(shot)[now.index + by] : undefined;
  if (next) usePlayhead.getState().go(next.first);
};

const tool = (name: 'pencil' | 'tone' | 'rubber', label: string, shortcut: string): AppCommand => ({
  id: `draw.${name}`,
  label,
  group: 'Plan',
  shortcut,
  run: () => useDrawing.setState({ tool: name }),
  enabled: isDrawing,
});

const drawingCommands: AppCommand[] = [
  tool('pencil', 'Draw with the pencil: the harder it is pressed, the broader', '6'),
  tool('tone', 'Lay tones with a broad marker', '7'),
  tool('rubber', 'Rub out softly', '8'),
  {
    id: 'draw.finer',
    label: 'A finer pencil, marker or rubber',
    group: 'Plan',
    shortcut: ',',
    run: () => changeWidth(-1),
    enabled: isDrawing,
  },
  {
    id: 'draw.broader',
    label: 'A broader pencil, marker or rubber',
    group: 'Plan',
    shortcut: '.',
    run: () => changeWidth(1),
    enabled: isDrawing,
  },
  {
    id: 'draw.sheet',
    label: 'Draw on the next sheet of the drawing',
    group: 'Plan',
    shortcut: '9',
    run: () => {
      const { sheet, hidden } = useDrawing.getState();
      const next = (sheet + 1) % DRAWING_SHEETS;
      useDrawing.setState({ sheet: next, hidden: hidden.filter((h) => h !== next) });
    },
    enabled: isDrawing,
  },
  {
    id: 'draw.onion',
    label: 'Let the panel before shine through',
    group: 'Plan',
    shortcut: 'Q',
    run: () => useDrawing.setState({ onion: !useDrawing.getState().onion }),
    enabled: onPlan,
  },
  {
    id: 'draw.clear',
    label: 'Take away all that is drawn on this panel',
    group: 'Plan',
    run: withPanel(({ panel }) => run(clearDrawing, { on: panel.id, sheet: null })),
    enabled: hasPanel,
  },
];

const panelCommands: AppCommand[] = [
  {
    id: 'panel.add',
    label: 'Put a panel after this one',
    group: 'Plan',
    shortcut: 'Alt+A',
    run: putPanel,
    enabled: hasShot,
  },
  {
    id: 'panel.copy',
    label: 'Copy this panel, with what is drawn on it',
    group: 'Plan',
    shortcut: 'Ctrl+Shift+Y',
    run: withPanel(({ panel }) => {
      const as = newId();
      run(copyPanel, { id: panel.id, as });
      goTo(as);
    }),
    enabled: hasPanel,
  },
  {
    id: 'panel.split',
    label: 'Split this panel before the current frame',
    group: 'Plan',
    shortcut: 'Ctrl+Shift+X',
    run: withPanel(({ panel, first }) => {
      const frames = Math.round(frameNow()) - first;
      if (frames < 1) toast('Go to a frame within the panel: it is split before that.');
      else run(splitPanel, { id: panel.id, frames, as: newId() });
    }),
    enabled: hasPanel,
  },
  {
    id: 'panel.remove',
    label: 'Take this panel off the board',
    group: 'Plan',
    run: withPanel(({ panel }) => run(removePanels, { ids: [panel.id] })),
    enabled: hasPanel,
  },
  {
    id: 'board.next',
    label: 'Go to the next panel',
    group: 'Plan',
    shortcut: 'Alt+.',
    run: walk(1),
    enabled: hasPanel,
  },
  {
    id: 'board.previous',
    label: 'Go to the panel before',
    group: 'Plan',
    shortcut: 'Alt+,',
    run: walk(-1),
    enabled: hasPanel,
  },
  {
    id: 'panel.still',
    label: 'Lay a still of the stage, as the shot’s camera sees it on this frame, under the drawing',
    group: 'Plan',
    run: withPanel(({ panel }) => void layStill(panel.id, frameNow())),
    enabled: hasPanel,
  },
  {
    id: 'panel.mark',
    label: 'Set a marker in the sheet where this panel begins; it goes where the panel goes',
    group: 'Plan',
    run: withPanel(({ panel }) => run(markPanels, { ids: [panel.id] })),
    enabled: hasPanel,
  },
  {
    id: 'board.mark',
    label: 'Set markers in the sheet where all panels begin',
    group: 'Plan',
    run: withShot((shot) => run(markPanels, { ids: shot.panels.keys() })),
    enabled: hasPanel,
  },
  {
    id: 'panel.toShot',
    label: 'Make a shot of the production of this panel, as long as it',
    group: 'Plan',
    run: withPanel((now) => void becomeShots([now])),
    enabled: hasPanel,
  },
  {
    id: 'board.toShots',
    label: 'Make a shot of the production of each panel that has not become one',
    group: 'Plan',
    run: withShot((shot) => {
      const left = runsOf(shot).filter((r) => r.panel.shot === null);
      if (left.length === 0) toast('Each panel has become a shot already.');
      else void becomeShots(left);
    }),
    enabled: hasPanel,
  },
];

const boardCommands: AppCommand[] = [
  {
    id: 'board.camera',
    label: 'See the panels as their camera does, or whole',
    group: 'Plan',
    shortcut: '0',
    run: () => useBoardView.setState(({ asCamera }) => ({ asCamera: !asCamera })),
    enabled: hasPanel,
  },
  {
    id: 'board.over',
    label: 'Show the panel beside the stage’s picture, over it, or not',
    group: 'Plan',
    shortcut: 'Ctrl+Shift+G',
    run: () =>
      useBoardView.setState(({ over }) => ({ over: ({ off: 'beside', beside: 'over', over: 'off' } as const)[over] })),
    enabled: hasPanel,
  },
  {
    id: 'board.movie',
    label: 'Hand the board on as a movie with its sound: an animatic',
    group: 'Plan',
    run: () => useQuestion.getState().ask('movie'),
    enabled: hasPanel,
  },
  {
    id: 'board.print',
    label: 'Show the board as a page to print',
    group: 'Plan',
    run: withShot((shot) => void window.open(`/shots/${shot.id}/board/page`, '_blank', 'noopener')),
    enabled: hasPanel,
  },
  {
    id: 'marker.put',
    label: 'Mark this frame: a line of the breakdown list',
    group: 'Plan',
    shortcut: 'Shift+N',
    run: withShot(() =>
      run(putMarker, {
        marker: { id: newId(), frame: Math.round(frameNow()), name: '', what: '', sound: '', effort: '', panel: null },
      }),
    ),
    enabled: hasShot,
  },
];

export const planningCommands: AppCommand[] = [...panelCommands, ...drawingCommands, ...boardCommands];
