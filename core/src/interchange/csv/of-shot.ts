import { findChannel, ORIENTATION, splitPath } from '../../document/channels.ts';
import { withDescendants } from '../../document/hierarchy.ts';
import type { Shot } from '../../document/shot.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { type Layout, placeOf } from '../../evaluate/layout.ts';
import { changingPaths } from '../../track/arrangement.ts';
import type { Choices } from '../bake/choices.ts';
import { type Run, runsOf } from '../bake/runs.ts';
import type { CurveColumn, CurveTable } from './table.ts';

const perUnit = { '°': 180 / Math.PI, m: 1, '': 1 } as const;

/**
 * The curves of what becomes a motion, frame by frame at the rate chosen: every channel that has keys or a formula, as the evaluator
 * has it. An orientation is the four numbers of its quaternion.
 */
export const curveTablesOf = (shot: Shot, choices: Choices): { readonly name: string; readonly table: CurveTable }[] =>
  runsOf(shot, choices).map((run) => ({ name: run.name, table: tableOf(run, choices) }));

/** A column with where its numbers are. */
interface Placed {
  readonly of: Omit<CurveColumn, 'values'>;
  readonly read: (frame: Frame) => number;
}

function tableOf({ shot, program, first, last, rig }: Run, { rate, members }: Choices): CurveTable {
  const wanted = rig === null ? members : [rig];
  const chosen = wanted && withDescendants(shot, wanted);
  const paths = changingPaths(shot);
  const placed = [...paths].flatMap((path) => {
    const { member } = splitPath(path);
    return chosen && !chosen.has(member) ? [] : columnsOf(shot, path, program.layout);
  });
  const columns = placed.map(({ of }) => ({ ...of, values: [] as number[] }));
  const frame = program.createFrame();
  const frames: number[] = [];
  for (let n = 0; n <= ((last - first) * rate) / shot.rate + 1e-9; n++) {
    const time = first + (n * shot.rate) / rate;
    frames.push(time);
    program.evaluate(time, frame);
    placed.forEach(({ read }, c) => {
      columns[c].values.push(read(frame));
    });
  }
  return { rate: shot.rate, frames, columns };
}

function columnsOf(shot: Shot, path: string, layout: Layout): Placed[] {
  const { member: id, channel } = splitPath(path);
  const member = shot.members.get(id);
  if (!member) return [];
  if (channel === ORIENTATION) {
    const at = layout.slotOf.get(id)! * 4;
    return ['x', 'y', 'z', 'w'].map((letter, k) => ({
      of: { member: member.name, channel: `${ORIENTATION} ${letter}`, unit: '' },
      read: ({ orientations }) => orientations[at + k],
    }));
  }
  const found = findChannel(member, channel, shot.rigs);
  const place = placeOf(layout, path);
  if (!found || place < 0) return [];
  const { group, label, unit } = found;
  const read = ({ values }: Frame) => values[place] * perUnit[unit];
  return [{ of: { member: member.name, channel: `${group} ${label}`.trim(), unit }, read }];
}
