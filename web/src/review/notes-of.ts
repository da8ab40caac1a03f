import type { Note, Shot } from '@varrup/core';

/** Notes in the order of their frames, and of when they were made. */
export const notesOf = ({ notes }: Pick<Shot, 'notes'>): Note[] =>
  notes.values().sort((a, b) => a.first - b.first || (a.madeAt < b.madeAt ? -1 : 1));
