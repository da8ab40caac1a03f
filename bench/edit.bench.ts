import { moveKeys, Program, perform } from '@varrup/core';
import { rigs } from './cast.ts';
import { median, report, row } from './row.ts';

/** One edit on a shot of 10,000 keys: a key dragged by a frame, made into an edit with its patches, to a new frame. */
const shot = rigs(1, 60, 28, 6);
const keys = Object.values(shot.curves).reduce((n, c) => n + c.keys.length, 0);
if (keys < 10_000) throw new Error(`The shot has only ${keys} keys.`);
const program = new Program(shot);
const frame = program.createFrame();
program.evaluate(40, frame);

const path = 'r0j30.move.y';
let current = shot;
let by = 1;
const edit = await median(() => {
  const at = current.curves[path].keys[9].frame;
  const done = perform(current, moveKeys, { keys: { [path]: [at] }, by });
  by = -by;
  if (!done) throw new Error('Nothing moved.');
  current = done.shot;
  program.update(current);
  program.evaluate(40, frame);
});

const afresh = await median(() => {
  const whole = new Program(current);
  whole.evaluate(40, whole.createFrame());
});

report([
  row('one edit (a key dragged) to a new frame, 10,000 keys', edit, 'ms', 4),
  row('  the same against compiling the shot afresh', edit / afresh, 'ratio', 0.5),
]);
