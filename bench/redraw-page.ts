import type { Shot } from '@varrup/core';
import { useShot } from '../web/src/shot/shot-store.ts';
import { momentNow } from '../web/src/stage/moment.ts';
import { Arcs } from '../web/src/stage/overlays/arcs.ts';
import { Ghosts } from '../web/src/stage/overlays/ghosts.ts';
import { FormStore } from '../web/src/stage/picture/forms.ts';
import { drawCurves } from '../web/src/timeline/draw-curves.ts';
import { drawSheet, drawSheetNow } from '../web/src/timeline/draw-sheet.ts';
import { sheetRows } from '../web/src/timeline/sheet-rows.ts';
import { shownCurves, valueSpan } from '../web/src/timeline/shown-curves.ts';
import { useHabits } from '../web/src/view/habits.ts';
import { usePlayhead } from '../web/src/view/playhead.ts';
import { select } from '../web/src/view/selection.ts';
import { rigs } from './cast.ts';

/** Runs in the page: the middle of many redraws, each waited for by reading a pixel back. */
function median(draw: (i: number) => void, canvas: HTMLCanvasElement): number {
  const times: number[] = [];
  for (let i = 0; i < 60; i++) {
    const begun = performance.now();
    draw(i);
    canvas.getContext('2d')!.getImageData(0, 0, 1, 1);
    times.push(performance.now() - begun);
  }
  return times.sort((a, b) => a - b)[30];
}

function measureRedraws(shot: Shot): { sheet: number; curves: number } {
  const canvas = document.querySelector('canvas')!;
  const rows = sheetRows(shot, { selection: [], folded: [], find: '', filter: 'keyed', frame: 1 });
  const curves = shownCurves(shot, {
    selection: [],
    channels: [],
    pinned: [],
    hidden: [],
    isolated: [],
    normal: false,
  });
  const values = valueSpan(curves);
  const { first, last } = shot.range;
  const span = (i: number) => ({ first: first + i * 0.1, last: last + i * 0.1 });
  const common = { shot, keys: {}, findings: new Map(), box: null };
  return {
    sheet: median((i) => drawSheet(canvas, { ...common, rows, selection: [], span: span(i), scroll: i * 3 }), canvas),
    curves: median(
      (i) => drawCurves(canvas, { ...common, curves, before: [], normal: false, speed: false, span: span(i), values }),
      canvas,
    ),
  };
}

/** What a frame that is played costs with the sheet open: the line of now and the keys on it, and nothing of what lies under it. */
function measurePlayed(shot: Shot): number {
  const canvas = document.querySelector('canvas')!;
  const rows = sheetRows(shot, { selection: [], folded: [], find: '', filter: 'keyed', frame: 1 });
  const { first, last } = shot.range;
  const picture = {
    shot,
    keys: {},
    findings: new Map(),
    box: null,
    rows,
    selection: [],
    span: { first, last },
    scroll: 0,
  };
  return median((i) => drawSheetNow(canvas, picture, first + i * 3), canvas);
}

/** Arcs and onion skin of a figure as they are made anew at each change, here of the frame and of the shot in turn. */
function measureAround(shot: Shot): number {
  const [arcs, ghosts] = [new Arcs(), new Ghosts(new FormStore())];
  select(shot.members.keys());
  useHabits.setState({
    arc: { around: 12, space: 'world', point: 'origin' },
    onion: { on: true, before: 6, after: 6, every: 1, look: 'shapes', who: 'moving' },
  });
  const times: number[] = [];
  for (let i = 0; i < 60; i++) {
    useShot.setState({ shot: i % 2 === 0 ? shot : { ...shot } });
    usePlayhead.setState({ frame: 40 + i });
    const moment = momentNow()!;
    const begun = performance.now();
    arcs.show(moment);
    ghosts.show(moment);
    times.push(performance.now() - begun);
  }
  return times.sort((a, b) => a - b)[30];
}

Object.assign(globalThis, {
  measureRedraws: () => measureRedraws(rigs(1, 60, 28, 6)),
  measurePlayed: () => ({ large: measurePlayed(rigs(20, 60, 28, 6)), small: measurePlayed(rigs(1, 60, 28, 6)) }),
  measureAround: () => measureAround(rigs(1, 60, 28, 6, 'cylinder')),
});
