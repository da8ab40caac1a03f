import {
  addMember,
  changeChannels,
  computedWeights,
  emptyShot,
  newMember,
  Program,
  type RigMesh,
  type Shot,
  shellOf,
} from '@varrup/core';
import { ShotPicture } from '../web/src/stage/picture/picture.ts';
import { median, report, row } from './row.ts';

/** Building the cast: weights of a body, and a set of thousands of pieces of which one is changed. */

type Body = Pick<RigMesh, 'positions' | 'triangles'>;

/** A closed upright bar of rings, places in tenths of a millimetre. */
function bar(x: number, rings: number, around: number): Body {
  const positions: number[] = [x, 0, 0];
  for (let r = 0; r <= rings; r++)
    for (let k = 0; k < around; k++) {
      const a = (2 * Math.PI * k) / around;
      positions.push(
        Math.round(x + 1_000 * Math.cos(a)),
        Math.round((20_000 * r) / rings),
        Math.round(1_000 * Math.sin(a)),
      );
    }
  positions.push(x, 20_000, 0);
  const triangles: number[] = [];
  const last = positions.length / 3 - 1;
  const at = (r: number, k: number) => 1 + r * around + (k % around);
  for (let k = 0; k < around; k++) {
    triangles.push(0, at(0, k), at(0, k + 1), last, at(rings, k + 1), at(rings, k));
    for (let r = 0; r < rings; r++)
      triangles.push(at(r, k), at(r + 1, k + 1), at(r, k + 1), at(r, k), at(r + 1, k), at(r + 1, k + 1));
  }
  return { positions, triangles };
}

/** Four limbs of fifteen joints each. */
const joints = [0, 1, 2, 3].flatMap((limb) =>
  Array.from({ length: 15 }, (_, k) => ({
    id: `j${limb}n${k}`,
    parent: k === 0 ? null : `j${limb}n${k - 1}`,
    place: [limb * 0.3, 1.95 - k * 0.13, 0] as const,
  })),
);
const limbs = (points: number) =>
  shellOf([0, 1, 2, 3].map((limb) => bar(limb * 3_000, Math.round(points / 4 / 80), 80)));
const timed = async (points: number) => {
  const shell = limbs(points);
  return { ms: await median(() => computedWeights(shell, joints), 3), points: shell.positions.length / 3 };
};

/** A set of so many boxes on a floor. */
function set(pieces: number): Shot {
  let shot = emptyShot('set', 'Set');
  for (let i = 0; i < pieces; i++) {
    const values = { 'move.x': (i % 50) * 0.6, 'move.z': Math.floor(i / 50) * 0.6 };
    shot = addMember.apply(shot, { member: { ...newMember(shot, { kind: 'box', values }), id: `box${i}` } });
  }
  return shot;
}

/** One piece is moved and the whole set shown as it then is, but for what the graphics card does. */
function oneChange(pieces: number): () => void {
  let shot = set(pieces);
  const picture = new ShotPicture();
  const program = new Program(shot);
  let frame = program.createFrame();
  let by = 0;
  return () => {
    by++;
    const values = { [`box${(by * 37) % pieces}.move.y`]: (by % 10) / 10 };
    shot = changeChannels.apply(shot, { frame: 1, values, autoKey: 'off' });
    program.update(shot);
    if (frame.layout !== program.layout) frame = program.createFrame();
    program.evaluate(1, frame);
    picture.cast(shot);
    picture.pose(frame);
  };
}

const [few, many] = [await timed(5_500), await timed(20_000)];
const [small, large] = [await median(oneChange(500)), await median(oneChange(2_000))];

report([
  row(`weights of ${many.points} points and ${joints.length} joints`, many.ms, 'ms', 4_000),
  row('the same a point, against a quarter of them', many.ms / many.points / (few.ms / few.points), 'ratio', 1.6),
  row('one change in a set of 2,000 pieces, to the next picture', large, 'ms', 8),
  row('the same a piece, against 500 pieces', large / 2_000 / (small / 500), 'ratio', 1.6),
]);
