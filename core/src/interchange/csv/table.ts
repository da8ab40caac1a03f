/** One channel of a member over some frames, in the units animators see. */
export interface CurveColumn {
  readonly member: string;
  /** As the channels panel calls it: `move y`. */
  readonly channel: string;
  readonly unit: '' | 'm' | '°';
  /** A number for each frame; null where the table has none. */
  readonly values: readonly (number | null)[];
}

/** Curves as a table: for each frame what every channel has. */
export interface CurveTable {
  readonly rate: number;
  /** Whole or not, each after the one before. */
  readonly frames: readonly number[];
  readonly columns: readonly CurveColumn[];
}

/** How a table is written: a line for each frame with a column for each channel, or a line for each number. */
export const tableForms = ['wide', 'long'] as const;
export type TableForm = (typeof tableForms)[number];

/** The first line of a long table. */
export const longHeader = ['member', 'channel', 'unit', 'frame', 'seconds', 'value'] as const;

/** The first columns of a wide one. */
export const wideHeader = ['frame', 'seconds'] as const;

export const tableLimits = { characters: 50_000_000, lines: 2_000_000, columns: 5_000 } as const;
