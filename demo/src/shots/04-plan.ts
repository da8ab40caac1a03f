import {
  type Footage,
  frameOf,
  type Marker,
  type Note,
  type Panel,
  type PlacedSound,
  type Shot,
  type Stroke,
  Table,
} from '@varrup/core';
import { Drawing, drawFigure, jointAt } from '../board-drawing.ts';

/** What the acted shot began with, and what was said of it: idea, board, breakdown list, reference, sound, and the notes of a review. */

/** The panels: where each begins, what it shows and what happens. The last one goes to the end. */
const panels: readonly (Pick<Panel, 'name' | 'happens' | 'says' | 'camera'> & { at: number; shows: number })[] = [
  {
    at: 1,
    shows: 8,
    name: 'Hooked',
    happens: 'Bent over it, the hook set in its neck. He does not like the look of it.',
    says: '',
    camera: null,
  },
  {
    at: 21,
    shows: 29,
    name: 'Tried',
    happens: 'He leans back on it. It lifts a hand’s breadth, and falls.',
    says: '“Oof.”',
    camera: null,
  },
  {
    at: 41,
    shows: 66,
    name: 'Gathered',
    happens: 'Low and far back, as far from the sack as the pole lets him.',
    says: '',
    camera: null,
  },
  {
    at: 68,
    shows: 79,
    name: 'Heaved',
    happens: 'From the right foot, through hips and chest, into the pole. It flies.',
    says: '“Hup!”',
    camera: null,
  },
  {
    at: 82,
    shows: 93,
    name: 'Carried',
    happens: 'The pole takes him a step along. The sack lands.',
    says: '',
    camera: null,
  },
  {
    at: 112,
    shows: 140,
    name: 'Wiped',
    happens: 'The pole planted, he wipes his brow, and looks whether anybody has seen it.',
    says: '',
    camera: { from: { x: 0.5, y: 0.281, wide: 1 }, to: { x: 0.4, y: 0.25, wide: 0.72 } },
  },
];

const markers: readonly Omit<Marker, 'id' | 'panel'>[] = [
  { frame: 29, name: 'tried', what: 'The weight says no.', sound: 'creak of the pole', effort: 'half of what he has' },
  { frame: 66, name: 'gathered', what: 'Held for a breath.', sound: '', effort: 'all of it, wound up' },
  { frame: 80, name: 'let go', what: 'The sack leaves the hook.', sound: 'a grunt', effort: 'everything' },
  { frame: 97, name: 'lands', what: 'It sinks into itself; the cart takes it.', sound: 'thud', effort: '' },
  { frame: 138, name: 'brow', what: 'The left hand comes up, the head meets it.', sound: '', effort: 'none left' },
];

const sounds: readonly PlacedSound[] = [
  { id: 'creak', name: 'Pole creaks', sound: 'creak', frame: 22, gain: 0.6 },
  {
    id: 'strain',
    name: 'Pole strains',
    sound: 'creak',
    frame: 69,
    gain: 0.8,
    part: { from: 0.1, until: 0.6 },
    fade: { in: 0.05, out: 0.2 },
  },
  { id: 'step', name: 'Step', sound: 'knock', frame: 91, gain: 0.35 },
  { id: 'thud', name: 'Sack lands', sound: 'thud', frame: 97, gain: 1 },
  { id: 'butt', name: 'Pole is planted', sound: 'knock', frame: 119, gain: 0.6 },
];

/** The stand-in acted it out; the file lies in `demo/media/`. */
export const heaveReference = {
  file: 'heave',
  media: 'e7e57d1e660f66d49da54575336db7dda6efe224ed0f8002126928607f90a243',
} as const;

const footage: Footage = {
  id: 'reference',
  name: 'Acted out, take 1',
  media: heaveReference.media,
  pictures: [],
  seconds: 7.084,
  width: 640,
  height: 360,
  rate: 24,
  frame: 1,
  from: 0,
  until: 7.084,
  speed: 1,
  shown: 'corner',
  strength: 0.6,
  card: { at: [0.6, 0, -1.4], turn: 0, wide: 4 },
  // The rod on the wall is a metre.
  scale: { a: [0.075, 0.425], b: [0.075, 0.175], metres: 1 },
};

const teacher = { id: 'harbour-master', name: 'Harbour master' };
const porter = { id: 'apprentice', name: 'Apprentice' };

const note = (more: Pick<Note, 'id' | 'first' | 'on' | 'text'> & Partial<Note>): Note => ({
  author: teacher,
  madeAt: '2026-02-10T16:20:00.000Z',
  revision: 0,
  last: more.first,
  state: 'open',
  answers: [],
  ...more,
});

