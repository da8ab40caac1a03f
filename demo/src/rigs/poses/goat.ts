import type { NewPose } from '@varrup/core';
import { over, pose, type Said } from './pose.ts';

const axes = ['x', 'y', 'z'];
const legs = ['foreFootL', 'foreFootR', 'hindFootL', 'hindFootR'];
const zero = (control: string, groups: readonly string[]): Said =>
  Object.fromEntries(groups.flatMap((g) => axes.map((a) => [`${control}.${g}.${a}`, 0])));

const stand: Said = {
  ...Object.assign({}, ...['body', 'hips', 'chest', 'head', ...legs].map((c) => zero(c, ['move', 'turn']))),
  ...Object.assign({}, ...['earL', 'earR', 'tail', 'tailTip'].map((c) => zero(c, ['turn']))),
  ...Object.fromEntries(legs.flatMap((l) => ['heel', 'ball', 'toe', 'bank'].map((d) => [`${l}.${d}`, 0]))),
  'face.jaw': 0,
};

/** The poses the goat's book begins with. */
export const goatPoses = (): NewPose[] => [
  pose('Stand', ['stand'], over(stand, { 'earL.turn.z': 6, 'earR.turn.z': -4, 'tail.turn.x': -6 })),
  pose(
    'Look round',
    ['stand'],
    over(stand, {
      'head.move.y': 0.05,
      'head.turn.y': 48,
      'head.turn.z': 6,
      'head.move.x': 0.06,
      'chest.turn.y': 6,
      'earL.turn.z': 18,
      'earR.turn.z': -12,
      'earR.turn.y': 14,
      'tail.turn.x': -14,
      'tailTip.turn.z': 10,
    }),
  ),
  pose(
    'Graze',
    ['eat'],
    over(stand, {
      'body.move.y': -0.03,
      'body.turn.x': 4,
      'chest.turn.x': 16,
      'chest.move.y': -0.035,
      'head.move.y': -0.425,
      'head.move.z': 0.09,
      'head.turn.x': 52,
      'foreFootL.move.z': 0.1,
      'foreFootR.move.z': -0.05,
      'earL.turn.z': -20,
      'earR.turn.z': 20,
      'face.jaw': 0.4,
      'tail.turn.x': 8,
    }),
  ),
  pose(
    'Rear',
    ['fight'],
    over(stand, {
      'body.move.y': 0.155,
      'body.move.z': -0.13,
      'body.turn.x': -46,
      'chest.turn.x': -6,
      'head.turn.x': 40,
      'head.move.z': 0.03,
      'hindFootL.move.z': 0.1,
      'hindFootR.move.z': 0.02,
      'foreFootL.move.y': 0.62,
      'foreFootL.move.z': 0.05,
      'foreFootL.turn.x': 52,
      'foreFootR.move.y': 0.54,
      'foreFootR.move.z': 0.1,
      'foreFootR.turn.x': 34,
      'earL.turn.z': -24,
      'earR.turn.z': 26,
      'face.jaw': 0.3,
      'tail.turn.x': -30,
      'tailTip.turn.x': -16,
    }),
  ),
  pose(
    'Gather',
    ['fight'],
    over(stand, {
      'body.move.y': -0.07,
      'body.move.z': -0.06,
      'body.turn.x': 5,
      'hips.turn.x': 6,
      'chest.turn.x': 12,
      'head.move.y': -0.13,
      'head.move.z': 0.03,
      'head.turn.x': 34,
      'earL.turn.z': -30,
      'earR.turn.z': 30,
      'tail.turn.x': 20,
    }),
  ),
];
