import { momentOf, newId, putMarker } from '@varrup/core';
import { footageMeant, useFootageView } from '../footage/films.ts';
import { usePerform } from '../perform/performing.ts';
import { useQuestion } from '../view/questions.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasShot, run, shotNow, withShot } from './now.ts';

/** Footage beside the shot, and acting it out by hand. */

const meant = () => {
  const shot = shotNow();
  return shot ? footageMeant(shot) : null;
};
const hasFootage = () => meant() !== null;

export const footageCommands: AppCommand[] = [
  {
    id: 'footage.act',
    label: 'Act it out before a camera, or let the stand-in act, and pin the take to the shot…',
    group: 'Plan',
    run: () => useQuestion.getState().ask('act'),
    enabled: hasShot,
  },
  {
    id: 'footage.flip',
    label: 'Flip between the stage and its footage',
    group: 'Plan',
    shortcut: ';',
    run: () => useFootageView.setState(({ flipped }) => ({ flipped: !flipped })),
    enabled: hasFootage,
  },
  {
    id: 'footage.moment',
    label: 'Mark a key moment of the footage in the sheet, on this frame',
    group: 'Plan',
    run: withShot(() => {
      const footage = meant();
      if (footage) run(putMarker, { marker: momentOf(footage, frameNow(), newId(), 'key moment') });
    }),
    enabled: hasFootage,
  },
  {
    id: 'perform.arm',
    label: 'Perform: what is dragged in the stage goes with the hand while the shot plays, and becomes keys',
    group: 'Keys',
    shortcut: '5',
    run: () => usePerform.setState(({ armed }) => ({ armed: !armed })),
    enabled: hasShot,
  },
  {
    id: 'footage.done',
    label: 'Mark no more on the footage',
    group: 'Plan',
    run: () => useFootageView.setState({ marking: null }),
    enabled: () => useFootageView.getState().marking !== null,
  },
];
