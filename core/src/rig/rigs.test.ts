import { expect, test } from 'vitest';
import { bringRig, emptyShot, frameOf, newRigMembers, parseShot } from '../index.ts';
import { walkerRigs } from '../testing/rig.ts';
import { Rigs, rigHash } from './rigs.ts';

const [first, second] = walkerRigs.list;
/** The same definition as another object. */
const again = <T>(rig: T): T => JSON.parse(JSON.stringify(rig));
const other = { ...first, changes: 'Another one of the same name and version.' };

test('a definition is known by its content', () => {
  expect(rigHash(first)).toBe(rigHash(again(first)));
  expect(rigHash(first)).not.toBe(rigHash(other));
  expect(rigHash(first)).not.toBe(rigHash(second));
});

test('two of one name and version cannot be mixed up', () => {
  const rigs = Rigs.of([first]);
  expect(rigs.with([again(first)])).toBe(rigs);
  expect(() => rigs.with([other])).toThrow(/two rigs called walker, version 1/);
  expect(rigs.with([second]).list).toHaveLength(2);
  expect(rigs.list).toHaveLength(1);
});

test('those nobody links are let go', () => {
  expect(walkerRigs.only([{ rig: 'walker', version: 2 }]).list).toEqual([second]);
  expect(walkerRigs.only([]).list).toEqual([]);
});

test('whether a document can be read depends on the rigs it is read with, and on nothing else', () => {
  const shot = emptyShot('s1', 'Walker', walkerRigs);
  const made = bringRig.apply(shot, newRigMembers(shot, { rig: 'walker', version: 1, id: 'w' }));
  const json = JSON.parse(JSON.stringify(made));
  expect(json.rigs).toBeUndefined();
  expect(parseShot(json, Rigs.of([first])).ok).toBe(true);
  for (const rigs of [Rigs.none, Rigs.of([second])]) {
    const parsed = parseShot(json, rigs);
    expect(!parsed.ok && parsed.problems[0].sentence).toMatch(
      /version 1 of the rig "walker", which is not in the library/,
    );
  }
});

test('two shots of one process can have different rigs by one name', () => {
  const raised = {
    ...first,
    joints: first.joints.map((j) => (j.id === 'hips' ? { ...j, place: [0, 2, 0] } : j)),
  } as typeof first;
  const heights = [first, raised].map((rig) => {
    const shot = emptyShot('s1', 'Walker', Rigs.of([rig]));
    const made = bringRig.apply(shot, newRigMembers(shot, { rig: 'walker', version: 1, id: 'w' }));
    const frame = frameOf(made, 1);
    return frame.world[frame.layout.rigs[0].joints * 16 + 13];
  });
  expect(heights).toEqual([1, 2]);
});
