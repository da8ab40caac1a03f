import {
  type Clip,
  type ClipSpan,
  type ClipTrack,
  changeChannels,
  controlsOf,
  type Frame,
  frameOf,
  givenBy,
  keyAsTracks,
  layByClip,
  layDown,
  layPose,
  type NumberCurve,
  newSpan,
  newTrack,
  ownKeysTrack,
  Program,
  parseShot,
  pegsOf,
  perform,
  posesOnTracks,
  putTrack,
  type Shot,
  setFollow,
  setManner,
  setRotation,
  spanMoved,
  spanSlid,
  spanSplit,
  spanTrimmed,
  splitPath,
  takeUpClip,
  valueAt,
} from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { clipCalled, FLAT, farthest, goat, laid, span, track, worlds } from './three-gaits.ts';

/** What a span has beside a place and a length: its time bent, its strength keyed, a part with a soft edge, what it lies over. */

const control = (name: string) => controlsOf(goat, 'goat').find((c) => c.shape.control === name)!.id;
const frames = Array.from({ length: 60 }, (_, i) => 1 + i * 0.71);
/** A goat with a clip that nods its head by half a radian and holds it. */
const nod = ((): Shot => {
  const path = `${control('head')}.turn.x`;
  const key = (frame: number, value: number) => ({
    frame,
    value,
    in: FLAT,
    out: FLAT,
    joined: true,
    role: 'key' as const,
  });
  const curve: NumberCurve = { type: 'number', keys: [key(1, 0.1), key(9, 0.6)], before: 'hold', after: 'hold' };
  const walk = goat.clips.at('walk');
  const kept = { curves: { [path]: curve }, recipes: {} };
  const clip: Clip = {
    ...walk,
    id: 'nod',
    name: 'nod',
    first: 1,
    length: 24,
    cycles: false,
    travel: 0,
    stances: {},
    kept,
  };
  return { ...goat, clips: goat.clips.with('nod', clip) };
})();

const head = (shot: Shot, frame: number) => frameOf(shot, frame).value(control('head'), 'turn.x')!;

describe('bent time', () => {
  test('that goes evenly is the speed it goes at', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.3, max: 2, noNaN: true }), fc.integer({ min: 0, max: 20 }), (speed, into) => {
        const plain = span(goat, 'walk', { length: 60, speed, into });
        const time = [0, 13, 40].map((at) => ({ at, clip: into + at * speed }));
        const bent = { ...plain, speed: 1, into: 0, time };
        const moves = (s: ClipSpan) => worlds(laid(goat, track([s])), frames);
        expect(farthest(moves(bent), moves(plain))).toBeLessThan(1e-3);
      }),
      { numRuns: 8 },
    );
  });

  test('holds a clip, plays it backwards, and takes the body back with it', () => {
    const time = [
      { at: 0, clip: 0 },
      { at: 24, clip: 24 },
      { at: 34, clip: 24 },
      { at: 58, clip: 0 },
    ];
    const shot = laid(goat, track([span(goat, 'walk', { length: 60, time })]));
    const [a, held, still, back] = worlds(shot, [1, 26, 34, 59]);
    expect(farthest([held], [still])).toBeLessThan(1e-5);
    expect(farthest([a], [back])).toBeLessThan(2e-4);
    expect(farthest([a], [held])).toBeGreaterThan(0.1);
  });
});

