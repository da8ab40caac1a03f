import { moveKeys, Program, parseShot, perform, Rigs, type Shot, thinReport } from '@varrup/core';
import { rigs } from './cast.ts';
import { median, report, row } from './row.ts';

/** What a long shot costs: 50,000 keys opened, thinned, and thousands of them moved in one edit. */
const shot = rigs(1, 60, 139, 2);
const count = shot.curves.values().reduce((n, c) => n + c.keys.length, 0);
if (count < 50_000) throw new Error(`The shot has only ${count} keys.`);
const text = JSON.stringify(shot);
const every = Object.fromEntries(shot.curves.entries().map(([path, c]) => [path, c.keys.map((k) => k.frame)]));
const thousands = Object.fromEntries(Object.entries(every).slice(0, 36));

const json = await median(() => JSON.parse(text));
const opened = await median(() => {
  const parsed = parseShot(JSON.parse(text), Rigs.none);
  if (!parsed.ok) throw new Error('The shot does not open.');
  const program = new Program(parsed.value);
  program.evaluate(40, program.createFrame());
});

/** The same shot keyed on every frame of a slow motion: what thinning is for. */
const baked: Shot = {
  ...shot,
  curves: shot.curves.map((c, path) =>
    c.type !== 'number'
      ? c
      : {
          ...c,
          keys: c.keys.map((k, n) => ({
            ...k,
            value: Math.sin(n / 9 + path.length + path.charCodeAt(3)),
            in: { kind: 'smooth' as const },
            out: { kind: 'smooth' as const },
          })),
        },
  ),
};
let removed = 0;
const thin = await median(() => {
  removed = thinReport(baked, every, { m: 0.002, '°': 0.002, '': 0.002 }).removed;
});
if (removed < count / 2) throw new Error(`Thinning took only ${removed} keys away.`);

let by = 1;
let current = shot;
const moved = await median(() => {
  const keys = Object.fromEntries(
    Object.keys(thousands).map((p) => [p, current.curves.at(p).keys.map((k) => k.frame)]),
  );
  const done = perform(current, moveKeys, { keys, by, collision: 'push' });
  by = -by;
  if (!done) throw new Error('Nothing moved.');
  current = done.shot;
});

report([
  row(`opening a shot of ${count} keys, to its first frame`, opened, 'ms', 500),
  row('  the same against parsing its JSON alone', opened / json, 'ratio', 12),
  row(`thinning ${count} keys`, thin, 'ms', 1500),
  row('moving 5,000 keys in one edit, pushing others', moved, 'ms', 50),
]);
