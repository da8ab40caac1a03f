import { turnOf } from '../pose/affine.ts';
import { type Angles, quaternionToAngles } from '../pose/angles.ts';
import { runsOf } from './bodies.ts';
import { type Check, type Draft, frameText } from './check.ts';
import type { WatchedCycle } from './cycles.ts';

/** What a walk's body does over a cycle: hips, head, arms. */

const q = new Float64Array(4);

/** How far a part turns about each of its axes over a cycle, degrees: x nods, y turns, z tilts. */
function turnRanges(matrices: Float64Array, frames: number): Angles {
  const low: Angles = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const high: Angles = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  let near: Angles = [0, 0, 0];
  for (let i = 0; i < frames; i++) {
    turnOf(q, 0, matrices, i * 16);
    near = quaternionToAngles([q[0], q[1], q[2], q[3]], 'zxy', near);
    for (let c = 0; c < 3; c++) {
      low[c] = Math.min(low[c], near[c]);
      high[c] = Math.max(high[c], near[c]);
    }
  }
  return high.map((h, c) => ((h - low[c]) * 180) / Math.PI) as Angles;
}

/** Cycles that get somewhere: not those that stand and breathe. */
const walks = (cycles: readonly WatchedCycle[]) =>
  cycles.filter(({ clip, feet }) => feet.length > 0 && clip !== null && Math.abs(clip.travel) > 0.01);

export const stiffHips: Check = {
  id: 'stiffHips',
  name: 'Stiff hips',
  why: 'The hips turn with the forward leg and tilt to the free one. Where they do neither, legs swing under a board.',
  unit: '°',
  tolerance: 3,
  most: 30,
  step: 0.5,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of walks(watched.wholeCycles)) {
      if (!cycle.hips) continue;
      const [, turn, tilt] = turnRanges(cycle.hips, cycle.length);
      const most = Math.max(turn, tilt);
      if (most < tolerance)
        yield {
          member: cycle.rig,
          frame: cycle.first,
          value: most,
          text: `${watched.name(cycle.rig)}: the hips turn by ${turn.toFixed(1)}° and tilt by ${tilt.toFixed(1)}° in the whole cycle.`,
        };
      yield null;
    }
  },
};

export const headUnsteady: Check = {
  id: 'headUnsteady',
  name: 'Head unsteady',
  why: 'The head is the steadiest part of whoever walks: it looks where it goes. One that goes along with every step makes the eye tired.',
  unit: '°',
  tolerance: 12,
  most: 90,
  step: 1,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of walks(watched.wholeCycles)) {
      if (!cycle.head) continue;
      const ranges = turnRanges(cycle.head, cycle.length);
      const most = Math.max(...ranges);
      const how = ['nods', 'turns', 'tilts'][ranges.indexOf(most)];
      if (most > tolerance)
        yield {
          member: cycle.rig,
          frame: cycle.first,
          value: most,
          text: `${watched.name(cycle.rig)}: the head ${how} by ${most.toFixed(0)}° over the cycle. The kit Steady keeps it still.`,
        };
      yield null;
    }
  },
};

/** What moves less than this over a cycle swings neither with anything nor against it, metres. */
const SWINGS = 0.05;

/** Positions along z of a joint over a cycle, without their mean. */
function forward({ placed, joints, length }: WatchedCycle, joint: string): Float64Array {
  const count = placed.compiled.rig.joints.length;
  const j = placed.compiled.jointAt.get(joint)!;
  const out = Float64Array.from({ length }, (_, i) => joints[(i * count + j) * 3 + 2]);
  const mean = out.reduce((s, v) => s + v / length, 0);
  return out.map((v) => v - mean);
}

const spread = (x: Float64Array) => Math.max(...x) - Math.min(...x);

/** A leg further out than this share of its way is about to come down, or to leave. */
const OUT = 0.7;

/**
 * The frames in which a leg is furthest out, forward or back, and its arm is out on the same side, with how far out the arm is, % of
 * its swing to that side. A cycle that swings right as a whole may have one pose of it wrong.
 */
