import {
  addClip,
  applyPatches,
  type Clip,
  CurveReader,
  carryKeys,
  changeChannels,
  channelValue,
  clipAtWork,
  closedCurve,
  copyClip,
  emptyHistory,
  emptyShot,
  idleControls,
  mirroredKeys,
  mirrorSign,
  moveClip,
  moveKeys,
  type NumberCurve,
  newClip,
  parseShot,
  perform,
  poseChannels,
  putDownKeys,
  putPose,
  recorded,
  removeClip,
  removeKeys,
  resizeClip,
  type Shot,
  setCycles,
  setHalves,
  setHandleKind,
  setKeys,
  setStances,
  setTravel,
  shiftInCycle,
  takeUpClip,
  undo,
} from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { harbourRigs } from './index.ts';
import { porterPoses } from './poses/porter.ts';
import { at, jointPlace, shotWith } from './testing.ts';

/** A porter with an empty clip of 24 frames from frame 1. */
function withClip(change: Partial<Clip> = {}): Shot {
  const shot = shotWith('porter');
  return addClip.apply(shot, { clip: newClip(shot, 'porter', { id: 'walk', ...change }) });
}

const set = (shot: Shot, frame: number, values: Record<string, number>): Shot =>
  changeChannels.apply(shot, {
    frame,
    values: Object.fromEntries(Object.entries(values).map(([name, v]) => [`porter-${name}`, v])),
    autoKey: 'every',
  });

const keysOf = (shot: Shot, channel: string): [frame: number, value: number][] =>
  ((shot.curves.get(`porter-${channel}`) as NumberCurve | undefined)?.keys ?? []).map((k) => [k.frame, k.value]);

const curveOf = (shot: Shot, channel: string) => shot.curves.get(`porter-${channel}`) as NumberCurve;

const isSound = (shot: Shot) => {
  const parsed = parseShot(JSON.parse(JSON.stringify(shot)), harbourRigs());
  expect(parsed.ok ? [] : parsed.problems).toEqual([]);
};

/** A walk as one keys it by hand: the four poses of a step out of the pose book. */
const posedWalk = (): Shot => posedOn(withClip());

function posedOn(empty: Shot): Shot {
  const poses = porterPoses();
  return ['Contact', 'Down', 'Passing', 'Up'].reduce((shot, name, i) => {
    const { values } = poses.find((p) => p.name === name)!;
    return putPose.apply(shot, {
      rig: 'porter',
      pose: values,
      frame: 1 + i * 3,
      share: 1,
      name,
      autoKey: 'every',
      key: true,
    });
  }, empty);
}

