import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Panel } from '../document/board.ts';
import { emptyShot, type Shot } from '../document/shot.ts';
import { packPoints } from '../drawing/points.ts';
import { perform } from '../edit/edit.ts';
import {
  addPanel,
  addSounds,
  changePanel,
  changePlan,
  copyPanel,
  drawStroke,
  markPanels,
  movePanel,
  removePanels,
  splitPanel,
} from '../edit/index.ts';
import { parseShot } from '../parse/index.ts';
import { boardFrames, panelAt, panelFrameAt, panelRuns, panelsOf, shotOfPanel, wholePanel } from './index.ts';

const panel = (id: string, frames: number, more: Partial<Panel> = {}): Omit<Panel, 'place'> => ({
  id,
  frames,
  name: '',
  happens: '',
  says: '',
  picture: null,
  camera: null,
  shot: null,
  ...more,
});
const board = (...frames: number[]): Shot =>
  frames.reduce(
    (shot, n, i) => addPanel.apply(shot, { panel: panel(`p${i + 1}`, n), before: null }),
    emptyShot('s', 'S'),
  );
const order = (shot: Shot) => panelsOf(shot).map((p) => p.id);
const stroke = (on: string) => ({
  id: `line-${on}`,
  on,
  sheet: 0,
  place: 1,
  tool: 'pencil' as const,
  tint: 'graphite' as const,
  wide: 0.01,
  points: packPoints([0, 0, 1, 1, 0.5, 1]),
});

describe('the panels of a board', () => {
  test('stand one after another, each as long as it says, and the shot is as long as they are together', () => {
    const shot = board(24, 12, 36);
    expect(panelRuns(shot).map(({ first, last }) => [first, last])).toEqual([
      [1, 24],
      [25, 36],
      [37, 72],
    ]);
    expect(shot.range).toEqual({ first: 1, last: 72 });
    expect(changePanel.apply(shot, { id: 'p2', change: { frames: 1 } }).range.last).toBe(61);
  });

  test('leave a shot that is animated already as long as it is, until they are asked to lead', () => {
    const animated = { ...emptyShot('s', 'S'), curves: emptyShot('s', 'S').curves.with('a.move.x', {} as never) };
    const shot = addPanel.apply(animated, { panel: panel('p1', 10), before: null });
    expect([shot.plan.leads, shot.range.last]).toEqual([false, 96]);
    expect(changePlan.apply(shot, { change: { leads: true } }).range.last).toBe(10);
  });

  test('every frame belongs to one of them, and none is skipped', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 12 }), (lengths) => {
        const shot = board(...lengths);
        const runs = panelRuns(shot);
        const names = Array.from({ length: boardFrames(shot) }, (_, i) => panelAt(runs, i + 1)!.panel.id);
        expect(lengths.map((_, i) => names.filter((n) => n === `p${i + 1}`).length)).toEqual(lengths);
        expect(panelAt(runs, 0)!.index).toBe(0);
        expect(panelAt(runs, 1e6)!.index).toBe(lengths.length - 1);
      }),
    );
  });

  test('can be moved to any place, and moving one changes no other', () => {
    const shot = board(1, 2, 3, 4);
    const moved = perform(shot, movePanel, { id: 'p4', before: 'p2' })!;
    expect(order(moved.shot)).toEqual(['p1', 'p4', 'p2', 'p3']);
    expect(moved.edit.patches.filter((p) => p.path.startsWith('/panels')).map((p) => p.path)).toEqual([
      '/panels/p4/place',
    ]);
    expect(order(movePanel.apply(shot, { id: 'p1', before: null }))).toEqual(['p2', 'p3', 'p4', 'p1']);
    expect(movePanel.apply(shot, { id: 'p2', before: 'p3' })).toBe(shot);
  });

  test('are copied with what is drawn on them, and taken away with it', () => {
    const shot = drawStroke.apply(board(5, 6), { stroke: stroke('p1') });
    const copied = copyPanel.apply(shot, { id: 'p1', as: 'c' });
    expect(order(copied)).toEqual(['p1', 'c', 'p2']);
    expect(copied.strokes.values().map((s) => s.on)).toEqual(['p1', 'c']);
    const gone = removePanels.apply(copied, { ids: ['p1'] });
    expect(gone.strokes.values().map((s) => s.on)).toEqual(['c']);
    expect(gone.range.last).toBe(11);
  });

  test('are split without a change of length, and a move of the camera goes on through both', () => {
    const camera = { from: { x: 0.5, y: 0.28, wide: 1 }, to: { x: 0.3, y: 0.2, wide: 0.4 } };
    const shot = addPanel.apply(emptyShot('s', 'S'), { panel: panel('p1', 30, { camera }), before: null });
    const split = splitPanel.apply(shot, { id: 'p1', frames: 12, as: 'p2' });
    const [one, two] = panelsOf(split);
    expect([one.frames, two.frames, split.range.last]).toEqual([12, 18, 30]);
    expect(one.camera!.to).toEqual(two.camera!.from);
    expect(two.camera!.to).toEqual(camera.to);
    expect(() => splitPanel.apply(shot, { id: 'p1', frames: 30, as: 'p2' })).toThrow(/30 frames/);
  });

  test('a marker at the beginning of one goes where it goes, and stays where it was when the panel is taken away', () => {
    const marked = markPanels.apply(board(10, 20, 30), { ids: ['p2', 'p3'] });
    const frames = (shot: Shot) => shot.markers.values().map((m) => m.frame);
    expect(frames(marked)).toEqual([11, 31]);
    const longer = changePanel.apply(marked, { id: 'p1', change: { frames: 15 } });
    expect(frames(longer)).toEqual([16, 36]);
    expect(frames(movePanel.apply(longer, { id: 'p3', before: 'p1' }))).toEqual([46, 1]);
    const gone = removePanels.apply(longer, { ids: ['p2'] });
    expect(gone.markers.values().map((m) => [m.frame, m.panel])).toEqual([
      [16, null],
      [16, 'p3'],
    ]);
    expect(markPanels.apply(marked, { ids: ['p2'] })).toBe(marked);
  });
});

