import { cameraRuns } from '../document/cut.ts';
import { type FilmingCamera, runsOf, type WatchedBody } from './bodies.ts';
import { type Check, type Draft, frameText, percent } from './check.ts';
import type { Watched } from './watched.ts';

/** What the shot's cameras see of the bodies: where their parts are in the picture, as shares of its height from its middle. */

/** What a camera films is so much wider than it is high. */
const ASPECT = 16 / 9;

/** Where a body is in the picture, frame by frame. */
interface Filmed {
  readonly body: WatchedBody;
  /** Its parts: hips first, then head, hands and feet. */
  readonly parts: readonly { readonly id: string; readonly at: number }[];
  /** Two numbers a part and frame; not a number behind the camera. */
  readonly places: Float64Array;
}

const partsOf = (body: WatchedBody) => {
  const { controls, limbs } = body.placed.compiled.rig;
  const ends = new Set(limbs.flatMap((l) => (l.target.is === 'control' ? [l.target.id] : [])));
  const find = (id: string) => controls.findIndex((c) => c.id === id);
  const hips = [find('hips'), find('body')].find((at) => at >= 0);
  if (hips === undefined) return [];
  const others = controls.flatMap((c, at) => (ends.has(c.id) || c.id === 'head' ? [{ id: c.id, at }] : []));
  return [{ id: controls[hips].id, at: hips }, ...others];
};

const known = new WeakMap<Watched, readonly Filmed[]>();

/** The bodies as they are filmed; none in a shot without a camera, and none that only tries its cycle. */
function filmed(watched: Watched): readonly Filmed[] {
  const there = known.get(watched);
  if (there) return there;
  const runs = cameraRuns(watched.shot);
  const out =
    runs.length === 0
      ? []
      : watched.bodies
          .filter((body) => body.limbs.length >= 4 && !watched.keptInPlace.has(body.rig))
          .map((body) => ({ body, parts: partsOf(body), places: new Float64Array(0) }))
          .filter(({ parts }) => parts.length > 1)
          .map(({ body, parts }) => ({ body, parts, places: new Float64Array(parts.length * watched.frames * 2) }));
  for (let i = 0; i < watched.frames && out.length > 0; i++) {
    const run = runs.find((r) => watched.first + i >= r.first && watched.first + i <= r.last);
    const camera = run ? watched.camera(run.camera, i) : null;
    for (const { body, parts, places } of out) {
      const count = body.placed.compiled.rig.controls.length;
      parts.forEach(({ at }, p) => {
        const from = (i * count + at) * 3;
        const to = (i * parts.length + p) * 2;
        if (!camera) places[to] = Number.NaN;
        else onPicture(camera, body.places, from, places, to);
      });
    }
  }
  known.set(watched, out);
  return out;
}

function onPicture(
  { world, at, view }: FilmingCamera,
  places: Float64Array,
  from: number,
  out: Float64Array,
  to: number,
): void {
  const d = [0, 1, 2].map((a) => places[from + a] - world[at + 12 + a]);
  const along = [0, 1, 2].map((axis) => {
    const size = Math.hypot(world[at + axis * 4], world[at + axis * 4 + 1], world[at + axis * 4 + 2]) || 1;
    return (d[0] * world[at + axis * 4] + d[1] * world[at + axis * 4 + 1] + d[2] * world[at + axis * 4 + 2]) / size;
  });
  const ahead = -along[2];
  const scale = ahead > 0.05 ? 1 / (2 * ahead * Math.tan(view / 2)) : Number.NaN;
  out[to] = along[0] * scale;
  out[to + 1] = along[1] * scale;
}

/** How far a place is inside the picture, as a share of its height; below nothing outside. */
const inside = (x: number, y: number): number => Math.min(ASPECT / 2 - Math.abs(x), 0.5 - Math.abs(y));

/** How far hips have got in the picture between two frames, as a share of its height. */
const wayOf = (places: Float64Array, parts: number, from: number, to: number): number =>
  Math.hypot(
    places[to * parts * 2] - places[from * parts * 2],
    places[to * parts * 2 + 1] - places[from * parts * 2 + 1],
  );

