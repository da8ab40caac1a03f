import { type Command, Refused } from '@varrup/core';
import { toast } from 'sonner';
import { create } from 'zustand';
import { useShot } from '../shot/shot-store.ts';

/**
 * What is tried out before it is done: a kit, feet to be held, a fix, a retiming, a deformer. It lies on one table, is shown in the
 * stage, the sheet and the curves, and its numbers stand under the stage until it is kept, which is one step to undo, or left. Whoever
 * lays it there is its owner; another trial waits until it has gone.
 */
export interface OnTable {
  readonly owner: string;
  readonly title: string;
  /** What is to be known of it beside the numbers, sentence by sentence. */
  readonly remarks?: readonly string[];
  /** Why it cannot be kept. */
  readonly problem?: string | null;
  /** What is still to be chosen. */
  readonly choice?: {
    readonly legend: string;
    readonly options: readonly { readonly word: string; readonly picked: boolean; choose(): void }[];
  };
  /** A number that can still be changed. */
  readonly number?: {
    readonly label: string;
    readonly value: number;
    readonly step: number;
    readonly digits: number;
    readonly min: number;
    readonly max: number;
    readonly unit: string;
    change(value: number): void;
  };
  /** Told when it has gone from the table. */
  gone?(kept: boolean): void;
}

interface Table {
  readonly on: OnTable | null;
  /** Lays a trial on the table, in the place of its owner's last one. @returns false where somebody else's lies there */
  lay<Args>(trial: OnTable, command: Command<Args>, args: Args): boolean;
  keep(): void;
  leave(): void;
}

export const useTable = create<Table>((set, get) => {
  const preview = useShot.getState().begin('trial', true);
  const clear = (kept: boolean) => {
    const { on } = get();
    set({ on: null });
    on?.gone?.(kept);
  };
  return {
    on: null,
    lay(trial, command, args) {
      const { on } = get();
      if (on && on.owner !== trial.owner) {
        toast(`“${on.title}” is shown and not made: keep it or leave it first.`);
        return false;
      }
      set({ on: trial });
      preview.show(command, args);
      return true;
    },
    keep() {
      const { on } = get();
      if (!on) return;
      if (on.problem) {
        toast(on.problem);
        return;
      }
      preview.keep();
      clear(true);
    },
    leave() {
      if (!get().on) return;
      preview.drop();
      clear(false);
    },
  };
});

/**
 * Lays what a command would do on the table, or says why there is nothing to be shown.
 * @param nothing what is said where it would change nothing
 */
export function tryOut<Args>(trial: OnTable, command: Command<Args>, args: Args, nothing: string): boolean {
  const { committed } = useShot.getState();
  if (!committed) return false;
  try {
    if (command.apply(committed, args) !== committed) return useTable.getState().lay(trial, command, args);
    toast(nothing);
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    toast(error.message);
  }
  return false;
}
