import { boundsOf, emptyShot, newMember, Rigs, simpleKinds } from '@varrup/core';
import * as THREE from 'three';
import { describe, expect, test } from 'vitest';
import { formOf } from './forms.ts';

const made = simpleKinds.map((kind) => {
  const member = newMember(emptyShot('s1', 'Forms'), { kind });
  return { kind, member, form: formOf(member) };
});

describe('the form', () => {
  test.each(made)('of a $kind is something to see: a body, or a sign in place of one', ({ form }) => {
    const seen = form.body ?? form.sign;
    expect(seen?.getAttribute('position').count).toBeGreaterThan(1);
    expect(Number.isFinite(seen!.getAttribute('position').array[0])).toBe(true);
    expect(form.trim).toBeUndefined();
  });

  test.each(made.filter(({ form }) => form.body))(
    'of a $kind fills the bounds the core gives it, to a millimetre',
    ({ member, form }) => {
      const box = new THREE.Box3().setFromBufferAttribute(form.body!.getAttribute('position') as THREE.BufferAttribute);
      const drawn = [box.min.x, box.min.y, box.min.z, box.max.x, box.max.y, box.max.z];
      boundsOf(member, Rigs.none).forEach((v, i) => {
        expect(drawn[i]).toBeCloseTo(v, 3);
      });
    },
  );
});

test('a ball with a band shows it just outside its skin', () => {
  const ball = newMember(emptyShot('s1', 'Band'), { kind: 'ball', shape: { radius: 1, band: '#ffffff' } });
  const { trim } = formOf(ball);
  trim!.geometry.computeBoundingSphere();
  expect(trim!.geometry.boundingSphere!.radius).toBeGreaterThan(1);
  expect(trim!.geometry.boundingSphere!.radius).toBeLessThan(1.02);
});
