import { findingsOf, type Shot } from '@varrup/core';
import { nightFerry } from '@varrup/demo';
import { rigs } from './cast.ts';
import { median, report, row } from './row.ts';

/** All checks on a shot of three hundred frames and sixty joints with bodies, and on the demo's longest. */
const figure = rigs(1, 60, 26, 12, 'cylinder');
const shot: Shot = { ...figure, range: { first: 1, last: 300 }, play: { first: 1, last: 300 } };
const all = await median(() => findingsOf(shot));
const pileDriver = nightFerry.shots().find((s) => s.name.startsWith('05'))!;
const demo = await median(() => findingsOf(pileDriver));

report([
  row('all checks, 300 frames, 60 joints', all, 'ms', 100),
  row('  the same on the pile driver', demo, 'ms', 150),
]);
