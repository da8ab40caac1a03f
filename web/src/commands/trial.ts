import { useTable } from '../trial/table.ts';
import type { AppCommand } from './command.ts';

/** What is shown and not made: kept, or left with what picks nothing. */

const isShown = () => useTable.getState().on !== null;

export const trialCommands: AppCommand[] = [
  {
    id: 'trial.keep',
    label: 'Keep what is shown and not made',
    group: 'Keys',
    shortcut: 'Enter',
    onlyWhile: isShown,
    enabled: isShown,
    run: () => useTable.getState().keep(),
  },
  {
    id: 'trial.leave',
    label: 'Leave what is shown and not made',
    group: 'Keys',
    enabled: isShown,
    run: () => useTable.getState().leave(),
  },
];
