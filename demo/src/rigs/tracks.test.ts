import {
  type Clip,
  type ClipTrack,
  changeChannels,
  controlsOf,
  findingsOf,
  footfallsOf,
  frameOf,
  givenBy,
  layDown,
  liftOut,
  type NumberCurve,
  perform,
  putTrack,
  spanSplit,
  spanTrimmed,
  takeUpClip,
  valueAt,
} from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { jointPlace, withValues } from './testing.ts';
import { clipCalled, FLAT, farthest, goat, laid, slides, span, track, worlds } from './three-gaits.ts';

const frames = Array.from({ length: 90 }, (_, i) => 1 + i * 0.53);

describe('a span alone', () => {
  for (const name of ['walk', 'trot', 'bound'])
    test(`of the ${name} is the clip, to a thousandth of a micrometre`, () => {
      const clip = clipCalled(goat, name);
      const atWork = perform(goat, takeUpClip, { id: clip.id })!.shot;
      const only = span(goat, name, { from: clip.first, length: 60 });
      expect(farthest(worlds(laid(goat, track([only])), frames), worlds(atWork, frames))).toBeLessThan(1e-9);
    });

  test('at another speed is the clip in another time', () => {
    const clip = clipCalled(goat, 'walk');
    const atWork = perform(goat, takeUpClip, { id: clip.id })!.shot;
    const slow = laid(goat, track([span(goat, 'walk', { from: 11, length: 60, into: 7.5, speed: 0.5 })]));
    const there = frames.filter((f) => f < 60);
    const mine = worlds(
      slow,
      there.map((f) => f + 10),
    );
    const root = (m: Float64Array) => m.length;
    expect(root(mine[0])).toBeGreaterThan(0);
    // It sets out from where it stands: the clip has been going for seven and a half frames by then.
    const begun = (clip.travel * 7.5) / clip.length;
    const clips = worlds(
      atWork,
      there.map((f) => clip.first + 7.5 + (f - 1) / 2),
    );
    const hips = goat.members.keys().length;
    for (let i = 0; i < there.length; i++)
      for (let at = hips * 16; at < mine[i].length; at += 16)
        if (Math.abs(clips[i][at + 15] - 1) < 1e-9)
          expect(Math.abs(mine[i][at + 14] - (clips[i][at + 14] - begun))).toBeLessThan(1e-9);
  });

  test('and over an equal one, at any strength, is the clip still', () => {
    const alone = worlds(laid(goat, track([span(goat, 'trot', { length: 60 })])), frames);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 0, max: 20 }), (strength, ease) => {
        const over = span(goat, 'trot', { id: 'over', length: 60, strength, easeIn: ease, easeOut: ease });
        const both = laid(goat, track([span(goat, 'trot', { length: 60 })]), track([over], { id: 'two', rank: 2 }));
        expect(farthest(worlds(both, frames), alone)).toBeLessThan(1e-9);
      }),
      { numRuns: 6 },
    );
  });

  test('on top of what never leaves its first pose changes nothing, and with no strength either', () => {
    const alone = laid(goat, track([span(goat, 'walk', { length: 60 })]));
    const none = span(goat, 'bound', { id: 'none', length: 60, strength: 0 });
    expect(farthest(worlds(laid(alone, track([none], { id: 'two', rank: 2 })), frames), worlds(alone, frames))).toBe(0);
    const still = clipCalled(goat, 'still');
    const top = span(goat, 'still', { how: 'onTop', length: 60, easeIn: 9 });
    const both = laid(alone, track([top], { id: 'two', rank: 2 }));
    expect(Object.keys(still.kept!.curves).length).toBeGreaterThan(20);
    expect(farthest(worlds(both, frames), worlds(alone, frames))).toBeLessThan(1e-9);
  });

  test('on a part of the body moves nothing else', () => {
    const alone = laid(goat, track([span(goat, 'walk', { length: 60 })]));
    const head = controlsOf(goat, 'goat').find((c) => c.shape.control === 'head')!;
    const bounding = span(goat, 'bound', { id: 'head', length: 60, controls: ['head'] });
    const given = givenBy(laid(alone, track([bounding], { id: 'two', rank: 2 })), 'goat')!;
    const before = givenBy(alone, 'goat')!;
    let changed = 0;
    for (const [path, curve] of given.curves) {
      const same = JSON.stringify(curve) === JSON.stringify(before.curves.get(path));
      if (path.startsWith(`${head.id}.`)) changed += same ? 0 : 1;
      else expect(same, path).toBe(true);
    }
    expect(changed).toBeGreaterThan(0);
  });

  test('of a clip that keys the head alone leaves all else as it goes, and comes and goes', () => {
    const head = `${controlsOf(goat, 'goat').find((c) => c.shape.control === 'head')!.id}.turn.x`;
    const key = (frame: number, value: number) => {
      return { frame, value, in: FLAT, out: FLAT, joined: true, role: 'key' as const };
    };
    const nod: NumberCurve = { type: 'number', keys: [key(1, 0.6), key(20, -0.6)], before: 'hold', after: 'hold' };
    const kept = { curves: { [head]: nod }, recipes: {} };
    const clip: Clip = { ...goat.clips.at('still'), id: 'nod', name: 'nod', cycles: false, kept };
    const shot = { ...goat, clips: goat.clips.with('nod', clip) };
    const walking = laid(shot, track([span(shot, 'walk', { length: 60 })]));
    const over = span(shot, 'nod', { from: 10, length: 40, easeIn: 12, easeOut: 12 });
    const nodding = laid(walking, track([over], { id: 'two', rank: 2 }));
    const [a, b] = [walking, nodding].map((s) => givenBy(s, 'goat')!);
    for (const f of frames) expect(valueAt(b.course!.z, f)).toBeCloseTo(valueAt(a.course!.z, f), 9);
    for (const [path, curve] of a.curves) {
      if (path === head) continue;
      // The other angles of the head are gone over with it.
      const digits = path.startsWith(head.slice(0, -2)) ? 4 : 9;
      for (const f of frames)
        expect(valueAt(b.curves.get(path) as NumberCurve, f)).toBeCloseTo(valueAt(curve as NumberCurve, f), digits);
    }
    const at = (f: number) => valueAt(b.curves.get(head) as NumberCurve, f);
    expect(at(25)).toBeCloseTo(valueAt(nod, 16), 4);
    for (const f of [9, 10, 50, 55]) expect(at(f)).toBeCloseTo(valueAt(a.curves.get(head) as NumberCurve, f), 6);
  });

  test('says nothing while a clip of the rig is at work', () => {
    const shot = laid(goat, track([span(goat, 'walk', {})]));
    expect(givenBy(shot, 'goat')).not.toBeNull();
    expect(givenBy(perform(shot, takeUpClip, { id: clipCalled(goat, 'trot').id })!.shot, 'goat')).toBeNull();
  });

  test('muted is silent, and so is what is beside one that is alone', () => {
    const walk = track([span(goat, 'walk', {})]);
    const trot = track([span(goat, 'trot', {})], { id: 'two', rank: 2 });
    expect(givenBy(laid(goat, { ...walk, muted: true }), 'goat')).toBeNull();
    const only = givenBy(laid(goat, { ...walk, alone: true }, trot), 'goat')!;
    expect([...only.curves]).toEqual([...givenBy(laid(goat, walk), 'goat')!.curves]);
  });
});

