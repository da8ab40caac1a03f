import type { FormStore } from '../picture/forms.ts';
import { Arcs } from './arcs.ts';
import { Balance } from './balance.ts';
import { Controls } from './controls.ts';
import { FootageCards } from './footage-cards.ts';
import { Ghosts } from './ghosts.ts';
import { GroundMarks } from './ground-marks.ts';
import { Handles } from './handles.ts';
import { LoosePegs } from './loose-pegs.ts';

export type { Overlay } from './overlay.ts';

/** All overlays by name, in the order in which they are drawn. @param forms the forms of the picture, for what looks like it @param redraw asks for a drawing */
export const makeOverlays = (forms: FormStore, redraw: () => void) => ({
  footageCards: new FootageCards(redraw),
  ghosts: new Ghosts(forms),
  groundMarks: new GroundMarks(),
  arcs: new Arcs(),
  balance: new Balance(),
  controls: new Controls(),
  loosePegs: new LoosePegs(),
  handles: new Handles(),
});

export type Overlays = ReturnType<typeof makeOverlays>;
