import { rigAmong } from '../body/posing.ts';
import type { Clip, StepPose } from '../document/clip.ts';
import { pathsOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { Table } from '../table/table.ts';
import { clipAtWork } from './at-work.ts';

/** The labelled poses of a cycle as a row: frames of the shot, and the rig by itself, from the side. */
export interface PoseRow {
  readonly shot: Shot;
  readonly poses: readonly { readonly frame: number; readonly pose: StepPose }[];
}

/** The row of poses of a picked rig that has a clip with labelled poses at work; null for everything else. */
export function poseRow(shot: Shot, selection: readonly string[]): PoseRow | null {
  const rig = rigAmong(shot, selection);
  const clip = rig ? clipAtWork(shot, rig) : null;
  if (!clip || clip.labels.length === 0) return null;
  const poses = [...clip.labels]
    .sort((a, b) => a.frame - b.frame)
    .map((l) => ({ frame: clip.first + l.frame, pose: l.pose }));
  // The end of the seam is its beginning again: with it the row reads as one whole round.
  if (clip.cycles && poses[0].frame === clip.first)
    poses.push({ frame: clip.first + clip.length, pose: poses[0].pose });
  return { shot: fromTheSide(shot, clip), poses };
}

/** The rig of a clip alone on its floor, in place, seen from its left. */
function fromTheSide(shot: Shot, clip: Clip): Shot {
  const own = shot.members.values().filter((m) => m.id === clip.rig || (m.kind === 'control' && m.parent === clip.rig));
  const members = own.map((m) =>
    m.id === clip.rig ? { ...m, parent: null, values: { 'turn.y': Math.PI / 2 }, holds: [] } : { ...m, holds: [] },
  );
  const controls = own.filter((m) => m.kind === 'control');
  const paths = controls.flatMap((c) => pathsOf(c, shot.rigs));
  const ofControls = <T>(table: Table<T>) =>
    Table.of(
      paths.flatMap((path) => {
        const there = table.get(path);
        return there === undefined ? [] : [[path, there] as const];
      }),
    );
  return {
    ...shot,
    members: Table.of(members.map((m) => [m.id, m])),
    curves: ofControls(shot.curves),
    loose: ofControls(shot.loose),
    formulas: Table.empty(),
    sets: Table.empty(),
    recipes: Table.empty(),
    clips: Table.of({ [clip.id]: { ...clip, travelling: false } }),
  };
}
