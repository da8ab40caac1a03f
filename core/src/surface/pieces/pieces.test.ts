import { describe, expect, test } from 'vitest';
import { documentOf, emptyShot, type Shot } from '../../document/shot.ts';
import { addMember, breakUp, brokenPieces, changeChannels, makeOf, newMember } from '../../edit/index.ts';
import { frameOf } from '../../evaluate/program.ts';
import { parseShot } from '../../parse/index.ts';
import { Rigs } from '../../rig/rigs.ts';
import { Refused } from '../../schema/refused.ts';
import { stockMaterials } from '../materials.ts';
import { formOf } from '../mesh/forms.ts';
import { broken } from './broken.ts';
import { type Convex, holds, massOf, type Point, squareTo } from './convex.ts';
import { convexParts } from './parts.ts';

const forms = [
  'ball',
  'box',
  'cylinder',
  'cone',
  'capsule',
  'wedge',
  'block',
  'steps',
  'tube',
  'ring',
  'arch',
  'plank',
] as const;
const memberOf = (kind: (typeof forms)[number]) => newMember(emptyShot('s', 'S'), { kind, id: 'w' });

/** The volume a mesh holds. */
function volumeOf(parts: readonly Convex[]): number {
  return massOf(parts).volume;
}

/** How many edges of a body are not shared by two faces, each going its own way. */
function openEdges({ faces }: Convex): number {
  const edges = new Map<string, number>();
  const name = (c: readonly number[], i: number) => [0, 1, 2].map((k) => Math.round(c[i + k] * 1e7)).join(' ');
  for (const { corners } of faces)
    for (let i = 0; i < corners.length; i += 3) {
      const [a, b] = [name(corners, i), name(corners, (i + 3) % corners.length)];
      if (a === b) continue;
      const [key, way] = a < b ? [`${a}|${b}`, 1] : [`${b}|${a}`, -1];
      edges.set(key, (edges.get(key) ?? 0) + way);
    }
  return [...edges.values()].filter((n) => n !== 0).length;
}

/** How far a corner of a body lies before one of its own faces: nothing, where it is convex. */
function bulge({ faces }: Convex): number {
  let most = 0;
  for (const face of faces) {
    const [n, c] = [squareTo(face), face.corners];
    const length = Math.hypot(...n);
    if (length < 1e-10) continue;
    for (const { corners } of faces)
      for (let i = 0; i < corners.length; i += 3)
        most = Math.max(
          most,
          n.reduce((s, x, k) => s + (x / length) * (corners[i + k] - c[k]), 0),
        );
  }
  return most;
}

describe.each(forms)('a broken %s', (kind) => {
  const whole = memberOf(kind);
  const parts = convexParts(whole);
  const pieces = broken(whole, { count: 30, seed: 5, struck: null });

  test('is made of convex bodies, whose pieces are convex and closed', () => {
    for (const part of parts) expect(bulge(part)).toBeLessThan(1e-6);
    for (const body of pieces.flatMap((p) => p.bodies)) {
      expect(bulge(body)).toBeLessThan(1e-6);
      expect(openEdges(body)).toBe(0);
    }
  });

  test('has as many pieces as were wanted, and their volumes add up to its own', () => {
    expect(pieces).toHaveLength(30);
    const sum = pieces.reduce((s, p) => s + p.volume, 0);
    expect(Math.abs(sum / volumeOf(parts) - 1)).toBeLessThan(1e-6);
  });

  test('has no two pieces in one place: the middle of a body lies in no other', () => {
    const bodies = pieces.flatMap((p) => p.bodies);
    for (const [i, body] of bodies.entries()) {
      const { middle, volume } = massOf([body]);
      // What is thinner than a hair has no middle that could be told.
      if (volume < 1e-9) continue;
      expect(holds(body, middle)).toBe(true);
      for (const [j, other] of bodies.entries()) if (i !== j) expect(holds(other, middle)).toBe(false);
    }
  });

  test('is broken the same for the same number, another way for another', () => {
    const again = broken(whole, { count: 30, seed: 5, struck: null });
    expect(again).toEqual(pieces);
    expect(broken(whole, { count: 30, seed: 6, struck: null })).not.toEqual(pieces);
  });
});

