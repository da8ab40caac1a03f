import {
  type Company,
  companyTracks,
  crossingsOf,
  endOf,
  givenBy,
  type Pressed,
  perform,
  type Shot,
  setFollow,
  setManner,
  takeUpClip,
  tryCompany,
  valueAt,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { goat, slides } from './three-gaits.ts';

/** Clips played by keys, as a game would. */

const shot = ((): Shot => {
  let s = goat;
  const follow = (id: string, next: string, over: number, by: 'up' | 'down') => {
    s = perform(s, setFollow, { id, next, how: { over, by } })!.shot;
  };
  follow('still', 'walk', 8, 'up');
  follow('walk', 'trot', 10, 'up');
  follow('trot', 'bound', 12, 'up');
  follow('bound', 'trot', 12, 'down');
  follow('trot', 'walk', 10, 'down');
  follow('walk', 'still', 8, 'down');
  const nod = { key: 'n', controls: ['head'], easeIn: 6, easeOut: 6 };
  return perform(s, setManner, { id: 'bound', change: nod })!.shot;
})();
const arrow = (frame: number, by: 'up' | 'down' | 'left' | 'right'): Pressed => ({ frame, press: { arrow: by } });
const key = (frame: number, name: string): Pressed => ({ frame, press: { key: name } });
const company = (base: string | null, ...pressed: Pressed[]): Company => ({ rig: 'goat', base, from: 1, pressed });
const spans = (c: Company, until = 400, of = shot) =>
  companyTracks(of, c, until).map((t) => t.spans.map((s) => [s.clip, s.from, endOf(s)]));

describe('who has the body', () => {
  test('gives way to what may follow it, over as many frames as are said', () => {
    expect(spans(company('still', arrow(30, 'up'), arrow(60, 'up')))).toEqual([
      [
        ['still', 1, 38],
        ['walk', 30, 70],
        ['trot', 60, 400],
      ],
    ]);
    const [body] = companyTracks(shot, company('still', arrow(30, 'up'), arrow(60, 'up')), 400);
    expect(crossingsOf(body).map((c) => [c.from, c.to])).toEqual([
      [30, 38],
      [60, 70],
    ]);
  });

  test('stays where no arrow leads on, and comes in wholly before it gives way again', () => {
    expect(spans(company('walk', arrow(20, 'left')))).toEqual([[['walk', 1, 400]]]);
    expect(spans(company('still', arrow(30, 'up'), arrow(32, 'up')))[0][2]).toEqual(['trot', 38, 400]);
    expect(spans(company(null, arrow(3, 'up')))).toEqual([]);
  });

  test('that ends by itself is followed at its end', () => {
    const walk = shot.clips.at('walk');
    const once = shot.clips.with('walk', { ...walk, cycles: false, follows: { still: { over: 5, by: 'end' } } });
    const end = 1 + walk.length;
    expect(spans(company('walk'), 400, { ...shot, clips: once })).toEqual([
      [
        ['walk', 1, end],
        ['still', end - 5, 400],
      ],
    ]);
  });

  test('turns by a clip that does, and goes on from there', () => {
    const walk = shot.clips.at('walk');
    const left = { ...walk, id: 'left', name: 'left', cycles: false, manner: { ...walk.manner, turn: 0.8 } };
    const follows = { still: walk.follows.still, left: { over: 6, by: 'left' as const } };
    const back = { walk: { over: 6, by: 'end' as const } };
    const clips = shot.clips.with('left', { ...left, follows: back }).with('walk', { ...walk, follows });
    const turning = { ...shot, clips };
    const c = company('walk', arrow(40, 'left'));
    expect(spans(c, 200, turning)[0].map(([clip]) => clip)).toEqual(['walk', 'left', 'walk']);
    const tried = perform(turning, tryCompany, { company: c, until: 160 })!.shot;
    expect(slides(tried, 20, 140).slide).toBeLessThan(3);
    expect(valueAt(givenBy(tried, 'goat')!.course!.turn!, 120)).toBeCloseTo(0.8, 6);
  });

  test('leaves no foot sliding, wherever it is pressed', () => {
    for (const at of [20, 33, 41]) {
      const tried = perform(shot, tryCompany, {
        company: company(
          'still',
          arrow(at, 'up'),
          arrow(at + 50, 'up'),
          arrow(at + 100, 'down'),
          arrow(at + 150, 'down'),
        ),
        until: at + 220,
      })!.shot;
      expect(slides(tried, 1, at + 200).slide).toBeLessThan(3);
    }
  });
});

describe('what comes over it by a key', () => {
  test('is stopped by the same key, easing out, and started again', () => {
    expect(spans(company('walk', key(20, 'n'), key(50, 'n'), key(90, 'n')))[1]).toEqual([
      ['bound', 20, 56],
      ['bound', 90, 400],
    ]);
    expect(spans(company('walk', key(20, 'x')))).toHaveLength(1);
  });

  test('is interrupted on its way out by itself', () => {
    expect(spans(company('walk', key(20, 'n'), key(50, 'n'), key(53, 'n')))[1]).toEqual([
      ['bound', 20, 53],
      ['bound', 53, 400],
    ]);
  });

  test('goes round what repeats until it is stopped, then through its end', () => {
    const bound = shot.clips.at('bound');
    const manner = { ...bound.manner, loop: { from: 4, to: 9 } };
    const looped = { ...shot, clips: shot.clips.with('bound', { ...bound, cycles: false, manner }) };
    const [[, , end]] = spans(company('walk', key(20, 'n'), key(41, 'n')), 400, looped)[1] as [
      string,
      number,
      number,
    ][];
    // In at 20, its part from 24 on in rounds of five: the one it is in at 41 ends at 44; then its end.
    expect(end).toBe(44 + bound.length - 9);
    const [[, , open]] = spans(company('walk', key(20, 'n')), 400, looped)[1] as [string, number, number][];
    expect(open).toBeGreaterThanOrEqual(400);
    expect((open - 20 - bound.length) % 5).toBe(0);
  });
});

test('what was tried is kept as an arrangement, in the place of what was there', () => {
  const working = perform(shot, takeUpClip, { id: 'walk' })!.shot;
  const kept = perform(working, tryCompany, { company: company('walk', arrow(40, 'up')), until: 120 })!.shot;
  expect(kept.play).toEqual({ first: 1, last: 120 });
  expect(givenBy(kept, 'goat')!.course).not.toBeNull();
  const again = perform(kept, tryCompany, { company: company('trot'), until: 60 })!.shot;
  expect(again.tracks.values().map((t) => t.spans.map((s) => s.clip))).toEqual([['trot']]);
});
