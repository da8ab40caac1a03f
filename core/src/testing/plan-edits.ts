import { panelsOf } from '../board/index.ts';
import type { Footage, Note, Stroke, Suggestion } from '../document/index.ts';
import { packPoints } from '../drawing/index.ts';
import * as edit from '../edit/index.ts';
import { type Dice, ids, paths, pick, someKeys, type Throw } from './dice.ts';

/** Edits of the plan, of drawings, of footage and of what reviewers say. */

const aPanel = (d: Dice) => ({
  id: `panel${d.what % 9}`,
  frames: 1 + (d.other % 30),
  name: '',
  happens: 'It drops.',
  says: '',
  picture: null,
  camera: d.flag ? { from: { x: 0.5, y: 0.3, wide: 0.6 }, to: { x: 0.4, y: 0.3, wide: 0.3 } } : null,
  shot: null,
});

const aStroke = (d: Dice): Stroke => ({
  id: `stroke${d.what % 40}`,
  on: `panel${d.who % 9}`,
  sheet: d.other % 3,
  place: d.what,
  tool: pick(['pencil', 'rubber', 'tone'] as const, d.other),
  tint: 'graphite',
  wide: 0.01,
  points: packPoints([0.1, 0.1, 1, d.other / 50, 0.4, 0.5]),
});

/** A film that nobody has. */
export const aFilm: Footage = {
  id: 'film',
  name: 'Film',
  media: 'a'.repeat(64),
  pictures: [],
  seconds: 4,
  width: 640,
  height: 360,
  rate: 25,
  frame: 1,
  from: 0,
  until: 4,
  speed: 1,
  shown: 'corner',
  strength: 0.5,
  card: { at: [0, 0, -1], turn: 0, wide: 2 },
  scale: null,
};

const someFootage = (d: Dice): Footage => ({ ...aFilm, id: `film${d.what % 3}`, frame: d.frame });

const me = { id: 'me', name: 'Me' };
const aNote = (d: Dice): Note => ({
  id: `note${d.what % 6}`,
  author: me,
  madeAt: '2026-01-05T10:00:00.000Z',
  revision: 3,
  first: d.frame,
  last: d.frame + (d.other % 4),
  on: { is: 'sheet', member: null },
  text: 'Later.',
  state: 'open',
  answers: [],
});

const aKey = (table: { keys(): string[] }, d: Dice): string => pick([...table.keys(), 'nobody'], d.who);