describe('keyed strength', () => {
  test('goes from one share to the next, and holds before and after', () => {
    const levels = [
      { at: 10, share: 0 },
      { at: 20, share: 1 },
      { at: 30, share: 0.5 },
    ];
    const shot = laid(nod, track([span(nod, 'nod', { from: 12, length: 60, shape: 'even', levels })]));
    // The clip has come to 0.6 eight frames after the span begins.
    for (const [frame, share] of [
      [21, 0],
      [27, 0.5],
      [32, 1],
      [37, 0.75],
      [50, 0.5],
    ])
      expect(head(shot, frame)).toBeCloseTo(0.6 * share, 4);
  });

  test('is as it was where a span is split, trimmed or slid with it', () => {
    const levels = [
      { at: 8, share: 0.2 },
      { at: 30, share: 1 },
    ];
    const time = [
      { at: 0, clip: 0 },
      { at: 20, clip: 30 },
      { at: 48, clip: 48 },
    ];
    const one = track([span(goat, 'trot', { id: 'one', length: 48, levels, time })]);
    const plain = givenBy(laid(goat, one), 'goat')!.curves;
    for (const [other, from] of [
      [spanSplit(one, 'one', 19, 'two'), 1],
      [spanTrimmed(one, 'one', 'start', 15), 15],
    ] as const) {
      const { curves } = givenBy(laid(goat, other), 'goat')!;
      for (const [path, curve] of curves)
        for (const f of frames.filter((f) => f >= from && f < 48))
          expect(
            Math.abs(valueAt(curve as NumberCurve, f) - valueAt(plain.get(path) as NumberCurve, f)),
            `${path} at ${f}`,
          ).toBeLessThan(2e-4);
    }
    const slid = spanSlid(spanSlid(one, 'one', 7), 'one', -7);
    expect(slid).toEqual(one);
  });
});

describe('a part with a soft edge', () => {
  const controls = ['chest', 'head', 'earL', 'earR'];
  const under = span(goat, 'walk', { length: 80 });
  const over = (edge: number) =>
    laid(
      goat,
      track([under]),
      track([span(goat, 'trot', { id: 'over', length: 80, controls, edge })], { id: 'over', rank: 2 }),
    );
  const given = (shot: Shot) => givenBy(shot, 'goat')!.curves;

  test('moves nothing outside of the part, however soft', () => {
    const below = given(laid(goat, track([under])));
    for (const edge of [0, 1, 3])
      for (const [path, curve] of given(over(edge))) {
        const { member } = splitPath(path);
        const name = controlsOf(goat, 'goat').find((c) => c.id === member)!.shape.control;
        if (!controls.includes(name)) expect(curve, path).toEqual(below.get(path));
      }
  });

  test('has more of it the further in a control is', () => {
    const [below, full] = [frameOf(laid(goat, track([under])), 17), frameOf(over(0), 17)];
    const soft = frameOf(over(2), 17);
    // By the turn that differs most between the two gaits.
    const share = (name: string) => {
      const [least, most, here] = [below, full, soft].map((frame: Frame) =>
        ['x', 'y', 'z'].map((axis) => frame.value(control(name), `turn.${axis}`)!),
      );
      const by = most.map((v, i) => v - least[i]);
      const axis = by.findIndex((v) => Math.abs(v) === Math.max(...by.map(Math.abs)));
      return by[axis] === 0 ? [] : [(here[axis] - least[axis]) / by[axis]];
    };
    const shares = controls.flatMap(share);
    expect(shares).toHaveLength(4);
    for (const [i, wanted] of [1 / 3, 2 / 3, 1, 1].entries()) expect(shares[i]).toBeCloseTo(wanted, 1);
  });
});

describe('on top', () => {
  const onTop = (base: ClipSpan['base']) =>
    laid(nod, track([span(nod, 'nod', { length: 40, how: 'onTop', base })], { id: 'top', rank: 5 }));

  test('is measured from its own beginning, from another of its frames, or from another clip', () => {
    expect(head(onTop({ clip: null, frame: 0 }), 20)).toBeCloseTo(0.5, 9);
    expect(head(onTop({ clip: null, frame: 8 }), 20)).toBeCloseTo(0, 9);
    // The walk says of the head what it says there.
    const walk = goat.clips.at('walk');
    const own = frameOf(laid(goat, track([span(goat, 'walk', { length: 40 })])), 1 + 5).value(
      control('head'),
      'turn.x',
    )!;
    expect(walk.kept).not.toBeNull();
    expect(head(onTop({ clip: 'walk', frame: 5 }), 20)).toBeCloseTo(0.6 - own, 6);
  });

  test('of a pose that it is measured from, it changes nothing', () => {
    const still = laid(goat, track([span(goat, 'walk', { length: 80 })]));
    const top = span(goat, 'still', { id: 'top', length: 80, how: 'onTop', base: { clip: 'still', frame: 3 } });
    const both = laid(still, track([top], { id: 'top', rank: 4 }));
    expect(farthest(worlds(both, frames), worlds(still, frames))).toBeLessThan(1e-9);
  });

  test('is not measured from a clip of somebody else, nor from one that is gone', () => {
    expect(() => onTop({ clip: 'nobody', frame: 0 })).toThrow('measured from a clip that its rig does not have');
  });
});

