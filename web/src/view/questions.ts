import { create } from 'zustand';

/** Which card is open over the desk, by its name among the desk's dialogs; `rename-member` and `retime` are where they belong. */
export type Question = string | null;

export const useQuestion = create<{ open: Question; ask(question: Question): void }>((set) => ({
  open: null,
  ask: (open) => set({ open }),
}));
