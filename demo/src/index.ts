import type { Shot } from '@varrup/core';
import { floatOnTheSteps } from './shots/01-float-on-the-steps.ts';
import { pileDriver } from './shots/05-pile-driver.ts';
import { ferryBoard } from './shots/09-ferry-board.ts';

/** The Night Ferry: every demo shot, in order. A new shot is one file in `shots/` and one line here. */
export const nightFerry = {
  id: 'night-ferry',
  name: 'Night Ferry',
  shots: (): Shot[] => [floatOnTheSteps(), pileDriver(), ferryBoard()],
} as const;
