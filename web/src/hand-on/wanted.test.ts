import { addClip, newClip } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { craneShot } from '../testing/arm.ts';
import { choicesOf, firstRecipients, usualWishes } from './wanted.ts';

const empty = craneShot();
const rig = empty.members.values().find((m) => m.kind === 'rig')!.id;
const clip = newClip(empty, rig, { id: 'lift', name: 'Lift' });
const shot = { ...addClip.apply(empty, { clip }), play: { first: 5, last: 20 } };
const control = shot.members.values().find((m) => m.kind === 'control')!.id;

describe('what is wanted of a shot', () => {
  test('is what plays and every clip, of everybody, at the rate of the shot', () => {
    expect(choicesOf(shot, usualWishes, [], [])).toMatchObject({
      frames: { first: 5, last: 20 },
      clips: ['lift'],
      members: null,
      rate: shot.rate,
    });
  });

  test('has no clips that stay here, and none of their rigs', () => {
    const wishes = { ...usualWishes, whom: 'rigs', frames: 'none' } as const;
    expect(choicesOf(shot, wishes, [], [])).toMatchObject({ frames: null, clips: ['lift'], members: [rig] });
    expect(choicesOf(shot, wishes, ['lift'], [])).toMatchObject({ clips: [], members: [] });
  });

  test('is of who is picked, a control standing for its rig, once', () => {
    const wishes = { ...usualWishes, whom: 'picked' } as const;
    expect(choicesOf(shot, wishes, [], [control, rig]).members).toEqual([rig]);
  });

  test('holds nothing that only the desk knows, whoever receives it', () => {
    for (const { wishes } of firstRecipients)
      expect(Object.keys(choicesOf(shot, wishes, [], [])).sort()).toEqual([
        'clips',
        'frames',
        'joints',
        'keys',
        'members',
        'plainNames',
        'rate',
        'scale',
        'tolerance',
        'travel',
        'up',
      ]);
  });
});
