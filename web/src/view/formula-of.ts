import { create } from 'zustand';

/** The channel whose formula is on the table, by path. */
export const useFormulaOf = create<{ readonly path: string | null }>(() => ({ path: null }));
