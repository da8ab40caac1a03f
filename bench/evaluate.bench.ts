import { Program } from '@varrup/core';
import { rigs } from './cast.ts';
import { mixersOf } from './mixers.ts';
import { median, report, row } from './row.ts';

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

// In turns, so that neither is measured in a quieter moment of the machine than the other.
const rounds: { ours: number; theirs: number }[] = [];
for (let i = 0; i < 5; i++) rounds.push({ ours: await median(evaluateOurs), theirs: await median(evaluateTheirs) });
const middle = rounds.sort((a, b) => a.ours / a.theirs - b.ours / b.theirs)[2];

report([
  row('evaluate 100 rigs × 60 joints, against a mixer of linear tracks', middle.ours / middle.theirs, 'ratio', 0.35),
  row('  the same in milliseconds', middle.ours, 'ms', 16.7),
]);
