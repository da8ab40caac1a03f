import type { PanelId } from './panels.ts';

/** A workplace over the opened shot. Going to another keeps time, what is picked, the view and what can be undone. */
export interface Desk {
  /** As in the address: `/shots/:id/:desk`. */
  readonly id: string;
  readonly word: string;
  /** What it is for, in a sentence. */
  readonly about: string;
  readonly places: Places;
}

/** What stands where: the panels that take turns beside the stage and below it, the first one first. */
export interface Places {
  /** What stands left of the stage. */
  readonly left: 'cast' | 'idea' | null;
  /** What lies over the stage. */
  readonly over: 'drawing' | null;
  readonly strip: boolean;
  readonly beside: readonly PanelId[];
  readonly below: readonly PanelId[];
}

/** The desks, in the order of the work. A new one is a line here. */
export const desks: readonly Desk[] = [
  {
    id: 'plan',
    word: 'Plan',
    about:
      'The idea in a sentence and a board of panels, drawn or written, with reference footage and sound: the panels set the shot’s timing.',
    places: {
      left: 'idea',
      over: 'drawing',
      strip: false,
      beside: ['panel', 'footage'],
      below: ['board', 'breakdown', 'sheet'],
    },
  },
  {
    id: 'cast',
    word: 'Cast',
    about: 'Sets, props, materials and light: what stands in the shot, and how it looks.',
    places: {
      left: 'cast',
      over: null,
      strip: false,
      beside: ['material', 'light', 'channels'],
      below: ['sheet', 'curves'],
    },
  },
  {
    id: 'animate',
    word: 'Animate',
    about: 'Poses, keys, curves and timing: the shot brought to life.',
    places: {
      left: 'cast',
      over: null,
      strip: true,
      beside: ['channels', 'poses', 'clips', 'span', 'company', 'sets', 'kits', 'footage', 'notes', 'checks'],
      below: ['sheet', 'curves', 'mix', 'cycle', 'bounces', 'formula'],
    },
  },
  {
    id: 'review',
    word: 'Review',
    about:
      'The shot beside its reference, another version or another shot; notes and drawings on its frames, and what changed.',
    places: {
      left: 'cast',
      over: null,
      strip: false,
      beside: ['notes', 'versions', 'channels', 'footage', 'checks'],
      below: ['sheet', 'curves', 'bounces'],
    },
  },
  {
    id: 'hand-on',
    word: 'Hand on',
    about:
      'Files in open formats, movies and pictures leave from here, looked through first, and are played as their receiver plays them.',
    places: {
      left: 'cast',
      over: null,
      strip: false,
      beside: ['files', 'remarks', 'pictures', 'made'],
      below: ['playground', 'sheet', 'curves'],
    },
  },
];

export const FIRST_DESK = 'animate';

export const deskOf = (id: string | undefined): Desk | undefined => desks.find((d) => d.id === (id ?? FIRST_DESK));