export const planEdits: readonly Throw[] = [
  (s, d) => edit.perform(s, edit.changePlan, { change: { idea: `Idea ${d.other}`, leads: d.flag } }),
  (s, d) =>
    edit.perform(s, edit.addPanel, {
      panel: aPanel(d),
      before: d.flag ? (panelsOf(s)[d.who % 4]?.id ?? null) : null,
    }),
  (s, d) => edit.perform(s, edit.changePanel, { id: aKey(s.panels, d), change: { frames: 1 + (d.other % 40) } }),
  (s, d) =>
    s.panels.size < 2
      ? edit.perform(s, edit.addPanel, { panel: aPanel(d), before: null })
      : edit.perform(s, edit.movePanel, { id: aKey(s.panels, d), before: pick([...s.panels.keys(), null], d.other) }),
  (s, d) => edit.perform(s, edit.copyPanel, { id: aKey(s.panels, d), as: `panel${d.what % 9}` }),
  (s, d) =>
    edit.perform(s, edit.splitPanel, { id: aKey(s.panels, d), frames: 1 + (d.other % 8), as: `panel${d.what % 9}` }),
  (s, d) => edit.perform(s, edit.linkPanels, { shots: { [aKey(s.panels, d)]: `shot${d.what}` } }),
  (s, d) => edit.perform(s, edit.removePanels, { ids: [aKey(s.panels, d)] }),
  (s, d) => edit.perform(s, edit.markPanels, { ids: [aKey(s.panels, d)] }),
  (s, d) => edit.perform(s, edit.putMarker, { marker: edit.momentOf(someFootage(d), d.frame, `m${d.what % 5}`, 'x') }),
  (s, d) =>
    edit.perform(s, edit.putMarkers, { markers: [edit.momentOf(someFootage(d), d.frame, `m${d.who % 5}`, 'y')] }),
  (s, d) => edit.perform(s, edit.removeMarkers, { ids: [aKey(s.markers, d)] }),
  (s, d) => edit.perform(s, edit.drawStroke, { stroke: aStroke(d) }),
  (s, d) => edit.perform(s, edit.clearDrawing, { on: `panel${d.who % 9}`, sheet: d.flag ? d.other % 3 : null }),
  (s, d) => edit.perform(s, edit.pinFootage, { footage: someFootage(d) }),
  (s, d) => edit.perform(s, edit.changeFootage, { id: aKey(s.footage, d), change: { speed: 0.5, frame: d.other } }),
  (s, d) => edit.perform(s, edit.unpinFootage, { id: aKey(s.footage, d) }),
  (s, d) =>
    edit.perform(s, edit.putTrace, {
      trace: { id: `trace${d.what % 3}`, footage: `film${d.who % 3}`, name: 'Heel', side: 'left', dots: [] },
    }),
  (s, d) =>
    edit.perform(s, edit.dotTrace, {
      id: aKey(s.traces, d),
      picture: d.other,
      at: d.flag ? [0.2, d.who / 60] : null,
    }),
  (s, d) => edit.perform(s, edit.removeTraces, { ids: [aKey(s.traces, d)] }),
  (s, d) => {
    const path = pick(paths(s, pick(ids(s), d.who)), d.what);
    const value = (k: number) => (path.endsWith('.orientation') ? d.quaternion : d.value + k);
    const performed = { [path]: [0, 1, 2, 3, 4].map((k) => ({ frame: d.frame + k, value: value(k) })) };
    return edit.perform(s, edit.putPerformed, { performed, how: { smooth: 1, metres: 0.01, radians: 0.01 } });
  },
  (s, d) => {
    // As it was before its keys were moved.
    const version = edit.moveKeys.apply(s, { keys: someKeys(s, d), by: 3, rise: 0.5 });
    return edit.perform(s, edit.bringBack, {
      version,
      name: 'Before',
      members: d.flag ? [pick(ids(s), d.who)] : null,
      frames: d.other % 2 === 0 ? { first: d.frame, last: d.frame + 10 } : null,
    });
  },
  (s, d) => edit.perform(s, edit.putNote, { note: aNote(d) }),
  (s, d) =>
    edit.perform(s, edit.answerNote, {
      id: aKey(s.notes, d),
      answer: { author: me, madeAt: '2026-01-05T11:00:00.000Z', text: 'Yes.' },
    }),
  (s, d) =>
    edit.perform(s, edit.changeNote, {
      id: aKey(s.notes, d),
      change: { state: pick(['open', 'done', 'dropped'] as const, d.other) },
    }),
  (s, d) => edit.perform(s, edit.removeNotes, { ids: [aKey(s.notes, d)] }),
  (s, d) => edit.perform(s, edit.putSuggestion, { suggestion: aSuggestion(d, s.curves.keys()) }),
  (s, d) => edit.perform(s, edit.takeSuggestion, { id: aKey(s.suggestions, d) }),
  (s, d) => edit.perform(s, edit.removeSuggestions, { ids: [aKey(s.suggestions, d)] }),
];

function aSuggestion(d: Dice, paths: readonly string[]): Suggestion {
  const path = paths[d.what % Math.max(1, paths.length)];
  const numeric = path !== undefined && !path.endsWith('.orientation');
  return {
    id: `better${d.who % 3}`,
    author: me,
    madeAt: '2026-01-05T12:00:00.000Z',
    name: 'Later and softer',
    note: d.flag ? `note${d.other % 6}` : null,
    curves: numeric ? { [path]: d.flag ? d.curve : null } : {},
    values: {},
  };
}
