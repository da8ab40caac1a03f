import { describe, expect, test } from 'vitest';
import { emptyShot } from '../document/shot.ts';
import { Rigs } from '../rig/rigs.ts';
import { changeChannels } from './commands/change.ts';
import { moveKeys, removeKeys } from './commands/keys.ts';
import { addMember, newMember } from './commands/members.ts';
import { weigh } from './weighing.ts';

const set = (shot: ReturnType<typeof emptyShot>, frame: number, values: Record<string, number>) =>
  changeChannels.apply(shot, { frame, values, autoKey: 'every' });

function ballWithKeys() {
  const empty = emptyShot('weighed', 'Weighed', Rigs.none);
  const shot = addMember.apply(empty, { member: newMember(empty, { kind: 'ball', id: 'ball' }) });
  return [1, 9, 17].reduce((s, f) => set(s, f, { 'ball.move.y': f / 10, 'ball.turn.x': 0 }), shot);
}

describe('what a trial would change', () => {
  test('is nothing where nothing differs', () => {
    const shot = ballWithKeys();
    expect(weigh(shot, shot)).toEqual({ channels: 0, come: 0, go: 0, move: 0, change: 0, furthest: {} });
  });

  test('counts keys that come, change and go, and says where a channel departs furthest', () => {
    const before = ballWithKeys();
    const after = removeKeys.apply(set(set(before, 9, { 'ball.move.y': 2.9 }), 13, { 'ball.turn.x': 0.5 }), {
      keys: { 'ball.turn.x': [17] },
    });
    const weighed = weigh(before, after);
    expect(weighed).toMatchObject({ channels: 2, come: 1, change: 1, go: 1, move: 0 });
    expect(weighed.furthest.m).toEqual({ path: 'ball.move.y', frame: 9, by: 2 });
    expect(weighed.furthest['°']).toMatchObject({ path: 'ball.turn.x', by: 0.5 });
    expect(weighed.furthest['']).toBeUndefined();
  });

  test('tells keys that move from keys that come and go', () => {
    const before = ballWithKeys();
    const after = moveKeys.apply(before, { keys: { 'ball.move.y': [9, 17] }, by: 3 });
    expect(weigh(before, after)).toMatchObject({ channels: 1, come: 0, go: 0, move: 2, change: 0 });
    const later = moveKeys.apply(before, { keys: { 'ball.move.y': [1, 9, 17] }, by: 8 });
    expect(weigh(before, later)).toMatchObject({ come: 0, go: 0, move: 3, change: 0 });
  });

  test('measures a channel that had no keys from its constant', () => {
    const empty = emptyShot('weighed', 'Weighed', Rigs.none);
    const shot = addMember.apply(empty, { member: newMember(empty, { kind: 'ball', id: 'ball' }) });
    const { furthest, come } = weigh(shot, set(shot, 5, { 'ball.move.x': -0.75 }));
    expect(come).toBe(1);
    expect(furthest.m).toEqual({ path: 'ball.move.x', frame: 5, by: 0.75 });
  });
});
