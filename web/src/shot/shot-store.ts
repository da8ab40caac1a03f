import {
  type Command,
  editBetween,
  emptyHistory,
  type History,
  perform,
  recorded,
  redo,
  type Shot,
  type UndoableEdit,
  undo,
} from '@varrup/core';
import { toast } from 'sonner';
import { create } from 'zustand';
import { ServerRefusal } from '../api/client.ts';
import { Journal } from './journal.ts';
import { openShot } from './open.ts';
import { keepCopy, type SaveState, Saving } from './saving.ts';

/** The shot on the desk: its document, what can be undone, and how saving stands. */
export interface ShotState {
  readonly status: 'none' | 'loading' | 'ready' | 'failed';
  /** Why it could not be opened. */
  readonly failure: string | null;
  readonly production: { readonly id: string; readonly name: string } | null;
  /** What the desk shows: the document, or what it would become while a hand is dragging. */
  readonly shot: Shot | null;
  /** The document as edits have made it. */
  readonly committed: Shot | null;
  /** The document as it was when the shot was opened. */
  readonly opened: Shot | null;
  readonly history: History;
  readonly saving: SaveState;
  /** Other windows of this browser on the same shot. */
  readonly neighbours: number;

  open(id: string): Promise<void>;
  close(): void;
  /** Makes an edit. */
  run<Args>(command: Command<Args>, args: Args): void;
  /** Shows what an edit would do, without making it; `finish` makes it, `cancel` forgets it. */
  preview<Args>(command: Command<Args>, args: Args): void;
  finish(): void;
  cancel(): void;
  undo(): void;
  redo(): void;
  /** Keeps the shot as it is here beside the server's, when the server will not take it. */
  keepCopy(): Promise<void>;
}

let journal: Journal | null = null;
let saving: Saving | null = null;
let opening = 0;
/** What a preview would be called if it were made. */
let previewed: { command: string; label: string } | null = null;

const nothing = {
  status: 'none' as const,
  failure: null,
  production: null,
  shot: null,
  committed: null,
  opened: null,
  history: emptyHistory,
  saving: { kind: 'saved' as const, at: null },
  neighbours: 0,
};

export const useShot = create<ShotState>((set, get) => {
  const take = (edit: UndoableEdit, shot: Shot, history: History) => {
    set({ shot, committed: shot, history });
    const { inverse: _, ...wire } = edit;
    saving?.add(wire);
  };
  const editable = () => get().status === 'ready' && get().saving.kind !== 'joining';

  return {
    ...nothing,

    async open(id) {
      get().close();
      const turn = ++opening;
      set({ status: 'loading' });
      journal ??= new Journal();
      try {
        const { opened, shot, unsent, copies } = await openShot(id, journal);
        if (turn !== opening) return;
        set({ status: 'ready', production: opened.production, shot, committed: shot, opened: shot });
        saving = new Saving(opened, journal, {
          state: (state) => set({ saving: state }),
          current: () => get().committed!,
          neighbours: (count) => set({ neighbours: count }),
          caughtUp: (next, edits) => {
            set({ shot: next, committed: next, history: emptyHistory });
            toast(`Another window: ${edits.at(-1)?.label}`);
          },
          keptBoth: (server, copy) => {
            set({ shot: server, committed: server, history: emptyHistory });
            tellOfCopy(copy);
          },
        });
        saving.adopt(unsent);
        if (unsent.length > 0) toast(`Brought back ${unsent.length} unsaved edits from a window that was closed.`);
        for (const copy of copies) tellOfCopy(copy);
      } catch (error) {
        if (turn !== opening) return;
        const known = error instanceof ServerRefusal && error.status === 404;
        set({
          status: 'failed',
          failure: known
            ? 'There is no such shot. It may be in the bin: look at the bottom of the list of productions.'
            : `The shot could not be opened. ${(error as Error).message}`,
        });
      }
    },

    close() {
      opening++;
      saving?.close();
      saving = null;
      previewed = null;
      set(nothing);
    },

    run(command, args) {
      const { committed, history } = get();
      if (!committed || !editable()) return;
      previewed = null;
      const done = perform(committed, command, args);
      if (done) take(done.edit, done.shot, recorded(history, done.edit));
      else set({ shot: committed });
    },

    preview(command, args) {
      const { committed } = get();
      if (!committed || !editable()) return;
      previewed = { command: command.name, label: command.label(args, committed) };
      set({ shot: command.apply(committed, args) });
    },

    finish() {
      const { committed, shot, history } = get();
      if (!committed || !shot || !previewed) return;
      const done = editBetween(committed, shot, previewed.command, previewed.label);
      previewed = null;
      if (done) take(done.edit, done.shot, recorded(history, done.edit));
      else set({ shot: committed });
    },

    cancel() {
      previewed = null;
      set({ shot: get().committed });
    },

    undo() {
      const { committed, history } = get();
      const step = committed && editable() ? undo(committed, history) : null;
      if (step) take(step.edit, step.shot, step.history);
    },

    redo() {
      const { committed, history } = get();
      const step = committed && editable() ? redo(committed, history) : null;
      if (step) take(step.edit, step.shot, step.history);
    },

    async keepCopy() {
      const { production, committed } = get();
      if (!production || !committed) return;
      try {
        const copy = await keepCopy(production.id, committed);
        await saving?.giveUp();
        await get().open(committed.id);
        tellOfCopy(copy);
      } catch (error) {
        toast.error(`It could not be kept as another shot. ${(error as Error).message} It is still in this browser.`);
      }
    },
  };
});

function tellOfCopy(copy: { id: string; name: string }): void {
  toast(`Another window changed this shot. Both are kept: yours is now “${copy.name}”.`, {
    duration: Number.POSITIVE_INFINITY,
    closeButton: true,
    action: { label: 'Open it', onClick: () => location.assign(`/shots/${copy.id}`) },
  });
}