function inStep(armWay: Float64Array, legWay: Float64Array, tolerance: number): { i: number; value: number }[] {
  const [arm, leg] = [aboutMiddle(armWay), aboutMiddle(legWay)];
  const count = leg.length;
  const most = (x: Float64Array, side: number) => Math.max(...x.map((v) => v * side));
  const out: { i: number; value: number }[] = [];
  for (const side of [1, -1]) {
    const [armMost, legMost] = [most(arm, side), most(leg, side)];
    const share = (i: number) => ((arm[i] * side) / armMost) * 100;
    // Begin where the leg is out on the other side, so that a run through the seam is one.
    const start = leg.indexOf(side * -most(leg, -side));
    const at = (k: number) => (start + k) % count;
    for (const [from, to] of runsOf(count, (k) => leg[at(k)] * side > OUT * legMost)) {
      let contact = at(from);
      for (let k = from; k <= to; k++) if (leg[at(k)] * side > leg[contact] * side) contact = at(k);
      if (share(contact) > tolerance) out.push({ i: contact, value: share(contact) });
    }
  }
  return out;
}

/** A way about the middle between its ends. */
function aboutMiddle(path: Float64Array): Float64Array {
  const middle = (Math.max(...path) + Math.min(...path)) / 2;
  return path.map((v) => v - middle);
}

export const armWithLeg: Check = {
  id: 'armWithLeg',
  name: 'Arm in step with its leg',
  why: 'The left arm goes forward with the right leg. An arm that swings with the leg of its own side makes a camel of whoever walks.',
  unit: '%',
  tolerance: 30,
  most: 100,
  step: 5,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of walks(watched.wholeCycles)) {
      const { controls, limbs } = cycle.placed.compiled.rig;
      const side = (id: string) => controls.find((c) => c.id === id)?.side;
      const arms = limbs.filter((l) => l.target.is === 'control');
      if (cycle.feet.length !== 2) continue;
      for (const arm of arms) {
        const foot = cycle.feet.find((f) => side(f.control) === side(arm.dials));
        if (!foot) continue;
        const [a, b] = [forward(cycle, arm.end), forward(cycle, foot.limb.end)];
        const dot = (x: Float64Array, y: Float64Array) => x.reduce((s, v, i) => s + v * y[i], 0);
        if (spread(a) < SWINGS || spread(b) < SWINGS) continue;
        const share = (dot(a, b) / Math.sqrt(dot(a, a) * dot(b, b))) * 100;
        if (share > tolerance) {
          const i = b.indexOf(Math.max(...b));
          yield {
            member: foot.member,
            frame: cycle.first + i,
            value: share,
            text: `${watched.name(cycle.rig)}: ${arm.name} swings in step with ${foot.limb.name}, by ${share.toFixed(0)} %: both are forward at ${frameText(cycle.first + i)}.`,
          };
          continue;
        }
        for (const { i, value } of inStep(a, b, tolerance))
          yield {
            member: foot.member,
            frame: cycle.first + i,
            value,
            text: `${watched.name(cycle.rig)}: ${arm.name} is ${b[i] > 0 ? 'forward' : 'back'} with ${foot.limb.name} at ${frameText(cycle.first + i)}, by ${value.toFixed(0)} % of its swing.`,
          };
      }
      yield null;
    }
  },
};

/** Hips that rise and sink by less than this are level, metres. */
const LEVEL = 4e-3;

export const hipsTiming: Check = {
  id: 'hipsTiming',
  name: 'Hips low or high at the wrong pose',
  why: 'The weight lands at down, where the hips are lowest, and is carried over to up, where they are highest. Otherwise the body floats or pumps.',
  unit: 'frames',
  tolerance: 2,
  most: 24,
  step: 1,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of walks(watched.wholeCycles)) {
      const { clip, hips, length } = cycle;
      if (!clip || !hips || cycle.feet.length !== 2) continue;
      const height = (i: number) => hips[i * 16 + 13];
      const step = Math.round(length / Math.max(1, clip.labels.filter((l) => l.pose === 'contact').length));
      for (const { frame: meant, pose } of clip.labels) {
        if (pose !== 'down' && pose !== 'up') continue;
        // Of the step around the pose, the frame that is lowest or highest.
        const around = Array.from({ length: step }, (_, k) => (meant - Math.floor(step / 2) + k + length) % length);
        const sign = pose === 'up' ? 1 : -1;
        const extreme = around.reduce((best, i) => (sign * height(i) > sign * height(best) ? i : best), meant);
        if (Math.max(...around.map(height)) - Math.min(...around.map(height)) < LEVEL) continue;
        const gap = Math.abs(extreme - meant);
        const off = Math.min(gap, length - gap);
        if (off > tolerance)
          yield {
            member: cycle.rig,
            frame: cycle.first + extreme,
            value: off,
            text: `${watched.name(cycle.rig)}: the hips are ${pose === 'up' ? 'highest' : 'lowest'} at ${frameText(cycle.first + extreme)}, ${off} frames from ${pose} at ${frameText(cycle.first + meant)}.`,
          };
      }
      yield null;
    }
  },
};
