import { compareShots, splitPath } from '@varrup/core';
import { toast } from 'sonner';
import { announce, commandOf } from '../commands/list.ts';
import { channelsNow, frameNow, hasShot, pickedNow, shotNow } from '../commands/now.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { pickChannels, select } from '../view/selection.ts';
import { changesOf } from './changes.ts';
import { compareWith, useCompare } from './compare.ts';
import { goToNote, makeNote, stepAmong, subjectNow, useNotes } from './notes.ts';
import { notesOf } from './notes-of.ts';
import { typeAhead } from './typed-ahead.ts';

/** Review: what is said, what is shown, and what has changed. */

const showNotes = () => commandOf('view.notes').run();

/** Notes a frame, on what is picked: a channel, else the stage, pinned to whom is picked. */
function noteHere(drawing: boolean): void {
  const shot = shotNow();
  if (!shot) return;
  const lead = pickedNow().at(-1);
  const pin = lead && channelsNow().length === 0 ? { member: lead, at: [0, 0, 0] as [number, number, number] } : null;
  makeNote(subjectNow(pin), '', drawing);
  if (!drawing) {
    useNotes.setState(({ picked }) => ({ begun: picked }));
    typeAhead();
  }
  showNotes();
}

/** Whether the hand is at what lies below the stage: the pointer, or where that is nowhere the focus. */
const isBelow = () =>
  (document.querySelector('[data-place]:hover') ?? document.activeElement)?.closest('[data-place="below"]') != null;

/** Draws on the curve of the picked channel, where the curves are seen; on the sheet, where the hand is there; else on the stage. */
function drawHere(): void {
  const shot = shotNow();
  if (!shot) return;
  if (isBelow() && document.querySelector('[data-testid="sheet"]')) {
    // On the rows of whom is picked, where they have any.
    const lead = pickedNow().at(-1);
    const has = shot.curves.keys().some((path) => splitPath(path).member === lead);
    makeNote({ is: 'sheet', member: has && lead ? lead : null }, '', true);
    showNotes();
    return;
  }
  const [path] = channelsNow();
  const curve = path ? shot.curves.get(path) : undefined;
  if (usePlaces.getState().tab !== 'curves' || !path || curve?.type !== 'number') {
    pickChannels([]);
    noteHere(true);
    return;
  }
  const values = curve.keys.map((k) => k.value);
  const per = Math.max(1e-6, Math.max(...values) - Math.min(...values));
  const key = curve.keys.find((k) => Math.abs(k.frame - frameNow()) < 0.5) ?? curve.keys[0];
  makeNote({ is: 'curve', path, value: key.value, per }, '', true);
  showNotes();
}

const stepNotes = (by: 1 | -1) => {
  const shot = shotNow();
  if (!shot) return;
  const { listed, picked } = useNotes.getState();
  const list = notesOf(shot).filter((n) => listed === 'all' || n.state === 'open' || n.id === picked);
  const next = stepAmong(list, by, list.find((n) => n.id === picked) ?? null);
  if (next) goToNote(next);
  else toast('There is no open note.');
};

let lastChange: string | null = null;

const stepChanges = (by: 1 | -1) => {
  const shot = shotNow();
  const { other } = useCompare.getState();
  if (!shot || !other) return;
  const list = changesOf(compareShots(other, shot)).map((c) => ({ ...c, first: c.frame }));
  const next = stepAmong(list, by, list.find((c) => c.path === lastChange) ?? null);
  if (!next) {
    toast('Nothing is otherwise.');
    return;
  }
  lastChange = next.path;
  usePlayhead.getState().go(Math.round(next.frame));
  select([splitPath(next.path).member]);
  pickChannels([next.path]);
};

/** The next of what stands beside the stage: a note, a change, else a finding. */
const step = (by: 1 | -1) => () => {
  const { side } = usePlaces.getState();
  if (side === 'versions' && useCompare.getState().other) stepChanges(by);
  else if (side === 'checks') commandOf(by === 1 ? 'check.next' : 'check.previous').run();
  else stepNotes(by);
};

announce([
  {
    id: 'note.here',
    label: 'Write a note on this frame: on the picked channel, else on whom is picked, else on the picture',
    group: 'Review',
    shortcut: 'Ctrl+Shift+E',
    run: () => noteHere(false),
    enabled: hasShot,
  },
  {
    id: 'note.draw',
    label:
      'Draw a note on this frame: over the stage, over the curve of the picked channel, or over the sheet with the pointer there',
    group: 'Review',
    shortcut: 'Ctrl+Shift+F',
    run: drawHere,
    enabled: hasShot,
  },
  {
    id: 'suggestion.begin',
    label: 'Show a fix without making it: what is done from now on is a suggestion',
    group: 'Review',
    run: () => {
      void compareWith(null);
      useShot.getState().beginFix();
    },
    enabled: () => hasShot() && useShot.getState().fixing === null,
  },
  {
    id: 'review.next',
    label: 'Go to the next note, change or finding',
    group: 'Review',
    shortcut: 'Alt+U',
    run: step(1),
    enabled: hasShot,
  },
  {
    id: 'review.previous',
    label: 'Go to the note, change or finding before',
    group: 'Review',
    shortcut: 'Alt+;',
    run: step(-1),
    enabled: hasShot,
  },
  {
    id: 'review.report',
    label: 'Show the review as a page to print: notes, checks, heights and times',
    group: 'Review',
    run: () => {
      const shot = shotNow();
      if (shot) window.open(`/shots/${shot.id}/report`, '_blank', 'noopener');
    },
    enabled: hasShot,
  },
  {
    id: 'compare.none',
    label: 'Look at the shot alone again',
    group: 'Review',
    run: () => void compareWith(null),
    enabled: () => useCompare.getState().with !== null,
  },
]);
