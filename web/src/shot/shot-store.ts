import {
  applyEdit,
  type Command,
  editBetween,
  emptyHistory,
  fitting,
  type History,
  historyFrom,
  PatchError,
  type Present,
  perform,
  problemsOf,
  Refused,
  type Rig,
  recorded,
  redo,
  type Shot,
  type Suggestion,
  suggestionBetween,
  type UndoableEdit,
  undo,
} from '@varrup/core';
import { toast } from 'sonner';
import { z } from 'zod';
import { create } from 'zustand';
import { api, ServerRefusal } from '../api/client.ts';
import { Journal } from './journal.ts';
import { noteWay } from './lately.ts';
import { openShot, Unreadable } from './open.ts';
import { person } from './person.ts';
import { type Preview, Trials, trialOf } from './previews.ts';
import { type Choice, keepCopy, type Meeting, type SaveState, Saving } from './saving.ts';

/** The shot on the desk: its document, what can be undone, and how saving stands. */
export interface ShotState {
  readonly status: 'none' | 'loading' | 'ready' | 'failed';
  /** Why it could not be opened. */
  readonly failure: string | null;
  /** Whether that is because what is kept of it does not read. */
  readonly isUnreadable: boolean;
  readonly production: { readonly id: string; readonly name: string } | null;
  /** What the desk shows: the document, or what it would become while a hand is dragging. */
  readonly shot: Shot | null;
  /** The document as edits have made it. */
  readonly committed: Shot | null;
  /** The document as the draft on the table would make it: what checks look at. Null where there is none. */
  readonly draft: Shot | null;
  /** The document as it was when the shot was opened. */
  readonly opened: Shot | null;
  readonly history: History;
  /** While a fix is shown and not made: the shot without it, and what can be undone there. What is done meanwhile is the fix, and is not saved. */
  readonly fixing: { readonly base: Shot; readonly history: History } | null;
  readonly saving: SaveState;
  /** Other windows of this browser on the same shot. */
  readonly neighbours: number;
  /** Who else is at the shot, in other browsers, and what they have picked. */
  readonly others: readonly Present[];
  /** What somebody else has changed as well, until it is chosen whose stays. */
  readonly meeting: (Meeting & { choose(choice: Choice): void }) | null;

  open(id: string): Promise<void>;
  close(): void;
  /** Makes an edit. */
  run<Args>(command: Command<Args>, args: Args): void;
  /** A preview of its own for somebody who tries things out: a hand on a handle, a card, a field. */
  begin(owner: string, stays?: boolean): Preview;
  /** Takes rigs of the library to hand, so that they can be linked. */
  haveAtHand(rigs: readonly Rig[]): void;
  undo(): void;
  redo(): void;
  /** From now on what is done is shown and not made. */
  beginFix(): void;
  /** The shot is again as it was. @returns what was done since, to be suggested; null where no fix was shown */
  endFix(): Pick<Suggestion, 'curves' | 'values'> | null;
  /** How many edits the shot has had that are saved. */
  revision(): number;
  /** Tells others what is picked here. */
  tellPicked(ids: readonly string[]): void;
  /** Keeps the shot as it is here beside the server's, when the server will not take it. */
  keepCopy(): Promise<void>;
}

let journal: Journal | null = null;
let saving: Saving | null = null;
let opening = 0;
const trials = new Trials();

const nothing = {
  status: 'none' as const,
  failure: null,
  isUnreadable: false,
  production: null,
  shot: null,
  committed: null,
  draft: null,
  opened: null,
  history: emptyHistory,
  fixing: null,
  saving: { kind: 'saved' as const, at: null },
  neighbours: 0,
  others: [],
  meeting: null,
};

