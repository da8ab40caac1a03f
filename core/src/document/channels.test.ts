import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { newMember } from '../edit/index.ts';
import { Rigs } from '../rig/rigs.ts';
import {
  channelOffset,
  channelPath,
  channelsOf,
  colourChannels,
  colourText,
  findChannel,
  shownChannels,
  splitPath,
} from './channels.ts';
import { emptyShot } from './shot.ts';

const member = (kind: 'ball' | 'camera' | 'light') => newMember(emptyShot('s1', 'Channels'), { kind, id: 'm1' });

describe('channels', () => {
  test('stand where the offsets say', () => {
    const ids = channelsOf(member('ball'), Rigs.none).map((c) => c.id);
    for (const [group, at] of Object.entries(channelOffset)) expect(ids[at].split('.')[0]).toBe(group);
  });

  test('of a kind come after the standard ones, and custom ones last', () => {
    const camera = { ...member('camera'), custom: [{ id: 'glow', name: 'Glow', initial: 0.5 }] };
    expect(
      channelsOf(camera, Rigs.none)
        .slice(-4)
        .map((c) => [c.id, c.initial]),
    ).toEqual([
      ['view', (35 * Math.PI) / 180],
      ['focus', 4],
      ['aperture', 0],
      ['custom.glow', 0.5],
    ]);
    expect(findChannel(member('light'), 'brightness', Rigs.none)?.everyday).toBe(true);
    expect(findChannel(member('ball'), 'brightness', Rigs.none)).toBeUndefined();
  });

  test('show angles or an orientation, never both', () => {
    const ids = (rotation: 'angles' | 'orientation') =>
      shownChannels({ ...member('ball'), rotation }, Rigs.none).map((c) => c.id);
    expect(ids('angles')).toContain('turn.y');
    expect(ids('angles')).not.toContain('orientation');
    expect(ids('orientation').filter((id) => id.startsWith('turn') || id === 'orientation')).toEqual(['orientation']);
  });

  test('are found again by their path', () => {
    expect(splitPath(channelPath('m1', 'custom.glow'))).toEqual({ member: 'm1', channel: 'custom.glow' });
  });

  test('hold a colour and give it back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 0xffffff }), (n) => {
        const hex = `#${n.toString(16).padStart(6, '0')}`;
        const { 'colour.r': r, 'colour.g': g, 'colour.b': b } = colourChannels(hex);
        expect(colourText(r, g, b)).toBe(hex);
      }),
    );
    expect(colourText(-1, 2, 0.5)).toBe('#00ff80');
  });
});
