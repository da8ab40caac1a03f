import { type Clip, clipAtWork, rigAmong, type Shot, type StepPose } from '@varrup/core';

/** The labelled poses of a cycle, as the strip shows them: the rig by itself, from the side. */
export interface WalkStrip {
  readonly shot: Shot;
  readonly poses: readonly { readonly frame: number; readonly pose: StepPose }[];
}

/** What the strip shows of a picked rig that has a clip with labelled poses; null for everything else. */
export function walkStrip(shot: Shot, selection: readonly string[]): WalkStrip | null {
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
  const own = Object.values(shot.members).filter(
    (m) => m.id === clip.rig || (m.kind === 'control' && m.parent === clip.rig),
  );
  const ids = new Set(own.map((m) => m.id));
  const members = own.map((m) =>
    m.id === clip.rig ? { ...m, parent: null, values: { 'turn.y': Math.PI / 2 }, holds: [] } : { ...m, holds: [] },
  );
  const ofControls = ([path]: [string, unknown]) => {
    const member = path.slice(0, path.indexOf('.'));
    return ids.has(member) && member !== clip.rig;
  };
  return {
    ...shot,
    members: Object.fromEntries(members.map((m) => [m.id, m])),
    curves: Object.fromEntries(Object.entries(shot.curves).filter(ofControls)),
    loose: Object.fromEntries(Object.entries(shot.loose).filter(ofControls)),
    formulas: {},
    sets: {},
    recipes: {},
    clips: { [clip.id]: { ...clip, travelling: false } },
  };
}
