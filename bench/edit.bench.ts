import {
  applyEdit,
  type KeySelection,
  moveKeys,
  Program,
  perform,
  planRetiming,
  type Shot,
  setKeys,
  weigh,
} from '@varrup/core';
import { rigs } from './cast.ts';
import { median, report, row } from './row.ts';

/**
 * What an edit costs, at two sizes of the document: it is to go with what changes, and not with what there is. Each is performed with its
 * patches and the way back; keys are set on a frame that has none and on one that has, in turns.
 */
const small = rigs(5, 60, 9, 12);
const large = rigs(100, 60, 9, 12);

/** An edit on a document that goes on, the frame another one each time. */
function keying(start: Shot, count: number): () => void {
  const paths = start.curves.keys().slice(0, count);
  let shot = start;
  let turn = 0;
  return () => {
    const done = perform(shot, setKeys, { frame: 3 + (turn % 2) * 10 + (turn % 11), paths });
    turn++;
    if (done) shot = done.shot;
    if (turn % 40 === 0) shot = start;
  };
}

/** The preview of a drag: two thousand picked keys a frame further, worked out and shown anew each time. */
function dragging(shot: Shot, count: number): () => void {
  const entries = shot.curves.entries().slice(0, count);
  const keys: KeySelection = Object.fromEntries(entries.map(([path, curve]) => [path, [curve.keys[3].frame]]));
  const collision = 'push';
  let by = 1;
  return () => {
    by = by === 1 ? 2 : 1;
    const plan = planRetiming(shot, keys, { kind: 'move', by }, collision);
    moveKeys.apply(shot, { keys, by, collision, plan });
  };
}

/** In turns, so that neither size is measured in a quieter moment of the machine than the other. */
async function both(make: (shot: Shot) => () => void): Promise<{ large: number; small: number }> {
  const [l, s] = [make(large), make(small)];
  const rounds: { large: number; small: number }[] = [];
  for (let i = 0; i < 3; i++) rounds.push({ large: await median(l), small: await median(s) });
  return rounds.sort((a, b) => a.large / a.small - b.large / b.small)[1];
}

const rows = [];
for (const [count, goal] of [
  [1, 2],
  [60, 6],
  [1_800, 60],
] as const) {
  const cost = await both((shot) => keying(shot, count));
  rows.push(
    row(`key ${count} channels in 36,000 curves, with patches and inverse`, cost.large, 'ms', goal),
    row('  the same against 1,800 curves', cost.large / cost.small, 'ratio', 1.5),
  );
}
const whole = await median(keying(large, 2_000));
rows.push(row('key 2,000 channels in 36,000 curves', whole, 'ms', 60));
const drag = await both((shot) => dragging(shot, 1_800));
rows.push(
  row('drag 2,000 keys a frame on in 36,000 curves, preview', await median(dragging(large, 2_000)), 'ms', 12),
  row('  1,800 keys, against 1,800 curves', drag.large / drag.small, 'ratio', 2),
);

/** What a trial would change, told in numbers while its dial is turned. */
function weighing(shot: Shot, count: number): () => void {
  const after = perform(shot, setKeys, { frame: 5, paths: shot.curves.keys().slice(0, count) })!.shot;
  return () => {
    weigh(shot, after);
  };
}
const trial = await both((shot) => weighing(shot, 300));
rows.push(
  row('weigh a trial that changes 300 of 36,000 curves', trial.large, 'ms', 16),
  row('  the same against 1,800 curves', trial.large / trial.small, 'ratio', 1.5),
  row('weigh a trial that changes 2,000 of 36,000 curves', await median(weighing(large, 2_000)), 'ms', 60),
);

/** A key dragged, undone elsewhere by its patches, and the new frame of it. */
const program = new Program(large);
const frame = program.createFrame();
program.evaluate(40, frame);
const path = 'r0j30.move.y';
let current = large;
let by = 1;
const toFrame = await median(() => {
  const at = current.curves.at(path).keys[4].frame;
  const done = perform(current, moveKeys, { keys: { [path]: [at] }, by });
  by = -by;
  if (!done) throw new Error('Nothing moved.');
  current = done.shot;
  program.update(current);
  program.evaluate(40, frame);
});
const evaluation = await median(() => program.evaluate(40, frame));
rows.push(row('one edit to a new frame in 36,000 curves, beyond evaluating it', toFrame - evaluation, 'ms', 2));

const edit = perform(large, setKeys, { frame: 5, paths: large.curves.keys().slice(0, 2_000) })!.edit;
rows.push(
  row('  taking over the 2,000 patches of somebody else', await median(() => applyEdit(large, edit)), 'ms', 30),
);

report(rows);
