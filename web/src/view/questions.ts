import { create } from 'zustand';

/** Which card is open over the desk. */
export type Question =
  | 'palette'
  | 'shortcuts'
  | 'movie'
  | 'rename-member'
  | 'parent'
  | 'rate'
  | 'add-channel'
  | 'retime'
  | 'copies'
  | 'set'
  | 'version'
  | 'thin'
  | 'rig'
  | 'hold'
  | 'keep-pose'
  | null;

export const useQuestion = create<{ open: Question; ask(question: Question): void }>((set) => ({
  open: null,
  ask: (open) => set({ open }),
}));