describe('a pose, held', () => {
  const values = { 'head.turn.x': 0.4, 'chest.move.y': -0.05, 'footL.move.z': 0.12, 'footL.move.y': 0 };
  const lay = (name: string) => {
    const fresh = newTrack(goat, 'goat');
    const span = newSpan({ ...goat.clips.at('walk'), id: 'pose' }, 5, { length: 30, easeIn: 10, shape: 'even' });
    return perform(goat, layPose, { rig: 'goat', id: 'pose', name, values, track: { ...fresh, spans: [span] } })!.shot;
  };

  test('is a clip that does not move, eased in like any other', () => {
    const shot = lay('Look down');
    expect(clipCalled(shot, 'Look down')).toMatchObject({ travel: 0, cycles: true });
    for (const [frame, share] of [
      [5, 0],
      [10, 0.5],
      [15, 1],
      [33, 1],
    ])
      expect(head(shot, frame)).toBeCloseTo(0.4 * share, 3);
  });

  test('that poses nothing of the rig is refused', () => {
    const bare = { rig: 'goat', id: 'x', name: 'Wings', values: { 'wing.turn.x': 1 }, track: newTrack(goat, 'goat') };
    expect(() => perform(goat, layPose, bare)).toThrow('Wings poses nothing of this rig');
  });
});

describe('how a clip goes about', () => {
  test('is what a span of it begins with', () => {
    const change = { easeIn: 7, easeOut: 9, how: 'onTop' as const, controls: ['head'], edge: 1 };
    const shot = perform(nod, setManner, { id: 'nod', change })!.shot;
    expect(newSpan(shot.clips.at('nod'), 3)).toMatchObject({ from: 3, length: 24, ...change });
    const looped = perform(shot, setManner, { id: 'nod', change: { loop: { from: 4, to: 10 } } })!.shot;
    expect(newSpan(looped.clips.at('nod'), 3).length).toBe(24 + 12);
  });

  test('keys of the keyboard and arrows lead to one clip each', () => {
    const keyed = perform(goat, setManner, { id: 'walk', change: { key: 'w' } })!.shot;
    expect(() => perform(keyed, setManner, { id: 'trot', change: { key: 'w' } })).toThrow(
      'The key w starts walk already',
    );
    const led = perform(keyed, setFollow, { id: 'walk', next: 'trot', how: { over: 12, by: 'up' } })!.shot;
    expect(() => perform(led, setFollow, { id: 'walk', next: 'bound', how: { over: 8, by: 'up' } })).toThrow(
      'leads from walk to trot already',
    );
    expect(() => perform(led, setFollow, { id: 'walk', next: 'walk', how: { over: 8, by: 'down' } })).toThrow();
    expect(perform(led, setFollow, { id: 'walk', next: 'trot', how: null })!.shot.clips.at('walk').follows).toEqual({});
  });
});

test('the keys of a clip come along its span as it plays', () => {
  const [from, slow] = [10, track([span(nod, 'nod', { id: 's', from: 10, length: 40, speed: 0.5 })])];
  expect(pegsOf(laid(nod, slow), slow, 's')).toEqual([from, from + 16]);
});

