import { bringBack, compareShots, perform, type Shot } from '@varrup/core';
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
report(rows);
