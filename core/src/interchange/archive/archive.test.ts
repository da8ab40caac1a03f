import fc from 'fast-check';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { documentOf } from '../../document/shot.ts';
import { Refused } from '../../schema/refused.ts';
import { castWithRigs } from '../../testing/arbitraries.ts';
import { readArchive } from './read.ts';
import { writeArchive } from './write.ts';

const none = new Map<string, Uint8Array>();
const withWalker = fc
  .sample(castWithRigs, { numRuns: 40, seed: 2 })
  .find((s) => s.members.values().some((m) => m.kind === 'rig'))!;
const poses = new Map([['walker', [{ name: 'Still', tags: ['rest'], values: { 'chest.turn.y': 0.1 } }]]]);
const good = writeArchive({ shot: withWalker, poses, media: none });

const aRig = Object.keys(unzipSync(good)).find((name) => name.startsWith('rigs/'))!;

describe('an archive', () => {
  test('of any shot opens as it was, with the rigs it links, and the same shot makes the same bytes', () => {
    fc.assert(
      fc.property(castWithRigs, (shot) => {
        const bytes = writeArchive({ shot, poses: new Map(), media: none });
        const again = readArchive(bytes);
        expect(JSON.stringify(documentOf(again.shot))).toBe(JSON.stringify(documentOf(shot)));
        expect(writeArchive({ shot: again.shot, poses: new Map(), media: none })).toEqual(bytes);
      }),
      { numRuns: 30 },
    );
  });

  test('brings the pose books of its rigs along, and of no others', () => {
    expect(readArchive(good).poses).toEqual(poses);
    const other = new Map([...poses, ['nobody', []]]);
    expect(readArchive(writeArchive({ shot: withWalker, poses: other, media: none })).poses).toEqual(poses);
  });
});

/** The archive with one of its files made another one. */
function changed(file: string, to: (text: string) => string | null): Uint8Array {
  const files = unzipSync(good);
  const text = to(strFromU8(files[file] ?? new Uint8Array()));
  const { [file]: _, ...others } = files;
  return zipSync(text === null ? others : { ...others, [file]: strToU8(text) });
}

test.each([
  ['no archive', Uint8Array.of(1, 2, 3), 'no archive, or a broken one'],
  ['an archive of something else', zipSync({ 'a.txt': strToU8('x') }), 'has no manifest.json'],
  ['a manifest that is none', changed('manifest.json', () => '{}'), 'manifest.json: is'],
  [
    'a newer version',
    changed('manifest.json', (t) => t.replace('"version": 2', '"version": 9')),
    'up to 2 can be read',
  ],
  [
    'a name with a way out of it',
    changed('manifest.json', (t) => t.replace('"shot.json"', '"../../shot.json"')),
    'shot.file',
  ],
  [
    'a shot that was changed',
    changed('shot.json', (t) => t.replace('"rate":24', '"rate":25')),
    'shot.json: is not what the manifest says',
  ],
  ['a shot that is missing', changed('shot.json', () => null), 'in the manifest and not in the archive'],
  ['a rig that was changed', changed(aRig, (t) => t.replace('"changes":"', '"changes":"not ')), 'it was changed'],
])('with %s it is refused', (_, bytes, why) => {
  expect(() => readArchive(bytes)).toThrow(Refused);
  expect(() => readArchive(bytes)).toThrow(why);
});

test('three hundred spoilt archives are refused, or hold what the good one holds', () => {
  const spoilt = fc
    .tuple(
      fc.array(fc.tuple(fc.nat({ max: good.length - 1 }), fc.nat({ max: 255 })), { minLength: 1, maxLength: 4 }),
      fc.oneof(fc.constant(good.length), fc.nat({ max: good.length })),
    )
    .map(([changes, end]) => {
      const bytes = good.slice(0, end);
      for (const [at, byte] of changes) if (at < end) bytes[at] = byte;
      return bytes;
    });
  const before = JSON.stringify(documentOf(withWalker));
  fc.assert(
    fc.property(spoilt, (bytes) => {
      try {
        expect(JSON.stringify(documentOf(readArchive(bytes).shot))).toBe(before);
      } catch (error) {
        expect(error).toBeInstanceOf(Refused);
      }
    }),
    { numRuns: 300 },
  );
});
