import type { Shot } from '../document/shot.ts';
import type { Watched } from './watched.ts';

/** Something a check found: where, of whom, how much, and how much would have been all right. Plain data. */
export interface Finding {
  /** The same for the same fault as long as it stays where it is. */
  readonly id: string;
  readonly check: string;
  readonly member: string;
  /** The channel it is in, where it is in one. */
  readonly path: string | null;
  /** The frame it is at; null where it belongs to none. */
  readonly frame: number | null;
  /** The last frame of it, where it lasts. */
  readonly until: number | null;
  /** What was measured, in the check's unit. */
  readonly value: number;
  readonly tolerance: number;
  /** A sentence that says what is wrong, with the number in it. */
  readonly text: string;
  readonly fixable: boolean;
}

/** A finding as a check reports it: the rest is filled in. */
export interface Draft {
  readonly member: string;
  readonly path?: string;
  readonly frame: number | null;
  readonly until?: number;
  readonly value: number;
  readonly text: string;
  /** Where this one cannot be fixed though others of its check can. */
  readonly unfixable?: boolean;
}

/**
 * A rule that watches the motion. A new one is one file beside this one and one line in `index.ts`: list, sheet and stage show
 * whatever there is.
 */
export interface Check {
  readonly id: string;
  readonly name: string;
  /** Why it matters, in two sentences. */
  readonly why: string;
  readonly unit: 'mm' | '%' | '°' | 'frames' | 'keys' | 'mm a frame' | '';
  /** What is all right, in the unit, where the shot says nothing else; null where there is nothing to set. */
  readonly tolerance: number | null;
  readonly most?: number;
  readonly step?: number;
  /** A fault spoils the motion; a hint may well be meant. */
  readonly weight: 'fault' | 'hint';
  /** Yields what it finds, and null now and then, so that others get a turn. */
  look(watched: Watched, tolerance: number): Iterable<Draft | null>;
  readonly fix?: {
    /** What it does, as on a button. */
    readonly words: string;
    /** Whether one fix mends all the findings of a member at once. */
    readonly all?: boolean;
    apply(shot: Shot, finding: Finding): Shot;
    /** Mends several of one channel, where one has to know of the others. */
    together?(shot: Shot, path: string, findings: readonly Finding[]): Shot;
  };
}

export const metresText = (metres: number): string => {
  const mm = Math.abs(metres) * 1000;
  return mm < 100.5 ? `${mm < 10 ? mm.toFixed(1) : mm.toFixed(0)} mm` : `${(mm / 1000).toFixed(2)} m`;
};
export const frameText = (frame: number): string => String(Math.round(frame * 100) / 100);
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