const through = { eye: [1, 1.02, 4.5], target: [1, 0.9, 0], fov: 0.56, flat: null, camera: true } as const;

const notes: readonly Note[] = [
  note({
    id: 'note-gather',
    first: 60,
    last: 67,
    on: {
      is: 'stage',
      view: { ...through, eye: [...through.eye], target: [...through.target] },
      pin: { member: 'porter-hips', at: [0, 0, 0] },
    },
    text: 'He must go back as far as the arms let him, and stay there long enough to be seen. It was four frames; give it eight.',
    state: 'done',
    answers: [{ author: porter, madeAt: '2026-02-11T09:05:00.000Z', text: 'Eight now, and lower by a hand.' }],
  }),
  note({
    id: 'note-land',
    first: 97,
    on: { is: 'curve', path: 'sack.move.y', value: 0.71, per: 1 },
    text: 'Sharp at the bottom, as it is. Do not ease it.',
    state: 'done',
  }),
  note({
    id: 'note-brow',
    first: 138,
    last: 150,
    on: { is: 'channel', path: 'porter-head.turn.x' },
    text: 'The head could meet the hand a frame or two later, tired as he is.',
  }),
  note({
    id: 'note-cap',
    first: 180,
    on: { is: 'sheet', member: 'porter' },
    text: 'Let him lose his cap?',
    state: 'dropped',
    answers: [{ author: porter, madeAt: '2026-02-11T09:12:00.000Z', text: 'That is another shot.' }],
  }),
];

/** The drawing of a panel: the figure as it stands on a frame, the pole, the sack, the cart and the floor. */
function drawn(shot: Shot, id: string, at: number): Stroke[] {
  const drawing = new Drawing(id);
  const frame = frameOf(shot, at);
  const bed = 0.52;
  drawing.line(
    [
      [-0.9, 0],
      [1, 0.01],
      [3.2, 0],
    ],
    { wide: 0.005, sheet: 0 },
  );
  drawing.line(
    [
      [1.85, bed],
      [3, bed],
      [2.99, bed + 0.42],
    ],
    { wide: 0.009, sheet: 0 },
  );
  drawing.round([2.62, 0.3], 0.3, 0.3, { sheet: 0, wide: 0.006 });
  const [sx, sy] = jointAt(frame, 'sack', 'middle');
  drawing.round([sx, sy], 0.1, 0.12, { tool: 'tone', tint: 'ochre', wide: 0.055, sheet: 0 });
  drawing.round([sx, sy], 0.21, 0.24);
  const neck = jointAt(frame, 'sack', 'neck');
  drawing.line([[sx + (neck[0] - sx) * 0.8, sy + (neck[1] - sy) * 0.8], neck], { wide: 0.012 });
  const [grip, tip] = [jointAt(frame, 'boathook', 'grip'), jointAt(frame, 'boathook', 'tip')];
  drawing.line([[grip[0] - (tip[0] - grip[0]) * 0.9, grip[1] - (tip[1] - grip[1]) * 0.9], tip], {
    tint: 'blue',
    wide: 0.006,
  });
  drawFigure(drawing, frame, 'porter');
  // What throws a shadow stands on the floor.
  const foot = jointAt(frame, 'porter', 'hips');
  drawing.line(
    [
      [foot[0] - 0.3, -0.03],
      [foot[0] + 0.4, -0.03],
    ],
    { tool: 'tone', wide: 0.03, sheet: 0 },
  );
  return drawing.strokes;
}

const byId = <T extends { readonly id: string }>(list: readonly T[]): Table<T> =>
  Table.of(list.map((item) => [item.id, item]));

/** The shot with all it was planned by, and what was said of it. */
export function planned(shot: Shot): Shot {
  const ends = [...panels.slice(1).map((p) => p.at), shot.range.last + 1];
  const board = panels.map(
    ({ at, shows: _, ...words }, i): Panel => ({
      ...words,
      id: `panel-${i + 1}`,
      place: i,
      frames: ends[i] - at,
      picture: null,
      shot: null,
    }),
  );
  const strokes = panels.flatMap(({ shows }, i) => drawn(shot, `panel-${i + 1}`, shows));
  return {
    ...shot,
    plan: {
      idea: 'A porter heaves a sack that is too heavy for him on a cart, is carried along by it, and hopes that nobody has seen it.',
      audience: 'Whoever has ever lifted something with their back',
      leads: true,
      from: null,
    },
    panels: byId(board),
    strokes: byId(strokes),
    markers: byId(markers.map((marker, i) => ({ ...marker, id: `marker-${i + 1}`, panel: null }))),
    sounds: byId(sounds),
    footage: byId([footage]),
    notes: byId(notes),
  };
}
