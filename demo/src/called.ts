import {
  addClip,
  type Clip,
  type ClipSpan,
  type Curve,
  channelPath,
  clipAtWork,
  controlsOf,
  type Follow,
  type Key,
  layByClip,
  type Manner,
  type NumberCurve,
  newClip,
  plainSpan,
  putTrack,
  type Recipe,
  type Shot,
  setFollow,
  setManner,
} from '@varrup/core';
import { porterPoses } from './rigs/poses/porter.ts';
import { gaitSettings, withGait } from './walking.ts';

/** Clips one can ask somebody of the cast for, and how they go over into one another. */

/** What a trot has more of than a walk. */
const lively = { cadence: 10, stride: 68, bob: 4.4, spring: 50, lift: 17, tail: 26 };

type Leads = readonly (readonly [from: string, to: string, over: number, by: Follow['by']])[];

const withFollows = (shot: Shot, leads: Leads): Shot =>
  leads.reduce((s, [id, next, over, by]) => setFollow.apply(s, { id, next, how: { over, by } }), shot);

/** Lays a rig's clip at work by: its tracks play then, or nothing does. */
export function laidBy(shot: Shot, rig: string): Shot {
  const work = clipAtWork(shot, rig);
  return work ? layByClip.apply(shot, { id: work.id }) : shot;
}

/** A walk, a trot and a bound for a goat; the arrows up and down lead from one to the next. They are called as the goat is: `goat-walk`. */
export function withGaits(shot: Shot, goat: string): Shot {
  const gaits = [
    { id: 'bound', name: 'Bound', settings: gaitSettings(shot, goat, { pattern: 'bound' }) },
    { id: 'trot', name: 'Trot', settings: gaitSettings(shot, goat, { pattern: 'trot' }, lively) },
    { id: 'walk', name: 'Walk', settings: gaitSettings(shot, goat, { pattern: 'walk' }) },
  ];
  const walking = gaits.reduce((s, { id, name, settings }) => {
    const fresh = addClip.apply(s, { clip: newClip(s, goat, { id: `${goat}-${id}`, name }) });
    return withGait(fresh, goat, { name, settings, travelling: true });
  }, shot);
  const [walk, trot, bound] = ['walk', 'trot', 'bound'].map((id) => `${goat}-${id}`);
  return withFollows(walking, [
    [walk, trot, 12, 'up'],
    [trot, bound, 12, 'up'],
    [bound, trot, 12, 'down'],
    [trot, walk, 12, 'down'],
  ]);
}

const key = (frame: number, value: number, kind: 'smooth' | 'flat' = 'smooth'): Key => ({
  frame,
  value,
  in: { kind },
  out: { kind },
  joined: true,
  role: 'key',
});

/** Curves of a rig from the numbers of its channels, frame by frame; the first frame of the clip is the shot's. */
function keyed(
  shot: Shot,
  rig: string,
  lines: Readonly<Record<string, readonly (readonly [frame: number, value: number, kind?: 'flat'])[]>>,
): Record<string, Curve> {
  const members = new Map(controlsOf(shot, rig).map((c) => [c.shape.control, c.id]));
  const first = shot.play.first;
  return Object.fromEntries(
    Object.entries(lines).map(([name, line]): [string, NumberCurve] => {
      const dot = name.indexOf('.');
      const path = channelPath(members.get(name.slice(0, dot))!, name.slice(dot + 1));
      const keys = line.map(([frame, value, kind]) => key(first + frame, value, kind ?? 'smooth'));
      return [path, { type: 'number', keys, before: 'hold', after: 'hold' }];
    }),
  );
}

const poseCalled = (name: string): Record<string, number> =>
  porterPoses().find((p) => p.name === name)!.values as Record<string, number>;

/** How long one breath is, frames. */
const BREATH = 56;

