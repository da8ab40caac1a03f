import { emptyShot, newMember, simpleKinds } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { drawnForm } from './forms.ts';

const made = simpleKinds.map((kind) => ({ kind, form: drawnForm(newMember(emptyShot('s1', 'Forms'), { kind })) }));

describe('the drawn form', () => {
  test.each(made)('of a $kind is something to see: a body, or a sign in place of one', ({ form }) => {
    const seen = form.bodies[0]?.geometry ?? form.sign;
    expect(seen.getAttribute('position').count).toBeGreaterThan(1);
    expect(form.bodies.length > 0).not.toBe(form.sign !== null);
  });

  test('of a picture block has its picture in the colours that are painted, not those the light is reckoned in', () => {
    const block = newMember(emptyShot('s1', 'Forms'), {
      kind: 'block',
      shape: { size: 0.3, picture: ['g'], paints: { g: '#808080' } },
    });
    const picture = drawnForm(block).bodies.find((b) => b.paint === 'corners')!;
    // Half grey on paper is about a fifth of the light.
    expect(picture.geometry.getAttribute('color').getX(0)).toBeCloseTo(0.2159, 3);
  });
});
