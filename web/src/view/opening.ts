import type { Shot } from '@varrup/core';
import { useAutoKey } from './auto-key.ts';
import { useCurveView } from './curve-view.ts';
import { useFormulaOf } from './formula-of.ts';
import { useLooking } from './looking.ts';
import { usePlaces } from './places.ts';
import { usePlayhead } from './playhead.ts';
import { pickNothing } from './selection.ts';
import { viewOf } from './shot-views.ts';
import { useShown } from './shown.ts';
import { showFrames, useTiming } from './timing.ts';

/** Forgets what belongs to the shot that was open, and looks at this one as it was looked at last. */
export function lookAtShot(shot: Shot): void {
  pickNothing();
  useAutoKey.setState({ mode: 'off' });
  useTiming.setState({ find: '', rows: 'keyed' });
  useCurveView.setState({ pinned: [], hidden: [], isolated: [], behind: 'beside' });
  useShown.setState({ hiddenSets: [] });
  useFormulaOf.setState({ path: null });
  showFrames(shot.play);
  const { looking, flat, four, tab, side } = viewOf(shot.id);
  useLooking.setState({ ...useLooking.getInitialState(), ...present({ looking, flat, four }) });
  usePlaces.setState(present({ tab, side }));
  usePlayhead.getState().go(shot.play.first);
}

/** Without what is not there. */
const present = <T extends object>(values: T) =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)) as {
    [K in keyof T]?: NonNullable<T[K]>;
  };
