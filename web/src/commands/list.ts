import type { channelState } from '@varrup/core';
import { useHabits } from '../view/habits.ts';
import { casting } from './casting.ts';
import { channelCommands } from './channels.ts';
import { checking } from './checking.ts';
import { clipCommands } from './clips.ts';
import type { AppCommand } from './command.ts';
import { footageCommands } from './footage.ts';
import { helping } from './helping.ts';
import { keying } from './keying.ts';
import { kitCommands } from './kits.ts';
import { mixCommands } from './mixing.ts';
import { pivots } from './pivots.ts';
import { planningCommands } from './planning.ts';
import { posingCommands } from './posing.ts';
import { retiming } from './retiming.ts';
import { setCommands } from './sets.ts';
import { shaping } from './shaping.ts';
import { shotWide } from './shot-wide.ts';
import { soundCommands } from './sounds.ts';
import { spacingCommands } from './spacing.ts';
import { timing } from './timing.ts';
import { trialCommands } from './trial.ts';
import { turning } from './turning.ts';
import { viewing } from './viewing.ts';

/** Every command; a new group is a file beside this one. Those of desks and panels come with what is registered: see `desk/commands.ts`. */
const all: AppCommand[] = [
  ...keying,
  ...channelCommands,
  ...setCommands,
  ...timing,
  ...retiming,
  ...spacingCommands,
  ...viewing,
  ...casting,
  ...turning,
  ...pivots,
  ...posingCommands,
  ...clipCommands,
  ...mixCommands,
  ...shaping,
  ...kitCommands,
  ...checking,
  ...trialCommands,
  ...soundCommands,
  ...planningCommands,
  ...footageCommands,
  ...shotWide,
  ...helping,
];

export const commands: readonly AppCommand[] = all;

const byId = new Map(all.map((c) => [c.id, c]));

/** Adds commands that come with something registered. */
export function announce(more: readonly AppCommand[]): void {
  for (const command of more) {
    all.push(command);
    byId.set(command.id, command);
  }
}

export function commandOf(id: string): AppCommand {
  const command = byId.get(id);
  if (!command) throw new Error(`There is no command ${id}.`);
  return command;
}

/** The shortcut a command has now: the person's own, or its first. */
export const shortcutOf = (id: string): string | undefined =>
  useHabits.getState().shortcuts[id] ?? commandOf(id).shortcut;

/** For a state of a channel its word. */
export const stateWord = {
  loose: 'loose',
  keyed: 'keyed here',
  animated: 'animated',
  constant: 'constant',
} as const satisfies Record<ReturnType<typeof channelState>, string>;