describe('from one gait to the next', () => {
  const pairs = [
    ['walk', 'trot'],
    ['trot', 'bound'],
    ['bound', 'trot'],
    ['trot', 'walk'],
    ['walk', 'bound'],
  ] as const;
  for (const [a, b] of pairs)
    test(`${a} to ${b}: what stands stays, and the body gets on evenly, at every length and in every phase`, () => {
      const any = { over: fc.integer({ min: 1, max: 24 }), into: fc.double({ min: 0, max: 40, noNaN: true }) };
      fc.assert(
        fc.property(fc.record({ ...any, inStep: fc.boolean() }), ({ over, into, inStep }) => {
          const spans = [
            span(goat, a, { length: 50 + over, into }),
            span(goat, b, { from: 51, length: 50 + over, inStep }),
          ];
          const shot = laid(goat, track(spans));
          const found = slides(shot, 20, 90 + over);
          expect(found.slide, `a hoof at frame ${found.at}, mm`).toBeLessThan(3);
          expect(found.deep, 'in the floor, mm').toBeLessThan(1);
          const { course } = givenBy(shot, 'goat')!;
          const paces = [a, b].map((name) => clipCalled(shot, name).travel / clipCalled(shot, name).length);
          const far = (frame: number) => valueAt(course!.z, frame);
          let before = paces[0];
          for (let f = 20; f < 95; f++) {
            const pace = far(f + 1) - far(f);
            // In step the slower one hurries and the faster one waits: neither goes beyond what the two make of it.
            expect(Math.abs(pace - before)).toBeLessThan(2.5 * (Math.abs(paces[1] - paces[0]) / over) + 0.02);
            before = pace;
          }
          expect(before).toBeCloseTo(paces[1], 9);
        }),
        { numRuns: 12 },
      );
    });
});

