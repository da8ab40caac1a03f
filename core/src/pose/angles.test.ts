import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { quaternion } from '../testing/arbitraries.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from './angles.ts';
import { quaternionAbout, quaternionMultiply } from './quaternion.ts';
import { rotationOrders } from './rotation-order.ts';

const order = fc.constantFrom(...rotationOrders);
const angle = fc.double({ min: -7, max: 7, noNaN: true });
const angles = fc.tuple(angle, angle, angle);
const sameTurn = (a: readonly number[], b: readonly number[]) => Math.abs(a.reduce((sum, v, i) => sum + v * b[i], 0));

describe('three angles in an order', () => {
  test('turn first about the first axis, all about axes that stand still', () => {
    const [x, y, z] = [0.4, -0.7, 1.1];
    const about = {
      x: quaternionAbout([1, 0, 0], x),
      y: quaternionAbout([0, 1, 0], y),
      z: quaternionAbout([0, 0, 1], z),
    };
    const expected = quaternionMultiply(about.y, quaternionMultiply(about.x, about.z));
    expect(sameTurn(anglesToQuaternion([x, y, z], 'zxy'), expected)).toBeCloseTo(1, 12);
  });

  test('come back from an orientation as the same turn, in every order', () => {
    fc.assert(
      fc.property(quaternion, order, angles, (q, o, near) => {
        expect(sameTurn(anglesToQuaternion(quaternionToAngles(q, o, near), o), q)).toBeCloseTo(1, 9);
      }),
    );
  });

  test('come back as the very same angles when those are the nearest', () => {
    fc.assert(
      fc.property(angles, order, (given, o) => {
        // Away from the gimbal, where only a sum of angles is known.
        const middle = given[{ x: 0, y: 1, z: 2 }[o[1]] as 0 | 1 | 2];
        fc.pre(Math.abs(Math.cos(middle)) > 0.01);
        const back = quaternionToAngles(anglesToQuaternion(given, o), o, given);
        for (let c = 0; c < 3; c++) expect(back[c]).toBeCloseTo(given[c], 6);
      }),
    );
  });

  test.each(rotationOrders)('at the gimbal of %s still give the same turn', (o) => {
    for (const sign of [1, -1]) {
      const given: Angles = [0.3, 0.3, 0.3];
      given[{ x: 0, y: 1, z: 2 }[o[1]]!] = (sign * Math.PI) / 2;
      const q = anglesToQuaternion(given, o);
      expect(sameTurn(anglesToQuaternion(quaternionToAngles(q, o, [0.1, 0.2, 0.3]), o), q)).toBeCloseTo(1, 9);
    }
  });
});
