import type { Shot } from '@varrup/core';
import { dressed } from './dressing.ts';
import { practiceFloor } from './shots/00-practice-floor.ts';
import { floatOnTheSteps } from './shots/01-float-on-the-steps.ts';
import { porterCrosses } from './shots/02-porter-crosses.ts';
import { goatOnTheWall } from './shots/03-goat-on-the-wall.ts';
import { heaveBlocked, heaveTheSack } from './shots/04-heave-the-sack.ts';
import { heaveReference } from './shots/04-plan.ts';
import { pileDriver } from './shots/05-pile-driver.ts';
import { ferryBoard } from './shots/09-ferry-board.ts';
import { handSignals } from './shots/10-hand-signals.ts';
import { snappingToolbox } from './shots/11-snapping-toolbox.ts';

export { harbour, harbourRigs } from './rigs/index.ts';

/** The Night Ferry: every demo shot, in order. A new shot is one file in `shots/` and one line here; what it is made of, and its light, stands in `dressing.ts`. */
export const nightFerry = {
  id: 'night-ferry',
  name: 'Night Ferry',
  shots: (): Shot[] =>
    [
      practiceFloor(),
      floatOnTheSteps(),
      porterCrosses(),
      goatOnTheWall(),
      heaveTheSack(),
      pileDriver(),
      ferryBoard(),
      handSignals(),
      snappingToolbox(),
    ].map(dressed),
  /** Versions that shots had before they were done, by shot. */
  earlier: (): Readonly<Record<string, { readonly name: string; readonly shot: Shot }>> => ({
    'heave-the-sack': { name: 'Blocked: legs and body', shot: dressed(heaveBlocked()) },
  }),
  /** Footage that lies in `demo/media/`: each with its poster beside it. */
  media: [heaveReference],
} as const;

/** The file of a shot's picture in `demo/pictures/`: `npm run shots` takes it. */
export const pictureFile = (name: string): string => `${name.toLowerCase().replaceAll(' ', '-')}.webp`;
