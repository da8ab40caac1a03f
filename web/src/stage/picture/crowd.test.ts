import { MemberSchema } from '@varrup/core';
import * as THREE from 'three';
import { expect, test } from 'vitest';
import { Crowd, type Place } from './crowd.ts';
import { drawnForm } from './forms.ts';

const member = (id: string, kind: 'box' | 'ball') =>
  MemberSchema.parse({ id, kind, name: id, parent: null, rank: 0, shape: {} });
const [box] = drawnForm(member('a', 'box'), 'crowd').bodies;
const [ball] = drawnForm(member('b', 'ball'), 'crowd').bodies;

const at = (x: number) => new THREE.Matrix4().makeTranslation(x, 0, 0);
const red = new THREE.Color(1, 0, 0);
const put = (place: Place, x: number) => place.batch.put(place, at(x), red);

/** Where those are drawn that are, form by form. */
function drawn(crowd: Crowd): number[][] {
  crowd.flush();
  return crowd.group.children.map((mesh) => {
    const instanced = mesh as THREE.InstancedMesh;
    const matrix = new THREE.Matrix4();
    return Array.from({ length: instanced.count }, (_, i) => {
      instanced.getMatrixAt(i, matrix);
      return matrix.determinant() === 0 ? Number.NaN : matrix.elements[12];
    });
  });
}

test('bodies of one form are drawn together, each where it was put', () => {
  const crowd = new Crowd();
  const places = [box, ball, box].map((body) => crowd.add(body));
  for (const [i, place] of places.entries()) put(place, i + 1);
  expect(drawn(crowd)).toEqual([[1, 3], [2]]);
});

test('one that leaves leaves the others where they are', () => {
  const crowd = new Crowd();
  const places = [1, 2, 3, 4].map(() => crowd.add(box));
  for (const [i, place] of places.entries()) put(place, i + 1);
  places[1].batch.remove(places[1]);
  expect(drawn(crowd)[0].sort()).toEqual([1, 3, 4]);
  // And can be moved on.
  put(places[3], 40);
  put(places[0], 10);
  expect(drawn(crowd)[0].sort((a, b) => a - b)).toEqual([3, 10, 40]);
  for (const i of [0, 2, 3]) places[i].batch.remove(places[i]);
  expect(drawn(crowd)).toEqual([[]]);
});

test('there is room for as many as come, and nobody is drawn before it is put or when it is hidden', () => {
  const crowd = new Crowd();
  const places = Array.from({ length: 100 }, () => crowd.add(box));
  expect(drawn(crowd)).toEqual([Array(100).fill(Number.NaN)]);
  for (const [i, place] of places.entries()) put(place, i);
  expect(drawn(crowd)).toEqual([Array.from({ length: 100 }, (_, i) => i)]);
  places[7].batch.hide(places[7]);
  expect(drawn(crowd)[0].filter(Number.isNaN)).toHaveLength(1);
});
