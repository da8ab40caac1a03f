import { StandingCapsules } from '../body/capsules.ts';
import type { Shot } from '../document/shot.ts';
import { runsOf, type WatchedBody } from './bodies.ts';
import { type Check, type Draft, frameText, metresText } from './check.ts';
import { bringTo, depthIn, watchedPieces } from './pieces.ts';
import type { Watched } from './watched.ts';

/** The parts of a body that are seen to go into something: hands, feet, head, hips. Where a knee points is no part. */
const partsOf = (body: WatchedBody): { id: string; at: number }[] => {
  const { controls, limbs } = body.placed.compiled.rig;
  const ends = new Set(limbs.flatMap((l) => (l.target.is === 'control' ? [l.target.id] : [])));
  return controls.flatMap((control, at) =>
    ends.has(control.id) || control.id === 'head' || control.id === 'hips' || control.id === 'chest'
      ? [{ id: control.id, at }]
      : [],
  );
};

/** How deep a part is in something, frame by frame: millimetres. */
interface Depth {
  readonly body: WatchedBody;
  readonly part: string;
  readonly into: string;
  readonly depth: Float64Array;
}

/** Who is who's: a hand and what it holds go into one another, a rider and a saddle too. By member, that of a figure for all of its controls. */
function bondsOf(shot: Shot): (a: string, b: string) => boolean {
  const whole = (id: string): string => {
    const member = shot.members.get(id);
    return member?.kind === 'control' && member.parent !== null ? member.parent : id;
  };
  const bound = new Set<string>();
  const bind = (a: string, b: string) => {
    bound.add(`${whole(a)} ${whole(b)}`);
    bound.add(`${whole(b)} ${whole(a)}`);
  };
  for (const { id, parent, holds } of shot.members.values()) {
    if (parent !== null) bind(id, parent);
    for (const { by } of holds) if (by.is === 'member') bind(id, by.member);
  }
  return (a, b) => bound.has(`${whole(a)} ${whole(b)}`);
}

/** How deep the parts of bodies are in the things of a shot. */
function* depthsInPieces(watched: Watched, bonds: (a: string, b: string) => boolean): Iterable<Depth | null> {
  const bodies = watched.bodies.filter((body) => !watched.keptInPlace.has(body.rig));
  const set = bodies.length > 0 ? watchedPieces(watched) : [];
  for (const body of bodies) {
    const count = body.placed.compiled.rig.controls.length;
    const parts = partsOf(body);
    for (const piece of set) {
      if (bonds(body.rig, piece.id)) continue;
      const depths = parts.map(() => new Float64Array(watched.frames));
      for (let i = 0; i < watched.frames; i++) {
        bringTo(piece, i);
        parts.forEach(({ at }, p) => {
          const place = (i * count + at) * 3;
          const { places } = body;
          depths[p][i] = depthIn(piece, places[place], places[place + 1], places[place + 2]) * 1000;
        });
      }
      for (const [p, { id }] of parts.entries()) yield { body, part: id, into: piece.id, depth: depths[p] };
    }
    yield null;
  }
}

/** A body reaches this much further than its joints do. Metres. */
const BEYOND = 0.25;

/** What a body fills, and at which frame that was worked out. */
interface Filled {
  readonly capsules: StandingCapsules;
  readonly reach: number;
  at: number;
}

/** One body's parts, and another one. */
interface Meeting {
  readonly one: WatchedBody;
  readonly parts: readonly { readonly id: string; readonly at: number }[];
  readonly other: WatchedBody;
  /** A part a row, a frame a column; none before they have come near one another. */
  depths: Float64Array[] | null;
}