describe('a control that turns by an orientation', () => {
  /** The goat whose walk turns the head as a whole; its other clips say nothing of that. */
  const whole = ((): Shot => {
    const working = perform(goat, takeUpClip, { id: 'walk' })!.shot;
    const way = { rotation: 'orientation', order: working.members.at(control('head')).order } as const;
    const turned = perform(working, setRotation, { id: control('head'), ...way })!.shot;
    return perform(turned, layByClip, { id: 'walk' })!.shot;
  })();
  const turn = (shot: Shot, frame: number) => {
    const f = frameOf(shot, frame);
    const at = f.layout.slotOf.get(control('head'))! * 4;
    return [...f.orientations.slice(at, at + 4)];
  };
  const angle = (a: readonly number[], b: readonly number[]) =>
    2 * Math.acos(Math.min(1, Math.abs(a.reduce((sum, v, i) => sum + v * b[i], 0))));
  const only = laid(whole, track([span(whole, 'walk', { from: 1, length: 80 })]));

  test('plays as its clip does', () => {
    const working = perform(whole, takeUpClip, { id: 'walk' })!.shot;
    const { first } = whole.clips.at('walk');
    for (const f of frames.filter((f) => f < 40))
      expect(angle(turn(only, f), turn(working, first + f - 1))).toBeLessThan(1e-3);
    expect(Math.max(...frames.map((f) => angle(turn(only, f), turn(only, 1))))).toBeGreaterThan(0.02);
  });

  test('comes in by the shortest way, and on top of its own pose changes nothing', () => {
    const half = laid(whole, track([span(whole, 'walk', { length: 80, strength: 0.5 })]));
    const rest = [...whole.members.at(control('head')).orientation];
    for (const f of [5, 12, 20]) expect(angle(turn(half, f), rest)).toBeCloseTo(angle(turn(only, f), rest) / 2, 3);
    const top = span(whole, 'walk', { id: 'top', length: 80, speed: 0.05, how: 'onTop' });
    const both = laid(
      only,
      track(
        [
          {
            ...top,
            time: [
              { at: 0, clip: 0 },
              { at: 80, clip: 0 },
            ],
          },
        ],
        { id: 'top', rank: 4 },
      ),
    );
    for (const f of frames) expect(angle(turn(both, f), turn(only, f))).toBeLessThan(1e-4);
  });

  test('takes the clips that are laid by along when its way of turning changes', () => {
    const before = laid(goat, track([span(goat, 'trot', { length: 60 })]));
    const way = { rotation: 'orientation', order: goat.members.at(control('head')).order } as const;
    const after = perform(before, setRotation, { id: control('head'), ...way })!.shot;
    for (const f of frames.filter((f) => f < 44)) {
      const [a, b] = [before, after].map((s) => {
        const frame = frameOf(s, f);
        const at = frame.layout.slotOf.get(control('head'))! * 16;
        return frame.world.slice(at, at + 16);
      });
      a.forEach((v, i) => {
        expect(Math.abs(v - b[i])).toBeLessThan(2e-3);
      });
    }
    const back = perform(after, setRotation, { id: control('head'), rotation: 'angles', order: way.order })!.shot;
    expect(Object.keys(back.clips.at('trot').kept!.curves)).toContain(`${control('head')}.turn.x`);
  });

  test('is laid down within the tolerance, in fewer keys', () => {
    const within = { metres: 5e-4, radians: Math.PI / 1800 };
    const down = perform(only, layDown, { rig: 'goat', within })!.shot;
    const curve = down.curves.at(`${control('head')}.orientation`);
    expect(curve.keys.length).toBeLessThan(
      givenBy(only, 'goat')!.curve(`${control('head')}.orientation`)!.keys.length / 2,
    );
    for (const f of frames) expect(angle(turn(down, f), turn(only, f))).toBeLessThan(2.5e-3);
  });
});

test('the poses that tell of a rig on tracks are its contacts, and where spans begin that have none', () => {
  const walk = goat.clips.at('walk');
  const walking = laid(goat, track([span(goat, 'walk', { length: 2 * walk.length })]));
  const contacts = walk.labels.filter((l) => l.pose === 'contact').map((l) => l.frame);
  expect(posesOnTracks(walking, 'goat').map((p) => p.frame)).toEqual(
    [0, 1].flatMap((round) => contacts.map((f) => 1 + f + round * walk.length)),
  );
  const nodding = laid(nod, track([span(nod, 'nod', { from: 5, length: 20, easeIn: 4 })]));
  expect(
    posesOnTracks({ ...nodding, clips: nodding.clips.with('nod', { ...nod.clips.at('nod'), labels: [] }) }, 'goat'),
  ).toEqual([
    { frame: 5, word: 'nod' },
    { frame: 9, word: 'nod' },
    { frame: 24, word: 'nod' },
  ]);
  expect(posesOnTracks(goat, 'goat')).toEqual([]);
});

