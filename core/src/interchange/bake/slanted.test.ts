import { expect, test } from 'vitest';
import { withKey } from '../../curve/reshape.ts';
import type { Member } from '../../document/member.ts';
import { emptyShot } from '../../document/shot.ts';
import { newMember } from '../../edit/commands/members.ts';
import { Table } from '../../table/table.ts';
import { bake } from './bake.ts';
import { usualChoices } from './choices.ts';

const choices = { ...usualChoices, frames: { first: 1, last: 4 }, clips: [], rate: 24 };

/** A ball that is pressed flat over four frames, and a box that goes with it, turned by an angle. */
function pressed(turn: number, how: 'held' | 'parented') {
  const shot = emptyShot('s', 'Pressed');
  const by = { is: 'member', member: 'ball', joint: null } as const;
  const ball = newMember(shot, { kind: 'ball', id: 'ball' });
  const size = withKey(withKey(undefined, 1, 1), 4, 0.5);
  const box: Member = {
    ...newMember(shot, { kind: 'box', id: 'box' }),
    name: 'Toolbox',
    values: { 'turn.z': turn },
    ...(how === 'held' ? { holds: [{ frame: 1, by }] } : { parent: 'ball' }),
  };
  return { ...shot, members: Table.of({ ball, box }), curves: Table.of({ 'ball.size.y': size }) };
}
const told = (turn: number, how: 'held' | 'parented') =>
  bake(pressed(turn, how), choices).left.filter(({ text }) => text.includes('slanted'));

test('what hangs askew in a body that is pressed flat is told of', () => {
  expect(told(Math.PI / 4, 'held')).toEqual([{ of: 'Toolbox', text: expect.stringContaining('goes out square') }]);
});

test('what stands straight in it, or on it as its parent, is not: files say that', () => {
  expect(told(0, 'held')).toEqual([]);
  expect(told(Math.PI / 4, 'parented')).toEqual([]);
});
