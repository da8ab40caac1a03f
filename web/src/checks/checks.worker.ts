import { type Finding, kindest, lookThrough, type TriedCrossing, triedCrossings } from '@varrup/core';
import * as Comlink from 'comlink';
import { Mirrored, type News } from '../mirror/mirror.ts';

/** How long it looks before it listens whether something newer is wanted, in milliseconds. */
const TURN = 12;

const mirrored = new Mirrored();
let wanted = 0;
let crossing = 0;

/** The span that is gone over into, and its track. */
export interface Into {
  readonly track: string;
  readonly span: string;
}

/** What came of looking a shot through. */
export interface Looked {
  readonly findings: Finding[];
  readonly milliseconds: number;
}

/** Checks off the interface's thread. It keeps the shot, and is told only what changes. */
export const checker = {
  /** Looks the shot through as the news make it; null where something newer came meanwhile. */
  async look(news: News): Promise<Looked | null> {
    const shot = mirrored.hear(news);
    const mine = ++wanted;
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

  /** Tries crossings into a span, and says how many it has tried; null where it was called off. */
  async cross(news: News, into: Into, tell: (tried: number) => void): Promise<TriedCrossing | null> {
    const shot = mirrored.hear(news);
    const track = shot.tracks.get(into.track);
    const mine = ++crossing;
    const tried: TriedCrossing[] = [];
    for (const step of track ? triedCrossings(shot, track, into.span) : []) {
      if (step) tried.push(step);
      else {
        tell(tried.length);
        await new Promise((resolve) => setTimeout(resolve));
      }
      if (mine !== crossing) return null;
    }
    return kindest(tried) ?? null;
  },

  /** Calls off what is being tried. */
  leave(): void {
    crossing++;
  },
};

Comlink.expose(checker);
