import type { Shot } from '../document/shot.ts';
import { setHalves } from '../edit/commands/clips.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import { type Check, type Draft, frameText } from './check.ts';
import { partName } from './cycles.ts';

const known = new WeakMap<CompiledRig, Int32Array>();

/** For each joint the one that is its mirror image at rest, itself in the middle; -1 where there is none. */
function mirrorJoints(compiled: CompiledRig): Int32Array {
  const there = known.get(compiled);
  if (there) return there;
  const { rests } = compiled;
  const count = compiled.rig.joints.length;
  const at = (j: number) => j * 16 + 12;
  const made = Int32Array.from({ length: count }, (_, j) => {
    for (let k = 0; k < count; k++) {
      const far = Math.hypot(
        rests[at(j)] + rests[at(k)],
        rests[at(j) + 1] - rests[at(k) + 1],
        rests[at(j) + 2] - rests[at(k) + 2],
      );
      if (far < 1e-6) return k;
    }
    return -1;
  });
  known.set(compiled, made);
  return made;
}

export const halvesDiffer: Check = {
  id: 'halvesDiffer',
  name: 'Halves do not mirror',
  why: 'Both steps of a walk are the same one, left and right. Where one differs and should not, the walk limps.',
  unit: 'mm',
  tolerance: 0.1,
  most: 500,
  step: 0.1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const { placed, clip, first, length, joints, rig } of watched.wholeCycles) {
      if (clip?.halves !== 'mirrored' || length % 2 !== 0) continue;
      const { compiled } = placed;
      const mirror = mirrorJoints(compiled);
      const count = mirror.length;
      let worst = { frame: first, joint: 0, far: 0 };
      for (let i = 0; i < length / 2; i++) {
        for (let j = 0; j < count; j++) {
          if (mirror[j] < 0) continue;
          const a = (i * count + j) * 3;
          const b = ((i + length / 2) * count + mirror[j]) * 3;
          const far =
            Math.hypot(joints[a] + joints[b], joints[a + 1] - joints[b + 1], joints[a + 2] - joints[b + 2]) * 1000;
          if (far > worst.far) worst = { frame: first + i, joint: j, far };
        }
      }
      if (worst.far > tolerance)
        yield {
          member: rig,
          frame: worst.frame,
          value: worst.far,
          text: `${watched.name(rig)}: ${partName(placed, compiled.rig.joints[worst.joint].id)} at ${frameText(worst.frame)} is ${worst.far.toFixed(1)} mm from its mirror image at ${frameText(worst.frame + length / 2)}.`,
        };
      yield null;
    }
  },
  fix: {
    words: 'mirror the first half',
    apply(shot, { member }): Shot {
      const clip = shot.clips.values().find((c) => c.rig === member && c.kept === null);
      return clip ? setHalves.apply(shot, { id: clip.id, halves: 'mirrored', leads: 'first' }) : shot;
    },
  },
};