describe('own keys over tracks', () => {
  const walking = laid(goat, track([span(goat, 'walk', { length: 90 })]));
  const path = `${control('head')}.turn.x`;
  const key = (shot: Shot, frame: number, value: number) =>
    perform(shot, changeChannels, { frame, values: { [path]: value }, autoKey: 'every' })!.shot;

  test('are what the channel is on their frames, and what the tracks give goes on between them', () => {
    const by = 0.3;
    let shot = walking;
    for (const f of [20, 30, 40]) shot = key(shot, f, head(walking, f) + (f === 30 ? by : 0));
    for (const f of [1, 12, 20, 40, 60, 77]) expect(head(shot, f), `at ${f}`).toBeCloseTo(head(walking, f), 4);
    expect(head(shot, 30)).toBeCloseTo(head(walking, 30) + by, 9);
    for (let f = 21; f < 40; f++) {
      const share = (head(shot, f) - head(walking, f)) / by;
      expect(share).toBeGreaterThan(-0.01);
      expect(share).toBeLessThan(1.01);
    }
    // And nothing else is moved by it.
    const other = (s: Shot, f: number) => frameOf(s, f).value(control('chest'), 'turn.x');
    for (const f of [10, 30, 50]) expect(other(shot, f)).toBe(other(walking, f));
  });

  test('of which there is one keep their difference throughout', () => {
    const shot = key(walking, 15, head(walking, 15) + 0.2);
    for (const f of [1, 15, 40, 80]) expect(head(shot, f)).toBeCloseTo(head(walking, f) + 0.2, 4);
  });

  test('stay where they are when a span is moved below them, in a program that goes on', () => {
    const shot = key(key(walking, 20, 0.1), 44, 0.5);
    const own = shot.tracks.at('body');
    const program = new Program(shot);
    for (const from of [3, 9, 14]) {
      const moved = perform(shot, putTrack, { track: spanMoved(own, own.spans[0].id, from) })!.shot;
      program.update(moved);
      const frame = program.createFrame();
      for (const [f, value] of [
        [20, 0.1],
        [44, 0.5],
      ]) {
        program.evaluate(f, frame);
        expect(frame.value(control('head'), 'turn.x')).toBeCloseTo(value, 9);
      }
    }
  });

  test('end where they are keyed as the tracks are', () => {
    const moved = key(walking, 30, head(walking, 30) + 0.4);
    const ended = [18, 44].reduce(
      (s, frame) => perform(s, keyAsTracks, { ids: [control('head')], frame })!.shot,
      moved,
    );
    expect(head(ended, 30)).toBeCloseTo(head(walking, 30) + 0.4, 6);
    for (const f of [2, 18, 44, 60, 80]) expect(head(ended, f)).toBeCloseTo(head(walking, f), 4);
    expect(() => perform(walking, keyAsTracks, { ids: ['goat'], frame: 5 })).toThrow('has keys of its own over tracks');
  });

  test('are silenced, or heard alone, and are there again', () => {
    const shot = key(key(walking, 20, 0.1), 44, 0.5);
    const own = ownKeysTrack(shot, 'goat');
    const program = new Program(shot);
    const at = (s: Shot) => {
      program.update(s);
      const frame = program.createFrame();
      program.evaluate(20, frame);
      const value = frame.value(control('head'), 'turn.x')!;
      expect(value).toBeCloseTo(head(s, 20), 9);
      return value;
    };
    const muted = perform(shot, putTrack, { track: { ...own, muted: true } })!.shot;
    expect(at(muted)).toBeCloseTo(head(walking, 20), 9);
    const alone = perform(shot, putTrack, { track: { ...own, alone: true } })!.shot;
    expect(at(alone)).toBeCloseTo(0.1, 9);
    expect(givenBy(alone, 'goat')).toBeNull();
    const [body] = shot.tracks.values();
    const other = perform(shot, putTrack, { track: { ...body, alone: true } })!.shot;
    expect(at(other)).toBeCloseTo(head(walking, 20), 9);
    expect(at(shot)).toBeCloseTo(0.1, 9);
    expect(() => perform(muted, putTrack, { track: { ...own, spans: body.spans } })).toThrow('no span lies on it');
  });

  test('of picked controls are laid down alone, and nothing moves by it', () => {
    const within = { metres: 5e-4, radians: Math.PI / 1800 };
    const down = perform(walking, layDown, { rig: 'goat', within, only: [control('head')] })!.shot;
    expect(new Set(down.curves.keys().map((p) => splitPath(p).member))).toEqual(new Set([control('head')]));
    for (let f = 2; f < 88; f += 3.3) expect(Math.abs(head(down, f) - head(walking, f))).toBeLessThan(2.5e-3);
    expect(down.tracks).toBe(walking.tracks);
  });

  test('are laid down with what they stand over', () => {
    const shot = key(key(walking, 20, 0.1), 44, 0.5);
    const down = perform(shot, layDown, { rig: 'goat', within: { metres: 5e-4, radians: Math.PI / 1800 } })!.shot;
    for (let f = 1; f < 88; f += 1.7) expect(Math.abs(head(down, f) - head(shot, f))).toBeLessThan(2.5e-3);
  });
});

