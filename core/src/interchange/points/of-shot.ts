import { bendsByPoint, skinPoints, skinsOf, writeSkinMatrices } from '../../body/skin.ts';
import { castOrder, withDescendants } from '../../document/hierarchy.ts';
import type { Shot } from '../../document/shot.ts';
import type { Frame } from '../../evaluate/frame.ts';
import type { Layout } from '../../evaluate/layout.ts';
import { deformPoints } from '../../evaluate/shape.ts';
import { transformPoint } from '../../pose/affine.ts';
import { Refused } from '../../schema/refused.ts';
import { formOf } from '../../surface/mesh/index.ts';
import type { Choices } from '../bake/choices.ts';
import { type Run, runsOf } from '../bake/runs.ts';
import { Names } from '../scene/names.ts';
import { type PointCache, pointLimits } from './points.ts';

/** A body whose vertices are written down. */
interface Cast {
  readonly name: string;
  readonly count: number;
  readonly triangles: Uint32Array;
  /** Writes where its vertices are in the world. */
  write(frame: Frame, out: Float32Array): void;
}

/**
 * What becomes a motion as point caches: every vertex of what is drawn in the world, at every frame of the rate. What is hidden lies in
 * one point.
 * @throws Refused where it would be more than a point cache holds
 */
export const pointCachesOf = (shot: Shot, choices: Choices): { readonly name: string; readonly cache: PointCache }[] =>
  runsOf(shot, choices).map((run) => ({ name: run.name, cache: cacheOf(run, choices) }));

function cacheOf(run: Run, choices: Choices): PointCache {
  const { shot, program, first, last } = run;
  const frames = Math.floor(((last - first) * choices.rate) / shot.rate + 1e-9) + 1;
  const cast = bodiesOf(run, choices);
  const vertices = cast.reduce((sum, body) => sum + body.count, 0);
  if (vertices === 0) throw new Refused('There is nobody to hand on: choose whom of the cast.');
  if (frames * vertices * 3 > pointLimits.numbers)
    throw new Refused(
      `${vertices} vertices over ${frames} frames are more than a point cache holds: choose fewer frames, a lower rate or fewer of the cast.`,
    );
  const points = new Float32Array(frames * vertices * 3);
  const frame = program.createFrame();
  for (let f = 0; f < frames; f++) {
    program.evaluate(first + (f * shot.rate) / choices.rate, frame);
    let at = f * vertices * 3;
    for (const body of cast) {
      body.write(frame, points.subarray(at, at + body.count * 3));
      at += body.count * 3;
    }
  }
  send(points, choices);
  const bodies: { name: string; first: number; count: number }[] = [];
  const triangles: number[] = [];
  let firstVertex = 0;
  for (const { name, count, triangles: own } of cast) {
    bodies.push({ name, first: firstVertex, count });
    for (const v of own) triangles.push(v + firstVertex);
    firstVertex += count;
  }
  return { rate: choices.rate, frames, bodies, points, triangles: Uint32Array.from(triangles) };
}

/** Turns and sizes all points as the receiver has it. */
function send(points: Float32Array, { up, scale }: Choices): void {
  if (up === 'y' && scale === 1) return;
  for (let p = 0; p < points.length; p += 3) {
    const [x, y, z] = [points[p] * scale, points[p + 1] * scale, points[p + 2] * scale];
    points.set(up === 'z' ? [x, -z, y] : [x, y, z], p);
  }
}

function bodiesOf({ shot, program, rig }: Run, { members, plainNames }: Choices): Cast[] {
  const names = new Names(plainNames);
  const wanted = rig === null ? members : [rig];
  const chosen = wanted && withDescendants(shot, wanted);
  return castOrder(shot).flatMap(({ member }): Cast[] => {
    if (chosen && !chosen.has(member.id)) return [];
    const slot = program.layout.slotOf.get(member.id)!;
    if (member.kind === 'rig')
      return program.layout.rigAt.has(slot) ? [rigBody(names.give(member.name), program.layout, slot)] : [];
    const form = formOf(member);
    if (form.length === 0) return [];
    const rest = Float64Array.from(form.flatMap((part) => [...part.mesh.positions]));
    const own = new Float64Array(rest.length);
    return [
      {
        name: names.give(member.name),
        count: rest.length / 3,
        triangles: after(form.map(({ mesh }) => ({ triangles: mesh.triangles, count: mesh.positions.length / 3 }))),
        write(frame, out) {
          own.set(rest);
          deformPoints(frame, slot, own);
          toWorld(frame, slot, slot, own, out);
        },
      },
    ];
  });
}

function rigBody(name: string, layout: Layout, slot: number): Cast {
  const placed = layout.rigAt.get(slot)!;
  const skins = skinsOf(placed.compiled);
  const matrices = new Float64Array(placed.compiled.rig.joints.length * 16);
  const parts = skins.map((skin) => ({ triangles: skin.triangles, count: skin.positions.length / 3 }));
  const count = parts.reduce((sum, part) => sum + part.count, 0);
  return {
    name,
    count,
    triangles: after(parts),
    write(frame, out) {
      writeSkinMatrices(frame, placed, matrices);
      let first = 0;
      skins.forEach(({ positions }, m) => {
        skinPoints(frame, placed, m, matrices, out.subarray(first, first + positions.length));
        first += positions.length;
      });
      if (!frame.isVisible(slot)) out.fill(0);
      else if (bendsByPoint(frame, slot)) toWorld(frame, slot, placed.root, out, out);
    },
  };
}

/** Takes points of a node's space into the world; all to one point where it is hidden. */
function toWorld(
  frame: Frame,
  slot: number,
  node: number,
  points: Float64Array | Float32Array,
  out: Float32Array,
): void {
  const point = new Float64Array(3);
  const visible = frame.isVisible(slot);
  for (let p = 0; p < points.length; p += 3) {
    if (visible) transformPoint(point, 0, frame.world, node * 16, points[p], points[p + 1], points[p + 2]);
    out.set(point, p);
  }
}

/** Triangles of meshes whose vertices come one after another. */
function after(parts: readonly { readonly triangles: Uint32Array; readonly count: number }[]): Uint32Array {
  const out: number[] = [];
  let first = 0;
  for (const { triangles, count } of parts) {
    for (const v of triangles) out.push(v + first);
    first += count;
  }
  return Uint32Array.from(out);
}