describe('the camera of a panel', () => {
  const camera = { from: { x: 0.5, y: 0.28, wide: 1 }, to: { x: 0.2, y: 0.5, wide: 0.25 } };

  test('is the whole of it where none is drawn, begins and ends where it says, and always goes on', () => {
    expect(panelFrameAt({ camera: null }, 0.4)).toEqual(wholePanel);
    expect(panelFrameAt({ camera }, 0)).toEqual(camera.from);
    const end = panelFrameAt({ camera }, 1);
    expect([end.x, end.y, end.wide]).toEqual([0.2, 0.5, 0.25].map((v) => expect.closeTo(v, 12)));
    for (let i = 1; i <= 20; i++)
      expect(panelFrameAt({ camera }, i / 20).wide).toBeLessThan(panelFrameAt({ camera }, (i - 1) / 20).wide);
  });

  test('while it moves in, one point of the picture stays where it is seen', () => {
    // The fixed point of the map from the first frame to the last.
    const fixed = (from: number, to: number, wide: number) => (to - from * wide) / (1 - wide);
    const at = fixed(0.5, 0.2, 0.25);
    const seen = (share: number) => {
      const f = panelFrameAt({ camera }, share);
      return (at - f.x) / f.wide;
    };
    for (const share of [0.1, 0.5, 0.9]) expect(seen(share)).toBeCloseTo(seen(0), 9);
  });
});

describe('a shot made of a panel', () => {
  test('is as long as it, holds its drawing, its words and what is heard meanwhile, and is a shot that can be read', () => {
    const named = board(24, 12, 36);
    const with2 = changePanel.apply(named, { id: 'p2', change: { happens: 'The sack tips.\nSlowly.' } });
    const voice = { id: 'v', name: 'Voice', sound: { media: 'a'.repeat(64), seconds: 10 }, frame: 13, gain: 1 };
    const knock = { id: 'k', name: 'Knock', sound: 'knock' as const, frame: 60, gain: 1 };
    const heard = addSounds.apply(with2, { sounds: [voice, knock] });
    const shot = shotOfPanel(drawStroke.apply(heard, { stroke: stroke('p2') }), panelRuns(heard)[1]);
    expect(shot.name).toBe('02 The sack tips');
    expect(shot.range).toEqual({ first: 1, last: 12 });
    expect(shot.plan.from).toEqual({ shot: 's', panel: 'p2' });
    expect(shot.sounds.values().map((s) => [s.name, s.frame])).toEqual([['Voice', -11]]);
    expect(shot.strokes.values().map((s) => s.on)).toEqual(order(shot));
    expect(parseShot(JSON.parse(JSON.stringify({ ...shot, rigs: undefined })), shot.rigs).ok).toBe(true);
  });
});
