import { channelPath, channelsOf, channelValue, frameOf, Program } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { nightFerry } from '../index.ts';

/**
 * A program sorts curves, pools their segments and takes a fixed number of steps; a channel's value read by itself goes by keys and
 * handles. On every demo shot the two agree.
 */
describe.each(nightFerry.shots())('$name', (shot) => {
  test('holds in every channel the value that is read from it alone, to 1e-10', () => {
    const program = new Program(shot);
    const frame = program.createFrame();
    let worst = 0;
    for (let at = shot.range.first - 3; at <= shot.range.last + 3; at += 6.37) {
      program.evaluate(at, frame);
      for (const [id, member] of shot.members) {
        for (const channel of channelsOf(member, shot.rigs)) {
          const path = channelPath(id, channel.id);
          // What a formula makes of a channel is not in its keys.
          if (shot.formulas.has(path)) continue;
          const alone = channelValue(shot, path, at);
          const here = frame.value(id, channel.id);
          if (typeof alone !== 'number' || here === undefined) continue;
          worst = Math.max(worst, Math.abs(here - alone) / Math.max(1, Math.abs(alone)));
        }
      }
    }
    expect(worst).toBeLessThan(1e-10);
  });

  test('is the same forwards, backwards and at once', () => {
    const program = new Program(shot);
    const frame = program.createFrame();
    const { first, last } = shot.range;
    for (let at = first; at <= last; at += 7) program.evaluate(at, frame);
    for (let at = last; at >= first; at -= 11) {
      program.evaluate(at, frame);
      expect(frame.world).toEqual(frameOf(shot, at).world);
    }
  });
});
