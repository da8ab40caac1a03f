import { Program } from '@varrup/core';
import { rigs } from './cast.ts';
import { mixersOf } from './mixers.ts';
import { allocated, median, report, row } from './row.ts';

/**
 * A hundred rigs of sixty joints with six Bézier curves a joint, to world matrices, against three's AnimationMixer on the
 * same skeletons with the same number of keys, in linear tracks, and `updateMatrixWorld`.
 */
const RIGS = 100;
const JOINTS = 60;
const KEYS = 9;
const SPACING = 12;
const shot = rigs(RIGS, JOINTS, KEYS, SPACING);
const LENGTH = (KEYS - 1) * SPACING;

const program = new Program(shot);
const frame = program.createFrame();
let time = 1;
const evaluateOurs = () => {
  time = time >= LENGTH ? 1 : time + 1;
  program.evaluate(time, frame);
};

const evaluateTheirs = mixersOf(shot, RIGS, JOINTS, KEYS, SPACING);

/** Each frame of a round by itself, the middle of several rounds: in one of them every curve crosses a key. */
function worstOfRound(): number {
  const times: number[][] = Array.from({ length: LENGTH }, () => []);
  for (let round = 0; round < 15; round++)
    for (let f = 1; f <= LENGTH; f++) {
      const begun = performance.now();
      program.evaluate(f, frame);
      times[f - 1].push(performance.now() - begun);
    }
  return Math.max(...times.map((own) => own.sort((a, b) => a - b)[own.length >> 1]));
}

// In turns, so that neither is measured in a quieter moment of the machine than the other.
const rounds: { ours: number; theirs: number; worst: number }[] = [];
for (let i = 0; i < 5; i++)
  rounds.push({ ours: await median(evaluateOurs), theirs: await median(evaluateTheirs), worst: worstOfRound() });
const middle = rounds.sort((a, b) => a.ours / a.theirs - b.ours / b.theirs)[2];
const worst = rounds.map((r) => r.worst / r.ours).sort((a, b) => a - b)[2];

const few = rigs(10, JOINTS, KEYS, SPACING);
const fewProgram = new Program(few);
const fewFrame = fewProgram.createFrame();
let fewTime = 1;
const taken = await allocated(evaluateOurs);
const tenth = await median(() => {
  fewTime = fewTime >= LENGTH ? 1 : fewTime + 1;
  fewProgram.evaluate(fewTime, fewFrame);
});

report([
  row('evaluate 100 rigs × 60 joints, against a mixer of linear tracks', middle.ours / middle.theirs, 'ratio', 0.3),
  row('  the same in milliseconds', middle.ours, 'ms', 16.7),
  row('  the worst frame of a round, all keys crossed, against the median', worst, 'ratio', 2),
  row('  memory taken by a frame', taken, 'KB', 16),
  row('  a rig among 100, against one among 10', middle.ours / tenth / 10, 'ratio', 1.5),
]);
