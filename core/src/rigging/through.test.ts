import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apart, minus, type Vector } from '../pose/vectors.ts';
import { shellOf } from './shell.ts';
import { hose, line } from './testing/bodies.ts';
import { depthAt, seesInside, throughBody } from './through.ts';
import { TriangleTree } from './triangle-tree.ts';

const bar = hose(line([0, 0, 0], [0, 1, 0], 30), 0.1, 24);
const tree = new TriangleTree(shellOf([bar]));

describe('pressing on a body', () => {
  it('lands in the middle of it, wherever one looks from', () => {
    const angle = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true });
    fc.assert(
      fc.property(angle, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (turn, y) => {
        const from: Vector = [3 * Math.sin(turn), y, 3 * Math.cos(turn)];
        const { middle } = throughBody(tree, from, minus([0, y, 0], from));
        // The bar has 24 sides: from one side to the other is never more than a 60th off.
        expect(apart(middle, [0, y, 0])).toBeLessThan(0.1 / 60);
      }),
    );
  });

  it('goes through bodies that reach into each other as through one', () => {
    const two = new TriangleTree(shellOf([bar, hose(line([-0.05, 0.5, -1], [-0.05, 0.5, 1], 30), 0.1, 24)]));
    const { enter, leave } = throughBody(two, [0, 0.5, 3], [0, 0, -1]);
    expect(enter[2]).toBeCloseTo(1, 6);
    expect(leave[2]).toBeCloseTo(-1, 6);
  });

  it('takes the first of two that have a gap between them', () => {
    const two = new TriangleTree(shellOf([bar, hose(line([0, 0, 1], [0, 1, 1], 30), 0.1, 24)]));
    expect(throughBody(two, [0.01, 0.5, 3], [0, 0, -1]).middle[2]).toBeCloseTo(1, 3);
  });

  it('is refused beside it, and where it is open', () => {
    expect(() => throughBody(tree, [1, 0.5, 3], [0, 0, -1])).toThrow('There is no body here');
    const open = {
      ...bar,
      triangles: bar.triangles.filter((_, i) => bar.positions[bar.triangles[i - (i % 3)] * 3 + 2] > 0),
    };
    expect(() => throughBody(new TriangleTree(shellOf([open])), [0, 0.5, 3], [0, 0, -1])).toThrow('open here');
  });

  it('finds the same hits as asking every triangle', () => {
    // Off the corners and edges of the body, which a line may go through twice or not at all.
    const dice = fc.integer({ min: -40, max: 40 }).map((n) => n / 41 + 0.0037);
    const { positions, triangles } = shellOf([bar]);
    fc.assert(
      fc.property(fc.tuple(dice, dice, dice), fc.tuple(dice, dice, dice), (from, way) => {
        fc.pre(Math.hypot(...way) > 0.05);
        tree.hits(...from, ...way);
        let expected = 0;
        for (let t = 0; t < triangles.length; t += 3) {
          const alone = new TriangleTree({ positions, triangles: triangles.slice(t, t + 3), of: [] });
          alone.hits(...from, ...way);
          expected += alone.at.length;
        }
        expect(tree.at).toHaveLength(expected);
      }),
      { numRuns: 30 },
    );
  });
});

describe('the inside of a body', () => {
  it('is told from the outside, and seen along as far as it goes', () => {
    expect(depthAt(tree, [0.01, 0.5, 0.02], [1, 0.1, 0.2])).toBe(1);
    expect(depthAt(tree, [0.3, 0.5, 0], [1, 0.1, 0.2])).toBe(0);
    expect(seesInside(tree, [0.01, 0.2, 0.02], [0, 0.9, 0], 1)).toBe(true);
    expect(seesInside(tree, [0.01, 0.2, 0.02], [0.5, 0.9, 0], 1)).toBe(false);
  });
});