describe('the seam of a cycle', () => {
  const free = { halves: 'free' } as const;

  test('is one key: what is keyed at one end is keyed at the other', () => {
    const first = set(set(withClip(free), 1, { 'hips.turn.y': 0.1 }), 9, { 'hips.turn.y': 0.3 });
    expect(keysOf(first, 'hips.turn.y')).toEqual([
      [1, 0.1],
      [9, 0.3],
      [25, 0.1],
    ]);
    const last = set(first, 25, { 'hips.turn.y': -0.2 });
    expect(keysOf(last, 'hips.turn.y')).toEqual([
      [1, -0.2],
      [9, 0.3],
      [25, -0.2],
    ]);
    isSound(last);
  });

  test('goes as one, whichever end is deleted or dragged away', () => {
    const shot = set(set(withClip(free), 1, { 'hips.turn.y': 0.1 }), 9, { 'hips.turn.y': 0.3 });
    const path = 'porter-hips.turn.y';
    for (const end of [1, 25]) {
      expect(keysOf(removeKeys.apply(shot, { keys: { [path]: [end] } }), 'hips.turn.y')).toEqual([[9, 0.3]]);
      const dragged = moveKeys.apply(shot, { keys: { [path]: [end] }, by: end === 1 ? 2 : -2 });
      expect(keysOf(dragged, 'hips.turn.y')).toEqual(
        end === 1
          ? [
              [3, 0.1],
              [9, 0.3],
            ]
          : [
              [9, 0.3],
              [23, 0.1],
            ],
      );
    }
  });

  test('has the same handles on both sides, so that speed goes through it', () => {
    const shot = set(set(set(withClip(free), 1, { 'hips.turn.y': 0 }), 7, { 'hips.turn.y': 0.3 }), 19, {
      'hips.turn.y': -0.3,
    });
    const shaped = setHandleKind.apply(shot, { keys: { 'porter-hips.turn.y': [25] }, side: 'both', kind: 'free' });
    const { keys } = curveOf(shaped, 'hips.turn.y');
    expect(keys[0].in).toEqual(keys[keys.length - 1].in);
    expect(keys[0].out).toEqual(keys[keys.length - 1].out);
    expect(keys[0].out.kind).toBe('free');
  });

  test('a key past the end comes in at the start, and a key in a repeat is one of the cycle', () => {
    const shot = set(set(withClip(free), 1, { 'hips.turn.y': 0 }), 23, { 'hips.turn.y': 0.3 });
    const dragged = moveKeys.apply(shot, { keys: { 'porter-hips.turn.y': [23] }, by: 5 });
    expect(keysOf(dragged, 'hips.turn.y')).toEqual([
      [1, 0],
      [4, 0.3],
      [25, 0],
    ]);
    expect(keysOf(set(shot, 53, { 'hips.turn.y': 0.1 }), 'hips.turn.y')).toContainEqual([5, 0.1]);
  });

  test('without a key there, the way leads on into the next repeat, and the cycle keeps its length', () => {
    const shot = set(set(withClip(free), 5, { 'hips.turn.y': 0 }), 11, { 'hips.turn.y': 0.6 });
    const curve = curveOf(shot, 'hips.turn.y');
    expect(closedCurve(curve).keys.map((k) => k.frame)).toEqual([5, 11, 29]);
    const reader = new CurveReader(curve);
    for (let f = 1; f <= 24; f += 0.25) expect(reader.at(f + 24)).toBeCloseTo(reader.at(f), 12);
    expect(reader.at(20)).toBeCloseTo(0.3, 12);
  });

  test('closes after any edits whatever, and the document stays sound', () => {
    const channel = fc.constantFrom('hips.turn.y', 'footL.move.z', 'armJointR.turn.x', 'body.move.x');
    const edit = fc.tuple(
      fc.constantFrom('set', 'move', 'remove'),
      channel,
      fc.integer({ min: -30, max: 80 }),
      fc.integer({ min: -9, max: 9 }),
    );
    fc.assert(
      fc.property(
        fc.array(edit, { minLength: 1, maxLength: 14 }),
        fc.constantFrom('free' as const, 'mirrored' as const),
        (edits, halves) => {
          let shot = withClip({ halves });
          let history = emptyHistory;
          const start = shot;
          for (const [what, name, frame, by] of edits) {
            const path = `porter-${name}`;
            const frames = (shot.curves.get(path)?.keys ?? [])
              .map((k) => k.frame)
              .filter((_, i) => (i + frame) % 2 === 0);
            const done =
              what === 'set'
                ? perform(shot, changeChannels, { frame, values: { [path]: by / 8 }, autoKey: 'every' })
                : what === 'move'
                  ? perform(shot, moveKeys, { keys: { [path]: frames }, by, collision: 'replace' })
                  : perform(shot, removeKeys, { keys: { [path]: frames } });
            if (!done) continue;
            expect(applyPatches(shot, done.edit.patches)).toEqual(done.shot);
            shot = done.shot;
            history = recorded(history, done.edit);
            isSound(shot);
            for (const curve of shot.curves.values() as NumberCurve[]) {
              const reader = new CurveReader(curve);
              expect(reader.at(25)).toBeCloseTo(reader.at(1), 9);
              expect(reader.at(31.5)).toBeCloseTo(reader.at(7.5), 9);
            }
          }
          for (let step = undo(shot, history); step; step = undo(shot, history)) ({ shot, history } = step);
          expect(shot).toEqual(start);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('mirrored halves', () => {
  test('work on one step makes the other', () => {
    const shot = set(withClip(), 4, { 'footL.move.y': 0.1, 'hips.turn.y': 0.2, 'body.move.y': -0.05 });
    // The other foot stands as it stood, and is lifted half a cycle later.
    expect(keysOf(shot, 'footR.move.y')).toEqual([
      [4, 0],
      [16, 0.1],
    ]);
    expect(keysOf(shot, 'footL.move.y')).toEqual([
      [4, 0.1],
      [16, 0],
    ]);
    expect(keysOf(shot, 'hips.turn.y')).toEqual([
      [4, 0.2],
      [16, -0.2],
    ]);
    expect(keysOf(shot, 'body.move.y')).toEqual([
      [4, -0.05],
      [16, -0.05],
    ]);
    const gone = removeKeys.apply(shot, { keys: { 'porter-hips.turn.y': [16] } });
    expect(keysOf(gone, 'hips.turn.y')).toEqual([]);
  });

  test('both steps of a walk posed by hand are mirror images to the micrometre, joint by joint', () => {
    const shot = posedWalk();
    isSound(shot);
    for (let f = 1; f < 13; f += 0.5) {
      for (const joint of ['foot', 'shin', 'hand', 'forearm']) {
        const left = jointPlace(at(shot, f), 'porter', `${joint}L`);
        const right = jointPlace(at(shot, f + 12), 'porter', `${joint}R`);
        expect(left[0]).toBeCloseTo(-right[0], 6);
        expect(left[1]).toBeCloseTo(right[1], 6);
        expect(left[2]).toBeCloseTo(right[2], 6);
      }
    }
  });

  test('released they are each for themselves; mirrored again the first half leads, or the second', () => {
    const free = setHalves.apply(posedWalk(), { id: 'walk', halves: 'free', leads: 'first' });
    const limping = set(free, 16, { 'body.move.y': -0.2 });
    expect(channelValue(limping, 'porter-body.move.y', 4)).not.toBeCloseTo(-0.2, 3);
    const first = setHalves.apply(limping, { id: 'walk', halves: 'mirrored', leads: 'first' });
    expect(channelValue(first, 'porter-body.move.y', 16)).toBe(channelValue(limping, 'porter-body.move.y', 4));
    const second = setHalves.apply(limping, { id: 'walk', halves: 'mirrored', leads: 'second' });
    expect(channelValue(second, 'porter-body.move.y', 4)).toBe(-0.2);
  });

  test('a pose is put together before it is keyed: what has no keys is left alone, and then both sides are keyed as they stand', () => {
    const posed = changeChannels.apply(withClip(), {
      frame: 1,
      values: { 'porter-footR.heel': 0.35, 'porter-footL.ball': 0.6 },
      autoKey: 'off',
    });
    expect(posed.members.at('porter-footL').values).toEqual({ ball: 0.6 });
    expect(posed.members.at('porter-footR').values).toEqual({ heel: 0.35 });
    const paths = ['L', 'R'].flatMap((m) => ['heel', 'ball'].map((dial) => `porter-foot${m}.${dial}`));
    const keyed = setKeys.apply(posed, { frame: 1, paths });
    for (const [side, other] of ['LR', 'RL'])
      for (const dial of ['heel', 'ball'])
        expect(keysOf(keyed, `foot${side}.${dial}`)).toEqual([
          [1, posed.members.at(`porter-foot${side}`).values[dial] ?? 0],
          [13, posed.members.at(`porter-foot${other}`).values[dial] ?? 0],
          [25, posed.members.at(`porter-foot${side}`).values[dial] ?? 0],
        ]);
  });

  test('every channel has its image half a cycle away', () => {
    const shot = posedWalk();
    for (const member of shot.members.values()) {
      if (member.kind !== 'control') continue;
      const control = harbourRigs().control(member.shape)!;
      for (const { id } of poseChannels(member, shot.rigs)) {
        const curve = shot.curves.get(`${member.id}.${id}`) as NumberCurve | undefined;
        const other = shot.curves.get(`porter-${control.partner ?? control.id}.${id}`) as NumberCurve | undefined;
        if (!curve || !other) continue;
        const [a, b] = [new CurveReader(curve), new CurveReader(other)];
        for (let f = 1; f < 25; f += 1.5) expect(b.at(f + 12)).toBeCloseTo(mirrorSign(control, id) * a.at(f), 9);
      }
    }
  });
});

describe('feet held to the ground', () => {
  const held = (): Shot => {
    const travelling = setTravel.apply(posedWalk(), { id: 'walk', change: { travel: 1.32 } });
    return setStances.apply(travelling, { id: 'walk', control: 'footR', stances: [{ from: 0, to: 14 }] });
  };

  test('go straight back as fast as the body travels, and so does the partner half a cycle later', () => {
    const shot = held();
    expect(clipAtWork(shot, 'porter')!.stances.footL).toEqual([{ from: 12, to: 26 }]);
    const reader = new CurveReader(curveOf(shot, 'footR.move.z'));
    for (let f = 1; f <= 15; f += 0.25) expect(reader.at(f)).toBeCloseTo(reader.at(1) - (1.32 / 24) * (f - 1), 9);
  });

  test('stand still over the stage, to a hundredth of a millimetre, through every repeat', () => {
    const shot = setTravel.apply(held(), { id: 'walk', change: { travelling: true } });
    const sole = (f: number) => jointPlace(at(shot, f), 'porter', 'toesR');
    for (const n of [0, 1, 5]) {
      const stood = sole(n * 24 + 4);
      // Down to up: before, the heel rolls; after, the foot leaves.
      for (let f = 4; f <= 9; f++) {
        const now = sole(n * 24 + f);
        for (let c = 0; c < 3; c++) expect(now[c]).toBeCloseTo(stood[c], 5);
      }
    }
  });

  test('that come down twice in a clip go over from one stance to the next without shooting past either', () => {
    const keyed = [0, 10, 17, 24, 34, 41].reduce(
      (s, f, i) => set(s, 1 + f, { 'footR.move.z': [0.3, -0.3, 0, 0.3, -0.3, 0][i] }),
      setTravel.apply(withClip({ length: 48, halves: 'free' }), { id: 'walk', change: { travel: 2.88 } }),
    );
    const stances = [
      { from: 0, to: 10 },
      { from: 24, to: 34 },
    ];
    const shot = setStances.apply(keyed, { id: 'walk', control: 'footR', stances });
    const reader = new CurveReader(curveOf(shot, 'footR.move.z'));
    for (const [from, to] of [
      [11, 25],
      [35, 49],
    ]) {
      // Where it leaves it goes on back for a moment, and comes down on its way back: a hand's breadth, not a stride.
      for (let f = from; f <= to; f += 0.25) expect(Math.abs(reader.at(f))).toBeLessThan(0.4);
    }
    for (let f = 1; f <= 11; f++) expect(reader.at(f)).toBeCloseTo(reader.at(f + 24), 9);
  });

  test('go as a whole where a hand puts them at any frame of their stance, and the key stays where it was set', () => {
    const shot = set(held(), 6, { 'footR.move.y': -0.005, 'footR.move.x': 0.02 });
    for (const f of [1, 3, 6, 10, 15]) {
      expect(channelValue(shot, 'porter-footR.move.y', f)).toBeCloseTo(-0.005, 12);
      expect(channelValue(shot, 'porter-footR.move.x', f)).toBeCloseTo(0.02, 12);
      expect(channelValue(shot, 'porter-footL.move.x', f + 12)).toBeCloseTo(-0.02, 12);
    }
    expect(keysOf(shot, 'footR.move.y').map(([f]) => f)).toContain(6);
  });

  test('stay held when travel, length or the contact pose change', () => {
    for (const change of [
      (s: Shot) => setTravel.apply(s, { id: 'walk', change: { travel: 1 } }),
      (s: Shot) => resizeClip.apply(s, { id: 'walk', length: 32 }),
      (s: Shot) => set(s, 1, { 'footR.move.z': 0.42 }),
      (s: Shot) => set(s, 15, { 'footR.move.z': -0.5 }),
      (s: Shot) => set(s, 7, { 'footR.move.z': 0.1 }),
    ]) {
      const shot = change(held());
      isSound(shot);
      const clip = clipAtWork(shot, 'porter')!;
      const [{ from, to }] = clip.stances.footR;
      const reader = new CurveReader(curveOf(shot, 'footR.move.z'));
      const speed = clip.travel / clip.length;
      for (let f = from; f <= to; f += 0.5)
        expect(reader.at(clip.first + f)).toBeCloseTo(reader.at(clip.first + from) - speed * (f - from), 9);
    }
  });
});

describe('clips of a rig', () => {
  test('taken up and laid by, each keeps its keys', () => {
    const walk = posedWalk();
    const both = addClip.apply(walk, { clip: newClip(walk, 'porter', { id: 'idle', name: 'Idle' }) });
    expect(both.curves.keys()).toEqual([]);
    const idle = set(both, 5, { 'chest.turn.x': 0.1 });
    isSound(idle);
    const back = takeUpClip.apply(idle, { id: 'walk' });
    expect(back.curves).toEqual(walk.curves);
    expect(takeUpClip.apply(back, { id: 'idle' }).curves).toEqual(idle.curves);
  });

  test('begins on another frame with all its keys, taken up or laid by', () => {
    const walk = posedWalk();
    const both = addClip.apply(walk, { clip: newClip(walk, 'porter', { id: 'idle', name: 'Idle' }) });
    const byItself = moveClip.apply(walk, { id: 'walk', first: 31 });
    isSound(byItself);
    expect(keysOf(byItself, 'footR.move.z')).toEqual(keysOf(walk, 'footR.move.z').map(([f, v]) => [f + 30, v]));
    const laidBy = takeUpClip.apply(moveClip.apply(both, { id: 'walk', first: 31 }), { id: 'walk' });
    expect(laidBy.curves).toEqual(byItself.curves);
    expect(moveClip.apply(byItself, { id: 'walk', first: 1 }).curves).toEqual(walk.curves);
  });

  test('a copy is another clip with the same keys; deleting it leaves the first', () => {
    const walk = posedWalk();
    const copied = copyClip.apply(walk, { id: 'walk', copy: 'weary', name: 'Weary' });
    expect(copied.curves).toEqual(walk.curves);
    expect(clipAtWork(copied, 'porter')!.name).toBe('Weary');
    const gone = takeUpClip.apply(removeClip.apply(copied, { id: 'weary', keys: 'take' }), { id: 'walk' });
    expect(gone.curves).toEqual(walk.curves);
  });

  test('let go of, its keys go on cycling as they did', () => {
    const walk = set(set(withClip({ halves: 'free' }), 5, { 'hips.turn.y': 0 }), 11, { 'hips.turn.y': 0.6 });
    const plain = removeClip.apply(walk, { id: 'walk', keys: 'keep' });
    const [a, b] = [new CurveReader(curveOf(walk, 'hips.turn.y')), new CurveReader(curveOf(plain, 'hips.turn.y'))];
    for (let f = -20; f <= 80; f += 0.5) expect(b.at(f)).toBeCloseTo(a.at(f), 9);
    expect(curveOf(plain, 'hips.turn.y').period).toBeUndefined();
  });

  test('that no longer repeats holds its last pose', () => {
    const shot = setCycles.apply(posedWalk(), { id: 'walk', cycles: false });
    isSound(shot);
    const reader = new CurveReader(curveOf(shot, 'body.move.y'));
    expect(reader.at(40)).toBe(reader.at(25));
  });

  test('twice as fast and then half as fast is where it was, when keys stand on even frames', () => {
    const shot = set(set(withClip(), 1, { 'hips.turn.y': 0.1 }), 5, { 'hips.turn.y': 0.3 });
    const fast = resizeClip.apply(shot, { id: 'walk', length: 12 });
    expect(keysOf(fast, 'hips.turn.y').map(([f]) => f)).toEqual([1, 3, 7, 9, 13]);
    expect(resizeClip.apply(fast, { id: 'walk', length: 24 }).curves).toEqual(shot.curves);
  });

  test('made as short as can be and as long again no key and no stance is lost, and no frame has two names', () => {
    const travelling = setTravel.apply(posedWalk(), { id: 'walk', change: { travel: 1.32 } });
    const walk = setStances.apply(travelling, { id: 'walk', control: 'footR', stances: [{ from: 0, to: 14 }] });
    const short = resizeClip.apply(walk, { id: 'walk', length: 1 });
    isSound(short);
    expect(short.clips.at('walk').length).toBe(4);
    const again = resizeClip.apply(short, { id: 'walk', length: 24 });
    isSound(again);
    for (const [path, curve] of walk.curves.entries())
      expect(again.curves.at(path).keys.length, path).toBe(curve.keys.length);
    expect(keysOf(again, 'hips.turn.z')).toEqual(
      keysOf(walk, 'hips.turn.z').map(([f, v]) => [f, expect.closeTo(v, 9)]),
    );
    const named = short.clips.at('walk').labels.map((l) => l.frame);
    expect(new Set(named).size).toBe(named.length);
    expect(Object.keys(again.clips.at('walk').stances).sort()).toEqual(['footL', 'footR']);
  });

  test('shifted round the cycle a curve is the same, so many frames later, with a key at the seam', () => {
    const shot = posedWalk();
    const later = shiftInCycle.apply(shot, { id: 'walk', by: { 'porter-handL': 5, 'porter-handR': 5 } });
    const [a, b] = [new CurveReader(curveOf(shot, 'handL.move.z')), new CurveReader(curveOf(later, 'handL.move.z'))];
    for (let f = 1; f < 25; f += 0.25) expect(b.at(f + 5)).toBeCloseTo(a.at(f), 9);
    expect(keysOf(later, 'handL.move.z')[0][0]).toBe(1);
    expect(clipAtWork(later, 'porter')!.halves).toBe('mirrored');
  });

  test('two clips at work for one rig, or a seam torn open, are refused with a sentence', () => {
    const walk = posedWalk();
    const clip = walk.clips.at('walk');
    const twice = parseShot(
      { ...walk, clips: walk.clips.with('other', { ...clip, id: 'other', name: 'Other' }) },
      harbourRigs(),
    );
    expect(twice.ok ? '' : twice.problems[0].sentence).toContain('one clip at a time');
    const path = 'porter-body.move.y';
    const curve = curveOf(walk, 'body.move.y');
    const torn = parseShot(
      {
        ...walk,
        curves: walk.curves.with(path, { ...curve, keys: curve.keys.slice(0, -1) }),
      },
      harbourRigs(),
    );
    expect(torn.ok ? '' : torn.problems[0].sentence).toContain('does not close at the seam of the clip "Walk"');
  });

  test('older documents have none', () => {
    const { clips: _, ...old } = { ...emptyShot('old', 'Old'), version: 4 };
    const parsed = parseShot(JSON.parse(JSON.stringify(old)), harbourRigs());
    expect(parsed.ok && parsed.value.clips.toJSON()).toEqual({});
  });
});

describe('keys set down with their sides changed', () => {
  test('are the other step of a walk by hand: frames 1 to 10 again at 13, left on the right', () => {
    const first = shotWith('porter');
    const free = addClip.apply(first, { clip: newClip(first, 'porter', { id: 'walk', halves: 'free' }) });
    const step = posedOn(free);
    const keys = Object.fromEntries(step.curves.entries().map(([path, c]) => [path, c.keys.map((k) => k.frame)]));
    const own = Object.fromEntries(
      Object.entries(keys).map(([path, frames]) => [path, frames.filter((f) => f >= 1 && f <= 10)]),
    );
    const carried = mirroredKeys(step, carryKeys(step, own));
    const whole = perform(step, putDownKeys, { carried, frame: 13 })!.shot;
    // The mirror of the walk whose halves mirror by themselves.
    const byItself = posedWalk();
    for (const [path, curve] of byItself.curves.entries()) {
      const there = whole.curves.get(path) as NumberCurve | undefined;
      expect(
        there?.keys.map((k) => k.frame),
        path,
      ).toEqual(curve.keys.map((k) => k.frame));
      (curve as NumberCurve).keys.forEach((k, i) => {
        expect(there!.keys[i].value, `${path} at ${k.frame}`).toBeCloseTo(k.value, 12);
      });
    }
    // Twice changed they are what they were.
    expect(mirroredKeys(step, carried)).toEqual(carryKeys(step, own));
  });
});

describe('controls that do nothing', () => {
  test('are those that turn the joints of limbs which reach', () => {
    const shot = shotWith('porter');
    const idle = idleControls(shot, 'porter');
    expect([...idle].sort()).toEqual(
      ['thighJoint', 'shinJoint', 'footJoint', 'armJoint', 'forearmJoint', 'handJoint']
        .flatMap((c) => [`porter-${c}L`, `porter-${c}R`])
        .sort(),
    );
    const turned = set(shot, 1, { 'handL.reach': 0 });
    const left = idleControls(turned, 'porter');
    expect(['armJointL', 'forearmJointL', 'handJointL'].filter((c) => left.has(`porter-${c}`))).toEqual([]);
    expect(left.has('porter-armJointR')).toBe(true);
  });
});
