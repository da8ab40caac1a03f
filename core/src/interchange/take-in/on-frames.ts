import type { Curve } from '../../curve/key.ts';
import { compileOrientation, orientationAt } from '../../curve/orientation.ts';
import { CurveReader } from '../../curve/sample.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import type { TakenMotion, TakenRig } from './rig-of-scene.ts';

/** Nearer to a frame than this a key stands on it. */
const NEAR = 1e-3;

const isOnFrames = ({ keys }: Curve): boolean =>
  keys.every((key) => Math.abs(key.frame - Math.round(key.frame)) < NEAR);

/** How many curves of a rig that came in have keys between frames. */
export const offFrames = ({ motions }: TakenRig): number =>
  motions.reduce((sum, { curves }) => sum + [...curves.values()].filter((curve) => !isOnFrames(curve)).length, 0);

/** The motions with a key at every frame where some stand between frames, straight from one to the next; the others as they are. */
export const onFrames = (motions: readonly TakenMotion[]): TakenMotion[] =>
  motions.map((motion) => ({
    ...motion,
    curves: new Map([...motion.curves].map(([path, curve]) => [path, isOnFrames(curve) ? curve : everyFrame(curve)])),
  }));

function everyFrame(curve: Curve): Curve {
  const first = Math.floor(curve.keys[0].frame + NEAR);
  const last = Math.ceil(curve.keys[curve.keys.length - 1].frame - NEAR);
  const frames = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const shape = {
    in: { kind: 'linear' as const },
    out: { kind: 'linear' as const },
    joined: false,
    role: 'key' as const,
  };
  if (curve.type === 'number') {
    const reader = new CurveReader(curve);
    return { ...curve, keys: frames.map((frame) => ({ frame, value: reader.at(frame), ...shape })) };
  }
  const compiled = compileOrientation(curve);
  const out = new Float64Array(4);
  return {
    ...curve,
    keys: frames.map((frame) => {
      orientationAt(compiled, frame, out, 0);
      const value: Quaternion = [out[0], out[1], out[2], out[3]];
      return { frame, value, ...shape };
    }),
  };
}