/** Whose hips get further than that is passing, and leaves the picture a part at a time. */
const ON_ITS_WAY = 0.15;

export const cutOff: Check = {
  id: 'cutOff',
  name: 'Cut off',
  why: 'A hand, a foot or a head that leaves the picture while its body stands in it looks like a mistake of whoever framed it. Near the edge the eye goes there and not to the acting.',
  unit: 'frames',
  tolerance: 3,
  most: 100,
  step: 1,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const { body, parts, places } of filmed(watched)) {
      const seen = (i: number, p: number) => {
        const at = (i * parts.length + p) * 2;
        return inside(places[at], places[at + 1]);
      };
      // Who comes in or goes out is cut off on the way, and that is meant.
      const gone = (i: number) => !(seen(i, 0) > 0);
      for (let p = 1; p < parts.length; p++)
        for (const [from, to] of runsOf(watched.frames, (i) => seen(i, 0) > 0.06 && seen(i, p) < 0)) {
          const passing =
            wayOf(places, parts.length, from, to) > ON_ITS_WAY ||
            [from - 1, from - 2, from - 8, to + 1, to + 2, to + 8].some((i) => i >= 0 && i < watched.frames && gone(i));
          if (to - from + 1 <= tolerance || passing) continue;
          const member = body.member(watched.frame, parts[p].id);
          yield {
            member,
            frame: watched.first + from,
            until: watched.first + to,
            value: to - from + 1,
            text: `${watched.name(body.rig)}: ${watched.name(member)} is outside the picture for ${to - from + 1} frames, from ${frameText(watched.first + from)} on.`,
          };
        }
      yield null;
    }
  },
};

/** The box of a body in the picture at a frame: left, low, right, high. */
function boxOf({ parts, places }: Filmed, i: number): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let p = 0; p < parts.length; p++) {
    const [x, y] = [places[(i * parts.length + p) * 2], places[(i * parts.length + p) * 2 + 1]];
    box[0] = Math.min(box[0], x);
    box[1] = Math.min(box[1], y);
    box[2] = Math.max(box[2], x);
    box[3] = Math.max(box[3], y);
  }
  return box;
}

const areaOf = ([l, b, r, t]: readonly number[]) => Math.max(0, r - l) * Math.max(0, t - b);

/** How much of the smaller of two bodies lies over the other in the picture. */
function shared(a: Filmed, b: Filmed, i: number): number {
  const [p, q] = [boxOf(a, i), boxOf(b, i)];
  const both = areaOf([Math.max(p[0], q[0]), Math.max(p[1], q[1]), Math.min(p[2], q[2]), Math.min(p[3], q[3])]);
  const least = Math.min(areaOf(p), areaOf(q));
  return least > 0 ? both / least : 0;
}

export const silhouettesMerge: Check = {
  id: 'silhouettesMerge',
  name: 'Silhouettes merge',
  why: 'Two figures that stand one before the other as the camera sees them are one dark shape with too many arms. What is played must be readable as a shadow.',
  unit: '%',
  tolerance: 60,
  most: 100,
  step: 5,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    const all = filmed(watched);
    for (const [n, a] of all.entries())
      for (const b of all.slice(n + 1)) {
        const share = Float64Array.from({ length: watched.frames }, (_, i) => shared(a, b, i) * 100);
        for (const [from, to] of runsOf(watched.frames, (i) => share[i] > tolerance)) {
          if (to - from + 1 < 8) continue;
          let worst = from;
          for (let i = from; i <= to; i++) if (share[i] > share[worst]) worst = i;
          yield {
            member: a.body.rig,
            frame: watched.first + worst,
            until: watched.first + to,
            value: share[worst],
            text: `${watched.name(a.body.rig)} and ${watched.name(b.body.rig)} are one shape in the picture: ${percent(share[worst] / 100)} at ${frameText(watched.first + worst)}.`,
          };
        }
        yield null;
      }
  },
};
