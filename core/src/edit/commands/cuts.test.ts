import { describe, expect, it } from 'vitest';
import { cameraAt, cameraRuns } from '../../document/cut.ts';
import { emptyShot } from '../../document/shot.ts';
import { perform } from '../edit.ts';
import { moveCut, putCut, removeCuts } from './cuts.ts';
import { addMember, newMember, removeMembers } from './members.ts';

/** A shot with two cameras, seen through the second from frame 20 to 39. */
function cutShot() {
  let shot = emptyShot('s', 'S');
  for (const id of ['one', 'two']) {
    const member = { ...newMember(shot, { kind: 'camera' }), id };
    shot = addMember.apply(shot, { member });
  }
  shot = putCut.apply(shot, { cut: { id: 'a', frame: 20, camera: 'two' } });
  return putCut.apply(shot, { cut: { id: 'b', frame: 40, camera: 'one' } });
}

describe('cuts', () => {
  it('say through which camera each frame is seen', () => {
    const shot = cutShot();
    expect([1, 19, 19.5, 20, 39.9, 40, 500].map((f) => cameraAt(shot, f))).toEqual([
      'one',
      'one',
      'one',
      'two',
      'two',
      'one',
      'one',
    ]);
    expect(cameraRuns(shot).map((r) => [r.first, r.last, r.camera])).toEqual([
      [Number.NEGATIVE_INFINITY, 19, 'one'],
      [20, 39, 'two'],
      [40, Number.POSITIVE_INFINITY, 'one'],
    ]);
    expect(cameraAt(emptyShot('e', 'E'), 1)).toBeNull();
  });

  it('of which there is one on a frame, moved between their neighbours', () => {
    const shot = putCut.apply(cutShot(), { cut: { id: 'c', frame: 20, camera: 'one' } });
    expect(shot.cuts.keys().sort()).toEqual(['b', 'c']);
    expect(moveCut.apply(cutShot(), { id: 'a', frame: 90 }).cuts.at('a').frame).toBe(39);
    expect(moveCut.apply(cutShot(), { id: 'b', frame: 3.6 }).cuts.at('b').frame).toBe(21);
  });

  it('go to cameras, and go with them; taken back all is as it was', () => {
    const shot = cutShot();
    expect(() => putCut.apply(shot, { cut: { id: 'c', frame: 5, camera: 'nobody' } })).toThrow('a camera of the cast');
    const gone = removeMembers.apply(shot, { ids: ['two'] });
    expect(gone.cuts.keys()).toEqual(['b']);
    const edit = perform(shot, removeCuts, { ids: ['a'] });
    expect(edit?.shot.cuts.keys()).toEqual(['b']);
  });
});