/** Standing easy, and breathing: the chest opens and the shoulders rise, the weight goes a little from the one leg to the other. */
function standing(shot: Shot, rig: string): Record<string, Curve> {
  const channels = new Set(controlsOf(shot, rig).map((c) => c.shape.control));
  const easy = poseCalled('Stand easy');
  // Knees a little bent, so that there is room to breathe.
  const stand = Object.entries({ ...easy, 'body.move.y': easy['body.move.y'] - 0.024 }).filter(([name]) =>
    channels.has(name.split('.')[0]),
  );
  const breath: Readonly<Record<string, readonly [most: number, late: number]>> = {
    'body.move.y': [0.004, 0],
    'body.move.x': [-0.006, 10],
    'chest.turn.x': [-0.022, 2],
    'shoulderL.turn.z': [0.03, 3],
    'shoulderR.turn.z': [-0.03, 3],
    'head.turn.x': [0.016, 6],
  };
  return keyed(
    shot,
    rig,
    Object.fromEntries(
      stand.map(([name, value]) => {
        const [most, late] = breath[name] ?? [0, 0];
        if (most === 0) return [name, [[0, value]]];
        const half = BREATH / 2;
        // In over less than half of it, out over the rest; a round later all is as it was.
        const out = late === 0 ? [] : ([[late - half, value + most, 'flat']] as const);
        return [
          name,
          [...out, [late, value, 'flat'], [late + half - 4, value + most, 'flat'], [late + BREATH, value, 'flat']],
        ];
      }),
    ),
  );
}

/** When the arm is up, when it has waved once to either side, and when it is down again. */
const [UP, WAVED, DOWN] = [12, 24, 38];

/** A hail with the arm: up with a swing, waved for as long as it is wanted, and down. What repeats is one wave to either side. */
function hailing(shot: Shot, rig: string): Record<string, Curve> {
  // Higher and further ahead than the wave of the book: it is for somebody who comes from there.
  const wave: Record<string, number> = {
    ...poseCalled('Wave'),
    'handR.move.x': -0.07,
    'handR.move.y': 0.82,
    'handR.move.z': 0.27,
  };
  const [x, ahead, tilt] = [wave['handR.move.x'], wave['handR.move.z'], poseCalled('Wave')['handR.turn.z']];
  const middle = (UP + WAVED) / 2;
  /** Up from rest with a little too much, held while it waves, and down. */
  const raised = (name: string, late = 0) =>
    [
      [0, 0, 'flat'],
      [4 + late, -0.04 * wave[name], 'flat'],
      [UP - 2 + late, 1.05 * wave[name], 'flat'],
      [UP + 3 + late, wave[name], 'flat'],
      [WAVED + 1, wave[name], 'flat'],
      [DOWN - 3 + late, -0.03 * wave[name], 'flat'],
      [DOWN, 0, 'flat'],
    ] as const;
  return keyed(shot, rig, {
    // A walk swings the arm joint by joint; the hail reaches.
    'handR.reach': [[0, 1]],
    'handR.move.y': raised('handR.move.y'),
    'handR.move.z': [
      [0, 0, 'flat'],
      [4, -0.03, 'flat'],
      [UP, ahead - 0.05, 'flat'],
      [middle, ahead + 0.06, 'flat'],
      [WAVED, ahead - 0.05, 'flat'],
      [DOWN, 0, 'flat'],
    ],
    'shoulderR.turn.z': raised('shoulderR.turn.z'),
    'elbowR.move.x': raised('elbowR.move.x'),
    // Out and in from side to side; the hand follows the arm.
    'handR.move.x': [
      [0, 0, 'flat'],
      [UP, x - 0.07, 'flat'],
      [middle, x + 0.06, 'flat'],
      [WAVED, x - 0.07, 'flat'],
      [DOWN, 0, 'flat'],
    ],
    'handR.turn.z': [
      [0, 0, 'flat'],
      [UP - 3, tilt - 0.1],
      [UP, tilt + 0.1],
      [middle - 4, tilt + 0.28, 'flat'],
      [WAVED - 4, tilt - 0.24, 'flat'],
      [WAVED, tilt + 0.1],
      [DOWN - 2, 0.08, 'flat'],
      [DOWN, 0, 'flat'],
    ],
    'fingersR.fist': [
      [0, 0.22, 'flat'],
      [UP - 2, 0, 'flat'],
      [WAVED + 2, 0, 'flat'],
      [DOWN, 0.22, 'flat'],
    ],
    'fingersR.spread': [
      [0, 0, 'flat'],
      [UP - 1, 0.7, 'flat'],
      [WAVED + 1, 0.7, 'flat'],
      [DOWN, 0, 'flat'],
    ],
    'chest.turn.z': [
      [0, 0, 'flat'],
      [UP, 0.07, 'flat'],
      [middle, 0.045, 'flat'],
      [WAVED, 0.07, 'flat'],
      [DOWN, 0, 'flat'],
    ],
    'head.turn.y': [
      [0, 0, 'flat'],
      [5, 0.02, 'flat'],
      [UP, -0.5, 'flat'],
      [WAVED, -0.5, 'flat'],
      [DOWN, 0, 'flat'],
    ],
    'head.turn.x': [
      [0, 0, 'flat'],
      [UP, -0.12, 'flat'],
      [WAVED, -0.12, 'flat'],
      [DOWN, 0, 'flat'],
    ],
  });
}

