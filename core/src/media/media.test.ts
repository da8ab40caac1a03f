import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { emptyShot } from '../document/shot.ts';
import { addSounds } from '../edit/commands/sounds.ts';
import { MediaHash, mediaHash, mediaKindOf, mediaOfShot } from './index.ts';

const bytes = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

describe('what media are', () => {
  test.each([
    ['png', '\x89PNG\r\n\x1a\n....'],
    ['jpeg', '\xff\xd8\xff\xe0..'],
    ['wav', 'RIFF\x24\x00\x00\x00WAVEfmt '],
    ['ogg', 'OggS....'],
    ['flac', 'fLaC....'],
    ['mp3', 'ID3\x04....'],
    ['mp3', '\xff\xfb\x90\x64'],
    ['mp4', '\0\0\0\x20ftypisom'],
    ['webm', '\x1a\x45\xdf\xa3\x9f'],
  ])('is told by how they begin: %s', (kind, text) => {
    expect(mediaKindOf(bytes(text))).toBe(kind);
  });

  test.each(['', 'R', 'RIFF....AVI ', '<svg>', '\xff\xd8', '\xff\xf1..', 'GIF89a', '%PDF', '\x89PNG\r\n'])(
    'what begins with %j is none',
    (text) => {
      expect(mediaKindOf(bytes(text))).toBeNull();
    },
  );

  test('no bytes make it stumble', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 16 }), (any) => {
        expect([null, 'png', 'jpeg', 'wav', 'mp3', 'ogg', 'flac', 'mp4', 'webm']).toContain(mediaKindOf(any));
      }),
    );
  });

  test('they are known by the SHA-256 of their bytes', () => {
    // FIPS 180-4, the example of one block.
    expect(mediaHash(bytes('abc'))).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
    const pieces = new MediaHash();
    for (const piece of ['a', '', 'bc']) pieces.take(bytes(piece));
    expect(pieces.done()).toBe(mediaHash(bytes('abc')));
  });
});

test('a shot needs each of its sounds that were brought in once, and none of those that come with Varrup', () => {
  const [a, b] = ['a'.repeat(64), 'b'.repeat(64)];
  const sounds = ([a, b, a, null] as const).map((media, i) => ({
    id: `s${i}`,
    name: 'S',
    sound: media === null ? ('thud' as const) : { media, seconds: 1 },
    frame: i,
    gain: 1,
  }));
  expect(mediaOfShot(addSounds.apply(emptyShot('x', 'X'), { sounds }))).toEqual([a, b]);
});
