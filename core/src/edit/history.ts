import type { Shot } from '../document/shot.ts';
import { applyEdit, inverseOf, type UndoableEdit } from './edit.ts';
import { fitting, placeOf } from './meeting.ts';

/** What can be taken back and what can be done again; the newest is last in both. */
export interface History {
  readonly past: readonly UndoableEdit[];
  readonly future: readonly UndoableEdit[];
}

export const emptyHistory: History = { past: [], future: [] };

/** How many edits can be taken back. */
const DEPTH = 1000;

/** A line of a shot's log: who made an edit, and what takes it back. */
export interface AuthoredEdit extends UndoableEdit {
  readonly author: string;
}

/**
 * What somebody can take back and do again after the edits of a log, oldest first: their own, as far as they fit what others have done
 * since. Going back is in the log as an edit like any other; one that is not of the step it would be of ends all there was before.
 */
export function historyFrom(log: readonly AuthoredEdit[], author: string): History {
  return log.reduce<History>((history, edit) => {
    if (edit.author !== author) return fitting(history, edit.patches);
    const { past, future } = history;
    if (edit.command === 'undo') {
      const last = past.at(-1);
      return last && changeTheSame(last, edit) ? { past: past.slice(0, -1), future: [...future, last] } : emptyHistory;
    }
    if (edit.command === 'redo') {
      const next = future.at(-1);
      return next && changeTheSame(next, edit) ? { past: [...past, next], future: future.slice(0, -1) } : emptyHistory;
    }
    return recorded(history, edit);
  }, emptyHistory);
}

/** Whether two edits are of the same places. */
function changeTheSame(a: UndoableEdit, b: UndoableEdit): boolean {
  const [here, there] = [new Set(a.patches.map(placeOf)), new Set(b.patches.map(placeOf))];
  return here.size === there.size && [...here].every((place) => there.has(place));
}

/** A new edit has been made: what was undone before can no longer be redone. */
export const recorded = (history: History, edit: UndoableEdit): History => ({
  past: [...history.past.slice(-DEPTH + 1), edit],
  future: [],
});

export interface Step {
  readonly shot: Shot;
  readonly history: History;
  /** What was done to the shot, for the log: going back is an edit like any other. */
  readonly edit: UndoableEdit;
}

/** Takes the newest edit back; null when there is none. */
export function undo(shot: Shot, history: History): Step | null {
  const last = history.past.at(-1);
  if (!last) return null;
  const edit = inverseOf(last, 'undo');
  return {
    shot: applyEdit(shot, edit),
    edit,
    history: { past: history.past.slice(0, -1), future: [...history.future, last] },
  };
}

/** Does again what was taken back last; null when there is nothing. */
export function redo(shot: Shot, history: History): Step | null {
  const next = history.future.at(-1);
  if (!next) return null;
  const edit = { ...inverseOf(next, 'redo'), patches: next.patches, inverse: next.inverse };
  return {
    shot: applyEdit(shot, edit),
    edit,
    history: { past: [...history.past, next], future: history.future.slice(0, -1) },
  };
}
