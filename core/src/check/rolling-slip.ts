import { channelPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { firstSettings } from '../kit/kit.ts';
import { cook } from '../kit/recipe.ts';
import { roll } from '../kit/roll.ts';
import type { Check, Draft } from './check.ts';
import type { Watched } from './watched.ts';

/** It rolls while it is nearer to the ground than this, and goes further than this in a frame. Metres. */
const TOUCHES = 2e-3;
const GOES = 5e-4;

export const rollingSlip: Check = {
  id: 'rollingSlip',
  name: 'Rolling ball slips',
  why: 'What touches the ground of a rolling ball stands still for that instant. If it slips, the ball slides as on ice, and its size no longer shows.',
  unit: 'mm a frame',
  tolerance: 1,
  most: 100,
  step: 0.5,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const [id, gaps] of watched.gaps) {
      const member = watched.member(id);
      if (member.kind !== 'ball') continue;
      let run: { from: number; to: number; most: number } | null = null;
      const found: { from: number; to: number; most: number }[] = [];
      for (let i = 0; i + 1 < gaps.length; i++) {
        if (i % 40 === 39) yield null;
        const touching = Math.abs(gaps[i]) < TOUCHES && Math.abs(gaps[i + 1]) < TOUCHES;
        const slip = touching ? slipOf(watched, id, member.shape.radius, i + watched.first) : 0;
        if (slip * 1000 <= tolerance) {
          run = null;
          continue;
        }
        if (!run) {
          run = { from: i + watched.first, to: i + watched.first, most: 0 };
          found.push(run);
        }
        run.to = i + 1 + watched.first;
        run.most = Math.max(run.most, slip * 1000);
      }
      const mendable = found.length > 0 && rolledAnew(watched.shot, id) !== watched.shot;
      for (const { from, to, most } of found) {
        yield {
          member: id,
          frame: from,
          until: to,
          value: most,
          text: `${watched.name(id)} slips by up to ${most.toFixed(1)} mm a frame while it rolls, from ${from} to ${to}.`,
          unfixable: !mendable,
        };
      }
      yield null;
    }
  },
  fix: { words: 'roll it', all: true, apply: (shot, { member }) => rolledAnew(shot, member) },
};

const before = new Float64Array(12);

/** How far the point that touches the ground slides from a frame to the next, in metres. */
function slipOf(watched: Watched, id: string, radius: number, frame: number): number {
  const slot = watched.at(frame).layout.slotOf.get(id)! * 16;
  const touch = watched.touch(id, frame);
  if (!touch) return 0;
  const now = watched.at(frame).world;
  for (let c = 0; c < 4; c++) for (let r = 0; r < 3; r++) before[c * 3 + r] = now[slot + c * 4 + r];
  const size = Math.hypot(before[0], before[1], before[2]);
  const next: Frame = watched.at(frame + 1);
  const moved = [0, 1, 2].map((r) => next.world[slot + 12 + r] - before[9 + r]);
  if (Math.hypot(...moved) < GOES) return 0;
  const turn = turnBetween(before, next.world, slot);
  // The middle goes as the turn takes it about the ground: turn × (radius · normal).
  const [nx, ny, nz] = touch.normal.map((v) => v * radius * size);
  const rolled = [turn[1] * nz - turn[2] * ny, turn[2] * nx - turn[0] * nz, turn[0] * ny - turn[1] * nx];
  const along = moved[0] * touch.normal[0] + moved[1] * touch.normal[1] + moved[2] * touch.normal[2];
  return Math.hypot(...moved.map((v, i) => v - along * touch.normal[i] - rolled[i]));
}

/** The turn from one matrix to another as its axis times its angle, in radians; right up to half a turn. */
function turnBetween(a: Float64Array, world: Float64Array, slot: number): number[] {
  // R = B Aᵀ of the two turns, sizes taken out.
  const scale = [0, 1, 2].map((c) => a[c * 3] ** 2 + a[c * 3 + 1] ** 2 + a[c * 3 + 2] ** 2 || 1);
  const entry = (r: number, s: number) =>
    [0, 1, 2].reduce((sum, c) => sum + (world[slot + c * 4 + r] * a[c * 3 + s]) / scale[c], 0);
  const axis = [entry(2, 1) - entry(1, 2), entry(0, 2) - entry(2, 0), entry(1, 0) - entry(0, 1)];
  const sine = Math.hypot(...axis) / 2;
  const cosine = (entry(0, 0) + entry(1, 1) + entry(2, 2) - 1) / 2;
  const angle = Math.atan2(sine, cosine);
  return sine < 1e-12 ? [0, 0, 0] : axis.map((v) => (v / (2 * sine)) * angle);
}

/** The ball rolled by its kit over all its way; as it was where the kit cannot. */
function rolledAnew(shot: Shot, id: string): Shot {
  const member = shot.members.at(id);
  const settings = firstSettings(roll, shot, member, shot.range.first, null);
  const cleared: Shot = {
    ...shot,
    curves: shot.curves.without(channelPath(id, 'turn.x')).without(channelPath(id, 'turn.z')),
  };
  const recipe = { id: 'roll-anew', kit: roll.id, member: id, settings, written: {} };
  const { shot: rolled, problem } = cook(cleared, recipe, true);
  return problem ? shot : { ...rolled, recipes: shot.recipes };
}
