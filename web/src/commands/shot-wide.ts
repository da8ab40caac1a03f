import { useShot } from '../shot/shot-store.ts';
import { useQuestion } from '../view/questions.ts';
import type { AppCommand } from './command.ts';
import { hasSelection } from './now.ts';

/** What concerns the shot as a whole. */

export const shotWide: AppCommand[] = [
  { id: 'shot.undo', label: 'Undo', group: 'Shot', shortcut: 'Ctrl+Z', run: () => useShot.getState().undo() },
  { id: 'shot.redo', label: 'Redo', group: 'Shot', shortcut: 'Ctrl+Shift+Z', run: () => useShot.getState().redo() },
  {
    id: 'shot.movie',
    label: 'Make a movie, a picture or a contact sheet…',
    group: 'Shot',
    shortcut: 'Ctrl+M',
    run: () => useQuestion.getState().ask('movie'),
  },
  {
    id: 'shot.palette',
    label: 'Find a command',
    group: 'Shot',
    shortcut: '/',
    run: () => useQuestion.getState().ask('palette'),
  },
  {
    id: 'shot.shortcuts',
    label: 'Show the shortcuts',
    group: 'Shot',
    shortcut: '?',
    run: () => useQuestion.getState().ask('shortcuts'),
  },
  {
    id: 'shot.addChannel',
    label: 'Add a channel of your own…',
    group: 'Shot',
    run: () => useQuestion.getState().ask('add-channel'),
    enabled: hasSelection,
  },
];
