import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Refused } from '../../schema/refused.ts';
import { type Capture, type CaptureJoint, captureChannels, captureLimits, captureWidth } from './capture.ts';
import { readBvh } from './read.ts';
import { writeBvh } from './write.ts';

/** A crane of two joints, written by hand as others write it: tabs and blanks, either case, an end with a name. */
const CRANE = `HIERARCHY
ROOT post
{
	OFFSET 0.00 1.50 0.00
	CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation
	JOINT arm
	{
	  OFFSET 0 2 0
	  channels 3 Zrotation Xrotation Yrotation
	  End Site hook
	  {
	    OFFSET 1e0 0 -.5
	  }
	}
}
MOTION
Frames:  2
Frame Time:\t0.0416667
0 0 0   10 20 30   0 0 0
0.5 0 -1   10 20 30.25   -45 0 1e-3
`;

const number = fc.integer({ min: -1e8, max: 1e8 }).map((n) => n / 1e5);
const offset = fc.tuple(number, number, number);
const name = fc.string({ minLength: 1, maxLength: 12 }).filter((s) => /^[^\s{}]+$/.test(s));
/** Skeletons of any form, each joint's parent anywhere before it. */
const capture: fc.Arbitrary<Capture> = fc
  .array(
    fc.record({
      name,
      at: fc.double({ min: 0, max: 0.999, noNaN: true }),
      offset,
      channels: fc.subarray([...captureChannels]),
    }),
    { minLength: 1, maxLength: 12 },
  )
  .chain((drafts) => {
    const joints: CaptureJoint[] = drafts.map(({ at, ...joint }, j) => ({
      ...joint,
      parent: Math.floor(at * (j + 1)) - 1,
      end: null,
    }));
    const width = captureWidth(joints);
    return fc
      .array(fc.array(number, { minLength: width, maxLength: width }), { maxLength: 4 })
      .map((rows) => ({ joints, rate: 24, frames: rows.length, values: Float64Array.from(rows.flat()) }));
  });

/** The numbers of a joint over time, whatever order the joints stand in. */
const motions = ({ joints, frames, values }: Capture) => {
  const width = captureWidth(joints);
  let column = 0;
  return joints.map(({ name: called, offset: at, channels }) => {
    const first = column;
    column += channels.length;
    const rows = Array.from({ length: frames }, (_, f) => [
      ...values.subarray(f * width + first, f * width + first + channels.length),
    ]);
    return JSON.stringify({ called, at, channels, rows }, (_, v) => (typeof v === 'number' ? v.toFixed(5) : v));
  });
};

describe('a capture', () => {
  test('written by others is read: skeleton, channels in their order, frames', () => {
    const crane = readBvh(CRANE);
    expect(crane.joints).toEqual([
      {
        name: 'post',
        parent: -1,
        offset: [0, 1.5, 0],
        channels: ['move.x', 'move.y', 'move.z', 'turn.z', 'turn.x', 'turn.y'],
        end: null,
      },
      { name: 'arm', parent: 0, offset: [0, 2, 0], channels: ['turn.z', 'turn.x', 'turn.y'], end: [1, 0, -0.5] },
    ]);
    expect(crane).toMatchObject({ rate: 24, frames: 2 });
    expect([...crane.values.slice(9)]).toEqual([0.5, 0, -1, 10, 20, 30.25, -45, 0, 1e-3]);
  });

  test('comes back as it was written, each joint with its own numbers, whatever the skeleton', () => {
    fc.assert(
      fc.property(capture, (made) => {
        const back = readBvh(writeBvh(made));
        expect(back.frames).toBe(made.frames);
        expect(back.rate).toBe(24);
        expect(motions(back).sort()).toEqual(motions(made).sort());
      }),
    );
  });

  test.each([
    [0.0333333, 30],
    [0.00833333, 120],
    [0.0333667, 1 / 0.0333667],
  ])('of frames of %f s has %f a second', (seconds, rate) => {
    expect(readBvh(CRANE.replace('0.0416667', String(seconds))).rate).toBe(rate);
  });
});

describe('what is no capture is refused with its line', () => {
  test.each([
    ['', /^Line 1 of the capture: HIERARCHY should stand here\.$/],
    [CRANE.replace('ROOT', 'TREE'), /^Line 2 of the capture: A skeleton begins with ROOT\.$/],
    [
      CRANE.replace('OFFSET 0 2 0', 'OFFSET 0 two 0'),
      /^Line 8 of the capture: “two” is no number that an offset can have\.$/,
    ],
    [CRANE.replace('Xposition', 'Wposition'), /^Line 5 of the capture: “Wposition” is no channel/],
    [CRANE.replace('CHANNELS 6', 'CHANNELS 7'), /^Line 5 of the capture: 7 cannot be how many channels there are/],
    [CRANE.replace('Yposition', 'Xposition'), /^Line 5 of the capture: The joint has one channel twice\.$/],
    [CRANE.replace('Frames:  2', 'Frames: -2'), /^Line 17 of the capture: -2 cannot be how many frames there are/],
    [CRANE.replace('Frames:  2', 'Frames: 1e9'), /1000000000 cannot be how many frames there are: from 0 to 200000\.$/],
    [CRANE.replace('Frames:  2', 'Frames: 3'), /The file ends where frame 3 of 3 should stand\.$/],
    [CRANE.replace('0.0416667', '0'), /A frame takes 0 s; it can take from 0\.001 to 10\.$/],
    [CRANE.replace('30.25', 'NaN'), /^Line 20 of the capture: “NaN” is no number/],
    [CRANE.replace('30.25', 'Infinity'), /^Line 20/],
    [CRANE.replace('30.25', '0x10'), /^Line 20/],
    [CRANE.replace('30.25', '1e40'), /^Line 20/],
  ])('%#', (text, sentence) => {
    expect(() => readBvh(text)).toThrow(sentence);
    expect(() => readBvh(text)).toThrow(Refused);
  });

  test('also a skeleton that is too deep, or has too many joints', () => {
    const deep = (levels: number) =>
      `HIERARCHY\nROOT a { OFFSET 0 0 0 CHANNELS 0 ${'JOINT a { OFFSET 0 0 0 '.repeat(levels - 1)}${'}'.repeat(levels)}\nMOTION\nFrames: 0\nFrame Time: 0.1\n`;
    expect(readBvh(deep(captureLimits.depth)).joints).toHaveLength(captureLimits.depth);
    expect(() => readBvh(deep(captureLimits.depth + 1))).toThrow('The skeleton is deeper than 120 joints.');
    const many = `HIERARCHY\n${'ROOT a { OFFSET 0 0 0 }\n'.repeat(captureLimits.joints + 1)}`;
    expect(() => readBvh(many)).toThrow('more than 1000 joints');
  });

  test('and wherever it is cut or spoilt, it is read or refused, and nothing else', () => {
    fc.assert(
      fc.property(fc.nat(CRANE.length), fc.nat(CRANE.length), fc.string({ maxLength: 6 }), (from, length, put) => {
        const spoilt = CRANE.slice(0, from) + put + CRANE.slice(from + length);
        try {
          const { values, frames, joints } = readBvh(spoilt);
          expect(values).toHaveLength(frames * captureWidth(joints));
          expect(values.every(Number.isFinite)).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(Refused);
        }
      }),
      { numRuns: 1000 },
    );
  });
});
