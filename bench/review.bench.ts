import {
  bringBack,
  compareShots,
  drawStroke,
  packPoints,
  perform,
  type Shot,
  type Stroke,
  strokesOn,
  Table,
} from '@varrup/core';
import { rigs } from './cast.ts';
import { median, report, row } from './row.ts';

/** Two versions of a shot told apart, and one brought back: of ten thousand keys, and of ten times as many. */

/** As a version comes from the server: nothing of it is shared with the shot it is compared with. */
const fromOutside = (shot: Shot): Shot => ({
  ...shot,
  curves: shot.curves.map((curve) => structuredClone(curve)),
  members: shot.members.map((member) => structuredClone(member)),
});

/** Every fourth channel with one key changed. */
const changed = (shot: Shot): Shot => {
  let n = 0;
  return {
    ...shot,
    curves: shot.curves.map((curve) => {
      if (n++ % 4 > 0 || curve.type !== 'number') return curve;
      return { ...curve, keys: curve.keys.map((k, i) => (i === 1 ? { ...k, value: k.value + 0.1 } : k)) };
    }),
  };
};

const rows = [];
for (const [label, figures] of [
  ['10,000 keys', 1],
  ['100,000 keys', 10],
] as const) {
  const shot = rigs(figures, 60, 28, 12, 'cylinder');
  const [before, after] = [fromOutside(shot), changed(shot)];
  const told = await median(() => compareShots(before, after));
  const back = await median(() =>
    perform(after, bringBack, { name: 'before', version: before, members: null, frames: null }),
  );
  const keys = shot.curves.values().reduce((sum, c) => sum + c.keys.length, 0);
  const limit = figures === 1 ? 300 : 3_000;
  rows.push(
    row(`versions compared, ${label} (${keys})`, told, 'ms', limit),
    row(`  one brought back`, back, 'ms', limit),
  );
}

/** A line drawn on a board with so many panels, and all its drawings looked through, as those who show them do. */
const points = packPoints(Array.from({ length: 60 }, (_, i) => [i / 60, 0.3 + 0.2 * Math.sin(i / 9), 0.5]).flat());
for (const panels of [60, 600]) {
  const lines = Array.from({ length: panels * 30 }, (_, i): Stroke => {
    const on = `p${Math.floor(i / 30)}`;
    return { id: `s${i}`, on, sheet: 0, tool: 'pencil', tint: 'graphite', wide: 0.005, points, place: (i % 30) + 1 };
  });
  let shot: Shot = { ...rigs(1, 2, 2, 1), strokes: Table.of(Object.fromEntries(lines.map((s) => [s.id, s]))) };
  let drawn = 0;
  const draw = await median(() => {
    drawn++;
    shot = perform(shot, drawStroke, { stroke: { ...lines[drawn % lines.length], place: 40 + drawn } })!.shot;
    for (let p = 0; p < panels; p++) strokesOn(shot.strokes, `p${p}`);
  });
  rows.push(row(`a line drawn on a board of ${panels} panels, ${lines.length} lines`, draw, 'ms', 2));
}
report(rows);
