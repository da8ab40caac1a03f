import { type Choices, Program, type Shot, type StandIn, takeUpClip } from '@varrup/core';

/** How far a file, as somebody else plays it, is from the shot: the worst of all joints and members at each half frame. */
export interface Difference {
  readonly motion: string;
  /** Frames the numbers are of, half a frame apart. */
  readonly first: number;
  readonly millimetres: readonly number[];
  readonly most: number;
  /** Where the worst is. */
  readonly of: string;
  readonly at: number;
}

/** What a motion that was handed on is in the shot: the shot as it is then, and its frames. */
export function spanOf(
  shot: Shot,
  { frames, clips, travel }: Choices,
  motion: number,
): { shot: Shot; first: number; last: number } | null {
  if (frames && motion === 0) return { shot: inPlace(shot, travel === 'none'), ...frames };
  const clip = shot.clips.get(clips[motion - (frames ? 1 : 0)]);
  if (!clip) return null;
  const at = takeUpClip.apply(shot, { id: clip.id });
  const own = { ...at.clips.at(clip.id), travelling: travel !== 'none' && clip.travel !== 0, way: null };
  return { shot: { ...at, clips: at.clips.with(clip.id, own) }, first: clip.first, last: clip.first + clip.length };
}

function inPlace(shot: Shot, is: boolean): Shot {
  if (!is) return shot;
  const still = shot.clips.values().map((clip) => [clip.id, { ...clip, travelling: false }] as const);
  return { ...shot, clips: shot.clips.withAll(still) };
}

/** The half frames of a span. */
export const halfFrames = (first: number, last: number): number[] =>
  Array.from({ length: 2 * (last - first) + 1 }, (_, i) => first + i / 2);

/**
 * Compares where somebody else's player has nodes with where they are in the shot.
 * @param places three numbers for each node, time after time @param scale how many units of the file are a metre
 */
export function differenceOf(
  motion: string,
  span: { readonly shot: Shot; readonly first: number; readonly last: number },
  stand: readonly StandIn[],
  places: Float32Array,
  { up, scale }: Choices,
): Difference {
  const program = new Program(span.shot);
  const frame = program.createFrame();
  const nodes = stand.map(({ member, joint }) => {
    const slot = program.layout.slotOf.get(member);
    const rig = slot === undefined ? undefined : program.layout.rigAt.get(slot);
    if (joint !== null) return rig ? rig.joints + rig.compiled.jointAt.get(joint)! : -1;
    return slot ?? -1;
  });
  let [most, of, at] = [0, '', span.first];
  const millimetres = halfFrames(span.first, span.last).map((time, t) => {
    program.evaluate(time, frame);
    let worst = 0;
    nodes.forEach((node, n) => {
      const p = (t * nodes.length + n) * 3;
      if (node < 0 || Number.isNaN(places[p])) return;
      const [x, y, z] = [0, 1, 2].map((c) => frame.world[node * 16 + 12 + c] * scale);
      const [sx, sy, sz] = up === 'z' ? [x, -z, y] : [x, y, z];
      const apart = (1000 * Math.hypot(places[p] - sx, places[p + 1] - sy, places[p + 2] - sz)) / scale;
      worst = Math.max(worst, apart);
      if (apart > most)
        [most, of, at] = [apart, stand[n].joint ?? span.shot.members.get(stand[n].member)?.name ?? '', time];
    });
    return worst;
  });
  return { motion, first: span.first, millimetres, most, of, at };
}
