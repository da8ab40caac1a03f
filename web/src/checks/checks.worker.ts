import { applyPatches, type Finding, learnRigs, lookThrough, type Patch, type Shot } from '@varrup/core';
import * as Comlink from 'comlink';

/** How long it looks before it listens whether something newer is wanted, in milliseconds. */
const TURN = 12;

let shot: Shot | null = null;
let wanted = 0;

/** What came of looking a shot through. */
export interface Looked {
  readonly findings: Finding[];
  readonly milliseconds: number;
}

/** Checks off the interface's thread. It keeps the shot, and is told only what changes. */
export const checker = {
  learn: learnRigs,

  open(next: Shot): void {
    shot = next;
    wanted++;
  },

  change(patches: readonly Patch[]): void {
    if (shot) shot = applyPatches(shot, patches);
    wanted++;
  },

  /** Looks the shot through; null where something newer has been wanted meanwhile. */
  async look(): Promise<Looked | null> {
    if (!shot) return null;
    const mine = wanted;
    const begun = performance.now();
    const steps = lookThrough(shot);
    for (let turn = begun; ; ) {
      const step = steps.next();
      if (step.done) return { findings: step.value, milliseconds: performance.now() - begun };
      if (performance.now() - turn < TURN) continue;
      await new Promise((resolve) => setTimeout(resolve));
      if (mine !== wanted) return null;
      turn = performance.now();
    }
  },
};

Comlink.expose(checker);
