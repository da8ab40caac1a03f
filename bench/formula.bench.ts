import { type Formula, Program, type Shot, Table } from '@varrup/core';
import { rigs } from './cast.ts';
import { median, report, row } from './row.ts';

/**
 * Six thousand channels moved by formulas against the same channels moved by curves that have to be solved for, each without what moving
 * nothing costs.
 */
const short = { kind: 'free', frames: 0.5, rise: 0.1 } as const;
const made = rigs(10, 100, 9, 12);
const curves: Shot = {
  ...made,
  curves: made.curves.map((c) =>
    c.type === 'number' ? { ...c, keys: c.keys.map((k) => ({ ...k, in: short, out: short, joined: false })) } : c,
  ),
};
const still: Shot = { ...curves, curves: Table.empty() };
const paths = curves.curves.keys();
const withFormula = (of: (i: number) => Formula): Shot => ({
  ...still,
  formulas: Table.of(paths.map((p, i) => [p, of(i)] as const)),
});
const wave = withFormula((i) => ({ text: `wave(0.2, ${20 + (i % 9)}, ${i % 24})`, inputs: [], mode: 'instead' }));
const roll = withFormula(() => ({
  text: '-x / 0.14 * 180 / pi',
  inputs: [{ name: 'x', path: 'r0j0.move.x' }],
  mode: 'add',
}));
const rolling: Shot = { ...roll, formulas: Table.of(roll.formulas.entries().slice(1)) };

function evaluating(shot: Shot): () => void {
  const program = new Program(shot);
  const frame = program.createFrame();
  let time = 1;
  return () => {
    time = time >= 96 ? 1 : time + 1;
    program.evaluate(time, frame);
  };
}

// In turns, so that none is measured in a quieter moment of the machine than the others.
const suites = [still, curves, wave, rolling].map(evaluating);
const rounds: number[][] = [];
for (let i = 0; i < 5; i++) {
  const round: number[] = [];
  for (const suite of suites) round.push(await median(suite));
  rounds.push(round);
}
const ratio = (which: number) =>
  rounds.map(([nothing, ours, ...others]) => (others[which] - nothing) / (ours - nothing)).sort((a, b) => a - b)[2];

report([
  row('a wave as a formula, against a curve solved for', ratio(0), 'ratio', 2.5),
  row('a roll from another channel, against a curve solved for', ratio(1), 'ratio', 2.5),
]);