/** How deep the parts of bodies are in other bodies. Only frames on which two of them are near are looked at once more. */
function* depthsInBodies(watched: Watched, bonds: (a: string, b: string) => boolean): Iterable<Depth | null> {
  const bodies = watched.bodies.filter((body) => !watched.keptInPlace.has(body.rig));
  if (bodies.length < 2) return;
  const filled = new Map(
    bodies.map((body): [WatchedBody, Filled] => [
      body,
      { capsules: new StandingCapsules(body.placed), reach: reachOf(watched, body), at: -1 },
    ]),
  );
  const meetings = bodies.flatMap((one): Meeting[] => {
    const parts = partsOf(one);
    const others = parts.length === 0 ? [] : bodies.filter((other) => other !== one && !bonds(one.rig, other.rig));
    return others.map((other) => ({ one, parts, other, depths: null }));
  });
  for (let i = 0; i < watched.frames; i++) {
    for (const meeting of meetings) {
      const { one, other } = meeting;
      const [a, b] = [one.centre, other.centre];
      const apart = Math.hypot(a[i * 3] - b[i * 3], a[i * 3 + 1] - b[i * 3 + 1], a[i * 3 + 2] - b[i * 3 + 2]);
      const there = filled.get(other)!;
      if (!(apart < filled.get(one)!.reach + there.reach)) continue;
      if (there.at !== i) there.capsules.stand(watched.at(watched.first + i));
      there.at = i;
      noteDepths(meeting, there.capsules, watched.frames, i);
    }
    if (i % 20 === 19) yield null;
  }
  for (const { one, parts, other, depths } of meetings)
    for (const [p, { id }] of parts.entries())
      if (depths) yield { body: one, part: id, into: other.rig, depth: depths[p] };
}

function noteDepths(meeting: Meeting, filled: StandingCapsules, frames: number, i: number): void {
  const { places, placed } = meeting.one;
  const count = placed.compiled.rig.controls.length;
  for (const [p, { at }] of meeting.parts.entries()) {
    const place = (i * count + at) * 3;
    const depth = filled.depth(places[place], places[place + 1], places[place + 2]);
    if (depth <= 0) continue;
    meeting.depths ??= meeting.parts.map(() => new Float64Array(frames));
    meeting.depths[p][i] = depth * 1000;
  }
}

/** How far a body reaches from its middle, at its first frame and a good deal beyond that. */
function reachOf(watched: Watched, { placed, centre }: WatchedBody): number {
  const { world } = watched.at(watched.first);
  let most = 0;
  placed.compiled.rig.joints.forEach((_, j) => {
    const at = (placed.joints + j) * 16 + 12;
    most = Math.max(most, Math.hypot(world[at] - centre[0], world[at + 1] - centre[1], world[at + 2] - centre[2]));
  });
  return most * 1.3 + BEYOND;
}

export const goesInto: Check = {
  id: 'goesInto',
  name: 'Goes into another',
  why: 'A hand in a wall, a foot in a crate, an elbow in a neighbour: what is solid stops what is solid. Even a finger’s breadth makes both of them smoke.',
  unit: 'mm',
  tolerance: 30,
  most: 500,
  step: 5,
  weight: 'fault',
  *look(watched: Watched, tolerance): Iterable<Draft | null> {
    const bonds = bondsOf(watched.shot);
    for (const looked of [depthsInPieces, depthsInBodies])
      for (const found of looked(watched, bonds)) {
        if (found === null) yield null;
        else yield* told(watched, found, tolerance);
      }
  },
};

function* told(watched: Watched, { body, part, into, depth }: Depth, tolerance: number): Iterable<Draft> {
  for (const [from, to] of runsOf(watched.frames, (i) => depth[i] > tolerance)) {
    let worst = from;
    for (let i = from; i <= to; i++) if (depth[i] > depth[worst]) worst = i;
    const member = body.member(watched.frame, part);
    yield {
      member,
      frame: watched.first + worst,
      until: watched.first + to,
      value: depth[worst],
      text: `${watched.name(body.rig)}: ${watched.name(member)} is ${metresText(depth[worst] / 1000)} in ${watched.name(into)} at ${frameText(watched.first + worst)}.`,
    };
  }
}