/** What a hail moves: the arm, the head, and half of it the chest, which goes on walking. */
const hailed: Partial<Manner> = {
  key: 's',
  controls: ['chest', 'head', 'shoulderR', 'handR', 'elbowR', 'fingersR'],
  edge: 1,
  rank: 1,
  easeIn: 12,
  easeOut: 12,
  loop: { from: UP, to: WAVED },
};

/** A stand, a walk and a hail for a porter; up and down lead from the stand to the walk and back, S hails. */
export function withErrands(shot: Shot, porter: string, walkIs = 'Walk', dials: Recipe['settings'] = {}): Shot {
  const [stand, walk, hail] = ['stand', 'walk', 'hail'].map((id) => `${porter}-${id}`);
  const still: Partial<Clip> = { cycles: true, halves: 'free', labels: [] };
  const feet = { footL: [{ from: 0, to: BREATH }], footR: [{ from: 0, to: BREATH }] };
  const clips = [
    newClip(shot, porter, {
      ...still,
      id: stand,
      name: 'Stand',
      length: BREATH,
      stances: feet,
      kept: { curves: standing(shot, porter), recipes: {} },
    }),
    newClip(shot, porter, {
      ...still,
      id: hail,
      name: 'Hail',
      cycles: false,
      length: DOWN,
      kept: { curves: hailing(shot, porter), recipes: {} },
    }),
  ];
  const fresh = { ...shot, clips: shot.clips.withAll(clips.map((c) => [c.id, c])) };
  const begun = addClip.apply(fresh, { clip: newClip(fresh, porter, { id: walk, name: walkIs }) });
  const settings = gaitSettings(begun, porter, { character: 'plain' }, dials);
  const walking = withGait(begun, porter, { name: walkIs, settings, travelling: true });
  const manners = setManner.apply(laidBy(walking, porter), { id: hail, change: hailed });
  return withFollows(manners, [
    [stand, walk, 10, 'up'],
    [walk, stand, 12, 'down'],
  ]);
}

/** Lays clips of a rig on a new track: from when, how many frames, and what is otherwise than plain. */
export function onTrack(
  shot: Shot,
  rig: string,
  { name, rank }: { name: string; rank: number },
  spans: readonly (Partial<ClipSpan> & Pick<ClipSpan, 'clip' | 'from' | 'length'>)[],
): Shot {
  const track = { id: `${rig}-track${rank}`, rig, name, rank, muted: false, alone: false, locked: false, own: false };
  return putTrack.apply(shot, {
    track: { ...track, spans: spans.map((s, i) => ({ ...plainSpan, id: `${track.id}-${i}`, ...s })) },
  });
}