test('pieces are the smaller the nearer to where it was struck', () => {
  const box = newMember(emptyShot('s', 'S'), { kind: 'box', shape: { width: 2, height: 1, depth: 1 } });
  const struck: Point = [-1, 0.5, 0];
  const pieces = broken(box, { count: 60, seed: 3, struck });
  const mean = (near: boolean) => {
    const own = pieces.filter((p) => p.middle[0] < 0 === near);
    return own.reduce((s, p) => s + p.volume, 0) / own.length;
  };
  expect(mean(true)).toBeLessThan(mean(false) / 3);
});

test.each([
  ['a plane', { kind: 'plane' as const }, { count: 5, seed: 1, struck: null }, 'no inside'],
  ['a camera', { kind: 'camera' as const }, { count: 5, seed: 1, struck: null }, 'no form'],
  ['one piece', { kind: 'box' as const }, { count: 1, seed: 1, struck: null }, '2 to 200'],
  ['too many pieces', { kind: 'box' as const }, { count: 1_000, seed: 1, struck: null }, '2 to 200'],
  ['no number', { kind: 'box' as const }, { count: Number.NaN, seed: 1, struck: null }, '2 to 200'],
])('%s is refused with a sentence', (_, wanted, how, why) => {
  const member = newMember(emptyShot('s', 'S'), wanted);
  expect(() => broken(member, how)).toThrow(Refused);
  expect(() => broken(member, how)).toThrow(why);
});

describe('broken up in a shot', () => {
  const stock = stockMaterials.find((m) => m.name === 'quay brick')!;
  function room(): Shot {
    const empty = emptyShot('s', 'S');
    const box = newMember(empty, { kind: 'box', id: 'w', values: { 'move.x': 2, 'turn.y': 0.4, 'size.x': 1.5 } });
    const made = makeOf.apply(addMember.apply(empty, { member: box }), { ids: ['w'], stock });
    return changeChannels.apply(made, {
      frame: 5,
      values: { 'w.move.z': 1, 'w.surface.glow': 1 },
      autoKey: 'every',
    });
  }
  const shot = room();
  const pieces = brokenPieces(shot, 'w', { count: 12, seed: 2, struck: null });
  const after = breakUp.apply(shot, { id: 'w', pieces });

  test('it is a group that moves as before, with its pieces where they were, and reads', () => {
    expect(after.members.at('w').kind).toBe('group');
    expect([...after.curves.keys()]).toEqual(['w.move.z']);
    const parsed = parseShot(JSON.parse(JSON.stringify(documentOf(after))), Rigs.none);
    expect(parsed.ok).toBe(true);
    const [before, now] = [frameOf(shot, 3), frameOf(after, 3)];
    const at = (frame: typeof now, id: string) => {
      const o = frame.layout.slotOf.get(id)! * 16;
      return frame.world.subarray(o, o + 16);
    };
    expect([...at(now, 'w')]).toEqual([...at(before, 'w')]);
    // A corner of a piece lies where the whole had it.
    for (const piece of pieces) {
      if (piece.kind !== 'piece') throw new Error('is a piece');
      const [m, w] = [at(now, piece.id), at(before, 'w')];
      const { positions: p, from } = piece.shape;
      for (let r = 0; r < 3; r++) {
        const here = m[r] * p[0] + m[4 + r] * p[1] + m[8 + r] * p[2] + m[12 + r];
        const there = w[r] * (p[0] + from[0]) + w[4 + r] * (p[1] + from[1]) + w[8 + r] * (p[2] + from[2]) + w[12 + r];
        expect(here).toBeCloseTo(there, 9);
      }
    }
  });

  test('pieces keep colour and material, and what lies on them goes on over their edges', () => {
    const [piece] = pieces;
    expect(piece.material).toEqual(shot.members.at('w').material);
    expect(piece.values['colour.r']).toBe(shot.members.at('w').values['colour.r']);
    if (piece.kind !== 'piece' || stock.cover?.is !== 'pattern') throw new Error('is a piece with a pattern');
    const { mesh } = formOf(piece)[0];
    const { scale } = stock.cover;
    mesh.normals.forEach((n, i) => {
      if (i % 3 !== 2 || n < 0.999) return;
      const v = (i - 2) / 3;
      expect(mesh.places![v * 2]).toBeCloseTo((mesh.positions[v * 3] + piece.shape.from[0]) / scale, 5);
    });
  });
});