describe('a span in the hand', () => {
  const base = track([span(goat, 'walk', { id: 'w', length: 60, into: 3 })]);
  const motion = (t: ClipTrack) => worlds(laid(goat, t), frames);

  test('split plays on as if it were one, and so do halves that are trimmed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 59 }), (at) => {
        const split = spanSplit(base, 'w', at, 'x');
        expect(split.spans.map((s) => [s.from, s.length])).toEqual([
          [1, at - 1],
          [at, 61 - at],
        ]);
        expect(farthest(motion(split), motion(base))).toBeLessThan(1e-9);
        const trimmed = spanTrimmed(base, 'w', 'start', at);
        const after = frames.filter((f) => f > at);
        // What it plays stays on its frames; the body sets out from where it stands by then.
        const hoof = controlsOf(goat, 'goat').find((c) => c.shape.control === 'foreFootL')!;
        const [a, b] = [base, trimmed].map((t) => givenBy(laid(goat, t), 'goat')!.curves.get(`${hoof.id}.move.z`));
        for (const f of after) expect(valueAt(a as NumberCurve, f)).toBeCloseTo(valueAt(b as NumberCurve, f), 9);
      }),
      { numRuns: 10 },
    );
    expect(spanSplit(base, 'w', 1, 'x')).toBe(base);
    expect(spanSplit(base, 'w', 61, 'x')).toBe(base);
    expect(spanTrimmed(base, 'w', 'start', 500).spans[0]).toMatchObject({ from: 60, length: 1 });
    expect(spanTrimmed(base, 'w', 'end', -20).spans[0]).toMatchObject({ from: 1, length: 1 });
  });

  test('says on which frames feet come down: once a round and foot, at its speed', () => {
    const clip = clipCalled(goat, 'walk');
    const slow = track([span(goat, 'walk', { id: 'w', length: 4 * clip.length, speed: 0.5 })]);
    for (const falls of Object.values(footfallsOf(goat, slow, 'w'))) {
      expect(falls).toHaveLength(2);
      expect(falls[1] - falls[0]).toBeCloseTo(2 * clip.length, 9);
    }
    expect(Object.keys(footfallsOf(goat, slow, 'w'))).toHaveLength(4);
  });

  test('is refused where three would lie over one another, or the clip is not its rig’s', () => {
    const three = [1, 5, 9].map((from) => span(goat, 'walk', { id: `s${from}`, from }));
    expect(() => perform(goat, putTrack, { track: track(three) })).toThrow('three spans');
    const lost = { ...span(goat, 'walk', {}), clip: 'nobody' };
    expect(() => perform(goat, putTrack, { track: track([lost]) })).toThrow('no clip of its rig');
  });
});