describe('from outside', () => {
  const rigs = goat.rigs;
  const json = (shot: Shot) => JSON.parse(JSON.stringify({ ...shot, rigs: undefined }));
  const walking = laid(goat, track([span(goat, 'walk', { id: 'only', length: 60 })]));

  test('a document of before there were tracks comes in with none, its clips as they were', () => {
    const { tracks: _, ...old } = json(goat);
    const clips = Object.values(old.clips as Record<string, Clip>).map(({ manner: __, follows: ___, ...clip }) => clip);
    const parsed = parseShot({ ...old, version: 7, clips: Object.fromEntries(clips.map((c) => [c.id, c])) }, rigs);
    expect(parsed.ok && parsed.value.tracks.size).toBe(0);
    expect(parsed.ok && json(parsed.value).clips).toEqual(json(goat).clips);
    expect(parsed.ok && json(parsed.value).curves).toEqual(json(goat).curves);
  });

  test('tracks come in as they are, and what is wrong with them is said with where', () => {
    const own = walking.tracks.at('body');
    const [only] = own.spans;
    const wrong = (change: Partial<ClipTrack>) => {
      const made = { ...json(walking), tracks: { body: { ...own, ...change } } };
      const parsed = parseShot(JSON.parse(JSON.stringify(made)), rigs);
      return parsed.ok ? [] : parsed.problems.map((p) => `${p.pointer} ${p.sentence}`);
    };
    expect(wrong({})).toEqual([]);
    expect(wrong({ spans: [{ ...only, clip: 'gone' }] })[0]).toMatch(
      /^\/tracks\/body\/spans\/0\/clip names "gone", which is no clip/,
    );
    expect(wrong({ spans: [{ ...only, base: { clip: 'gone', frame: 0 } }] })[0]).toContain(
      '/tracks/body/spans/0/base/clip names "gone"',
    );
    expect(wrong({ rig: 'nobody' })[0]).toContain('which is no rig of the cast');
    expect(wrong({ own: true })[0]).toContain('it stands for own keys');
    expect(
      wrong({
        spans: [
          {
            ...only,
            time: [
              { at: 5, clip: 0 },
              { at: 5, clip: 9 },
            ],
          },
        ],
      })[0],
    ).toContain('in order');
    expect(wrong({ spans: [{ ...only, loop: { from: 4, to: 5 } }] })[0]).toContain('shorter than');
  });
});
