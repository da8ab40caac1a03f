import fc from 'fast-check';
import { expect, test } from 'vitest';
import { boundsOf } from '../../document/member.ts';
import { Program } from '../../evaluate/program.ts';
import { transformPoint } from '../../pose/affine.ts';
import { castWithRigs } from '../../testing/arbitraries.ts';
import { worldsAt } from '../../testing/scene-player.ts';
import { bake } from './bake.ts';
import { type Choices, layings, usualChoices } from './choices.ts';

const [ours, theirs] = [new Float64Array(3), new Float64Array(3)];
const few: Choices = { ...usualChoices, frames: { first: 1, last: 8 }, clips: [], rate: 24, plainNames: false };

test('every scene of any cast is whole: parents first, times that rise, numbers that are numbers', () => {
  fc.assert(
    fc.property(castWithRigs, fc.constantFrom(...layings), (shot, keys) => {
      const { scene } = bake(shot, { ...few, keys, clips: shot.clips.keys() });
      scene.nodes.forEach(({ parent, place }, n) => {
        expect(parent).toBeLessThan(n);
        expect([...place.translation, ...place.rotation, ...place.scale].every(Number.isFinite)).toBe(true);
      });
      for (const { tracks } of scene.motions) {
        for (const { times, values } of tracks) {
          times.forEach((t, i) => {
            expect(i === 0 || t > times[i - 1]).toBe(true);
          });
          expect(values.every(Number.isFinite)).toBe(true);
        }
      }
    }),
    { numRuns: 20 },
  );
});

test('every member of any cast is where it is in the shot, at every frame, or as far from it as is told', () => {
  fc.assert(
    fc.property(castWithRigs, (any) => {
      // So that every moment is a number of single precision, and no curve is too steep for its rounding.
      const shot = { ...any, rate: 32 };
      const { scene, motions } = bake(shot, few);
      const told = Math.max(motions[0].millimetres / 1000, 1e-4);
      const program = new Program(shot);
      const frame = program.createFrame();
      const bodies = shot.members.values().filter((m) => !['control', 'camera', 'light', 'rig'].includes(m.kind));
      for (let time = 1; time <= 8; time++) {
        program.evaluate(time, frame);
        const worlds = worldsAt(scene, scene.motions[0], (time - 1) / shot.rate);
        for (const member of bodies) {
          const slot = frame.layout.slotOf.get(member.id)!;
          const node = scene.nodes.findIndex((n) => n.name === member.name);
          const reach = Math.max(1, ...frame.world.map(Math.abs));
          // Without a body nothing shows how it is sized.
          if (scene.nodes[node].mesh === undefined) continue;
          const [x0, y0, z0, x1, y1, z1] = boundsOf(member, shot.rigs);
          for (const corner of [
            [x0, y0, z0],
            [x1, y1, z1],
          ] as const) {
            transformPoint(ours, 0, frame.world, slot * 16, ...corner);
            transformPoint(theirs, 0, worlds, node * 16, ...corner);
            const apart = Math.hypot(ours[0] - theirs[0], ours[1] - theirs[1], ours[2] - theirs[2]);
            expect(apart).toBeLessThan(1.01 * told + 1e-5 * reach);
          }
        }
      }
    }),
    { numRuns: 25 },
  );
});