test('keys of a rig that belong to no clip become one where a clip is taken up, and come back with it', () => {
  const head = controlsOf(goat, 'goat').find((c) => c.shape.control === 'head')!;
  const values = { [`${head.id}.turn.y`]: 0.4 };
  const keyed = perform(goat, changeChannels, { frame: 5, values, autoKey: 'every' })!.shot;
  const { curves } = keyed;
  expect(curves.size).toBeGreaterThan(0);
  const away = perform(keyed, takeUpClip, { id: 'walk' })!.shot;
  const own = clipCalled(away, 'Own keys');
  expect(own.kept!.curves).toEqual(Object.fromEntries(curves.entries()));
  const back = perform(away, takeUpClip, { id: own.id })!.shot;
  expect(Object.fromEntries(back.curves.entries())).toEqual(Object.fromEntries(curves.entries()));
});

describe('an arrangement laid down as keys', () => {
  const spans = [span(goat, 'walk', { length: 44 }), span(goat, 'trot', { from: 33, length: 44 })];
  /** Turned and moved, so that ahead is no axis of the stage. */
  const facing = withValues(goat, { 'goat.turn.y': 0.7, 'goat.move.x': 1.5 });
  const within = { metres: 2e-4, radians: 1e-3 };

  test('plays as the tracks did, within the tolerance, with fewer keys; the tracks are silent', () => {
    const mixed = laid(facing, track(spans));
    const down = perform(mixed, layDown, { rig: 'goat', within })!.shot;
    expect(down.tracks.at('body').muted).toBe(true);
    const given = givenBy(mixed, 'goat')!;
    let [many, few] = [0, 0];
    for (const [path, curve] of given.curves) {
      const own = down.curves.at(path) as NumberCurve;
      many += curve.keys.length;
      few += own.keys.length;
      const most = path.includes('.turn.') || !path.includes('.move.') ? within.radians : within.metres;
      for (const f of frames)
        expect(Math.abs(valueAt(own, f) - valueAt(curve as NumberCurve, f)), `${path} at ${f}`).toBeLessThan(
          most + 1e-9,
        );
    }
    expect(few).toBeLessThan(0.6 * many);
    // The body gets to where the tracks took it.
    const [a, b] = [mixed, down].map((s) => jointPlace(frameOf(s, 60), 'goat', 'hips'));
    expect(Math.hypot(...a.map((v, i) => v - b[i]))).toBeLessThan(4e-3);
    expect(Math.hypot(a[0] - 1.5, a[2])).toBeGreaterThan(1);
  });

  test('is refused where nothing plays, while a clip is at work, and where the rig has keys of its own place', () => {
    expect(() => perform(goat, layDown, { rig: 'goat', within })).toThrow('plays anything');
    const mixed = laid(goat, track(spans));
    const working = perform(mixed, takeUpClip, { id: 'walk' })!.shot;
    expect(() => perform(working, layDown, { rig: 'goat', within })).toThrow('walk is at work');
    const moved = perform(mixed, changeChannels, { frame: 1, values: { 'goat.move.x': 1 }, autoKey: 'every' })!.shot;
    expect(() => perform(moved, layDown, { rig: 'goat', within })).toThrow('keys of its own');
  });

  test('and lifted out again is a clip that plays the same', () => {
    const down = perform(laid(goat, track(spans)), layDown, { rig: 'goat', within })!.shot;
    const out = perform(down, liftOut, { rig: 'goat', id: 'out', name: 'Out', from: 11, to: 51 })!.shot;
    expect(out.curves).toBe(down.curves);
    const clip = clipCalled(out, 'Out');
    expect([clip.first, clip.length]).toEqual([11, 40]);
    for (const [path, curve] of Object.entries(clip.kept!.curves))
      for (let f = 11; f <= 51; f += 0.37)
        expect(valueAt(curve as NumberCurve, f)).toBeCloseTo(valueAt(down.curves.at(path) as NumberCurve, f), 9);
    expect(() => perform(down, liftOut, { rig: 'goat', id: 'x', name: 'X', from: 5, to: 6 })).toThrow('frames long');
  });
});