export const useShot = create<ShotState>((set, get) => {
  /** The document is another now; what is tried out is shown on it. */
  const become = (committed: Shot, more: Partial<ShotState> = {}) =>
    set({ ...more, committed, shot: trials.on(committed), draft: trials.draftOn(committed) });
  const take = (edit: UndoableEdit, shot: Shot, history: History) => {
    noteWay(get().committed!, shot, edit.patches);
    become(shot, { history });
    if (get().fixing) return;
    const { inverse: _, ...wire } = edit;
    saving?.add(wire);
  };
  const editable = () => get().status === 'ready' && get().saving.kind !== 'joining';

  /** What was done before the shot was opened can be taken back as well, as long as nothing has been done since. */
  const remember = async (id: string, revision: number, turn: number) => {
    const lines = await api.lastEdits(id, revision).catch(() => []);
    // Lines of the first Varrups cannot be taken back, nor what was done before them.
    const log = lines
      .slice(lines.findLastIndex((line) => !line.inverse) + 1)
      .map(({ inverse = [], author = '', ...edit }) => ({ ...edit, inverse, author }));
    const { committed, opened, history } = get();
    if (turn !== opening || committed !== opened || history !== emptyHistory) return;
    set({ history: historyFrom(log, person()) });
  };

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
          current: () => get().fixing?.base ?? get().committed!,
          neighbours: (count) => set({ neighbours: count }),
          present: (others) => set({ others }),
          joined: (edits, rigs) => {
            const { committed, history, fixing } = get();
            const patches = edits.flatMap((edit) => edit.patches);
            if (fixing) {
              // Under the fix the shot goes on.
              const base = { ...edits.reduce<Shot>(applyEdit, fixing.base), rigs };
              set({ fixing: { base, history: fitting(fixing.history, patches) } });
            } else {
              const next = { ...edits.reduce<Shot>(applyEdit, committed!), rigs };
              noteWay(committed!, next, patches);
              become(next, { history: fitting(history, patches) });
            }
            toast(`Somebody else: ${edits.at(-1)?.label}`);
          },
          choose: (meeting) =>
            new Promise((chosen) => {
              trials.clear();
              set({ shot: get().committed, meeting: { ...meeting, choose: chosen } });
            }),
          chosen: (next, theirs) => become(next, { history: fitting(get().history, theirs), meeting: null }),
          keptBoth: (server, copy) => {
            trials.clear();
            become(server, { history: emptyHistory, meeting: null });
            tellOfCopy(copy);
          },
        });
        saving.adopt(unsent);
        if (unsent.length === 0) void remember(id, opened.revision, turn);
        if (unsent.length > 0) toast(`Brought back ${unsent.length} unsaved edits from a window that was closed.`);
        for (const copy of copies) tellOfCopy(copy);
      } catch (error) {
        if (turn !== opening) return;
        set({ status: 'failed', ...failureOf(error) });
      }
    },

    close() {
      opening++;
      saving?.close();
      saving = null;
      trials.clear();
      set(nothing);
    },

    run(command, args) {
      const { committed, history } = get();
      if (!committed || !editable()) return;
      try {
        const done = perform(committed, command, args);
        if (done) take(done.edit, done.shot, recorded(history, done.edit));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        toast(error.message);
      }
    },

    begin(name, stays = false) {
      const owner = Symbol(name);
      const end = () => {
        const { committed } = get();
        if (!trials.of(owner)) return;
        trials.end(owner);
        if (committed) become(committed);
      };
      return {
        show(command, args) {
          const { committed } = get();
          if (!committed || !editable()) return;
          const trial = trialOf(owner, stays, command, args);
          try {
            const shown = trial.apply(committed);
            trials.put(trial);
            if (trials.shown === trial) set({ shot: shown });
            if (stays) set({ draft: shown });
          } catch (error) {
            // It cannot go so far: what was shown before stays.
            if (!(error instanceof Refused)) throw error;
          }
        },
        keep() {
          const { committed, shot, history } = get();
          const trial = trials.of(owner);
          if (!committed || !trial) return;
          const after = trials.shown === trial ? shot! : trial.apply(committed);
          trials.end(owner);
          const done = editable() ? editBetween(committed, after, trial.command, trial.label(committed)) : null;
          if (done) take(done.edit, done.shot, recorded(history, done.edit));
          else become(committed);
        },
        drop: end,
        make(command, args) {
          end();
          get().run(command, args);
        },
      };
    },

    haveAtHand(rigs) {
      const { committed } = get();
      if (!committed) return;
      const known = committed.rigs.with(rigs);
      if (known === committed.rigs) return;
      const next = { ...committed, rigs: known };
      noteWay(committed, next, []);
      become(next);
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

    revision: () => saving?.revision ?? 0,

    beginFix() {
      const { committed, history, fixing } = get();
      if (committed && !fixing && editable()) set({ fixing: { base: committed, history }, history: emptyHistory });
    },

    endFix() {
      const { committed, fixing } = get();
      if (!committed || !fixing) return null;
      trials.clear();
      const fix = suggestionBetween(fixing.base, committed);
      become(fixing.base, { history: fixing.history, fixing: null });
      return fix;
    },

    tellPicked(ids) {
      saving?.picks(ids);
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

/** Why a shot could not be opened, and whether what is kept of it is to blame. */
function failureOf(error: unknown): Pick<ShotState, 'failure' | 'isUnreadable'> {
  if (error instanceof ServerRefusal && error.status === 404)
    return {
      failure: 'There is no such shot. It may be in the bin: look at the bottom of the list of productions.',
      isUnreadable: false,
    };
  const [wrong] = error instanceof z.ZodError ? problemsOf(error) : [];
  const place = wrong ? wrong.pointer : error instanceof Unreadable ? error.message : null;
  if (place !== null || error instanceof PatchError)
    return {
      failure: `What is kept of this shot cannot be read${place ? ` at ${place}` : ''}. Nothing of it is lost, and its last state that can be read can be had as a shot of its own.`,
      isUnreadable: true,
    };
  return { failure: `The shot could not be opened. ${(error as Error).message}`, isUnreadable: false };
}

function tellOfCopy(copy: { id: string; name: string }): void {
  toast(`Another window changed this shot. Both are kept: yours is now “${copy.name}”.`, {
    duration: Number.POSITIVE_INFINITY,
    closeButton: true,
    action: { label: 'Open it', onClick: () => location.assign(`/shots/${copy.id}`) },
  });
}