test('what is read there and then is what the curves say', () => {
  const names = fc.constantFrom('walk', 'trot', 'bound', 'still');
  const some = { over: fc.integer({ min: 1, max: 24 }), into: fc.integer({ min: 0, max: 30 }) };
  fc.assert(
    fc.property(
      fc.record({
        ...some,
        first: names,
        second: names,
        third: names,
        at: fc.double({ min: -5, max: 130, noNaN: true }),
      }),
      ({ over, into, first, second, third, at }) => {
        const spans = [
          span(goat, first, { id: 'a', length: 40 + over, into }),
          span(goat, second, { id: 'b', from: 41, length: 30 + over }),
          span(goat, third, { id: 'c', from: 71, length: 45 }),
        ];
        const own = track(spans);
        const [read, made] = [givenBy(laid(goat, own), 'goat')!, givenBy(laid(goat, { ...own }), 'goat')!];
        for (const path of made.paths)
          expect(Math.abs(read.at(path, at) - valueAt(made.curve(path) as NumberCurve, at)), path).toBeLessThan(5e-4);
      },
    ),
    { numRuns: 60 },
  );
});

test('no leg is drawn out straight from walk to trot, from trot to bound and from trot to walk', () => {
  for (const [a, b] of [
    ['walk', 'trot'],
    ['trot', 'bound'],
    ['trot', 'walk'],
  ] as const)
    for (const over of [6, 18])
      for (const into of [0, 13]) {
        const play = { first: 20, last: 100 };
        const spans = [span(goat, a, { length: 50 + over, into }), span(goat, b, { from: 51, length: 70 })];
        const found = findingsOf({ ...laid(goat, track(spans)), play, range: play });
        expect(found.filter((f) => f.check === 'limbReach').map((f) => f.text)).toEqual([]);
      }
});

describe('from standing to a walk and back', () => {
  for (const [a, b] of [
    ['still', 'walk'],
    ['walk', 'still'],
    ['trot', 'still'],
  ] as const)
    test(`${a} to ${b}: no hoof slides, and who comes to stand steps to where it is to stand`, () => {
      fc.assert(
        fc.property(fc.integer({ min: 4, max: 24 }), fc.integer({ min: 0, max: 30 }), (over, into) => {
          const spans = [span(goat, a, { length: 50 + over, into }), span(goat, b, { from: 51, length: 120 })];
          const shot = laid(goat, track(spans));
          const found = slides(shot, 20, 165);
          expect(found.slide, `a hoof at frame ${found.at}, mm`).toBeLessThan(3);
          expect(found.deep, 'in the floor, mm').toBeLessThan(1);
          if (b !== 'still') return;
          const { curves } = givenBy(shot, 'goat')!;
          for (const [path, curve] of Object.entries(clipCalled(shot, 'still').kept!.curves)) {
            if (!/[Ff]oot[LR]\.move\./.test(path)) continue;
            const stood = valueAt(curves.get(path) as NumberCurve, 165);
            // Who stands within a centimetre of it makes no step for that.
            expect(Math.abs(stood - valueAt(curve as NumberCurve, 1)), path).toBeLessThan(0.0101);
          }
        }),
        { numRuns: 10 },
      );
    });
});

test('what the checks find in an arrangement says in which span and clip, and is not mended from there', () => {
  const walk = goat.clips.at('walk');
  // A chest that is turned further than it can be, in the clip alone.
  const path = `${controlsOf(goat, 'goat').find((c) => c.shape.control === 'head')!.id}.turn.y`;
  const keys = [1, 8].map((frame, i) => {
    const value = i === 0 ? 0 : 9;
    return { frame: walk.first + frame, value, in: FLAT, out: FLAT, joined: true, role: 'key' as const };
  });
  const wild: NumberCurve = { type: 'number', keys, before: 'hold', after: 'hold' };
  const kept = { ...walk.kept!, curves: { ...walk.kept!.curves, [path]: wild } };
  const clips = goat.clips.with('walk', { ...walk, cycles: false, kept });
  const play = { first: 1, last: 20 };
  const shot = laid({ ...goat, clips, play, range: play }, track([span(goat, 'walk', { length: 20 })]));
  const own = findingsOf(shot).filter((f) => f.path === path || f.member === path.split('.')[0]);
  expect(own.length).toBeGreaterThan(0);
  for (const finding of own) {
    expect(finding.text).toMatch(/It is in walk on Body\.$/);
    expect(finding.fixable).toBe(false);
  }
});
