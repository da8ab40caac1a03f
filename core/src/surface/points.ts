import type { Bounds } from '../document/kinds/index.ts';
import { boundsOf, type Member } from '../document/member.ts';
import type { Rigs } from '../rig/rigs.ts';
import { formOf } from './mesh/index.ts';

const ROUND = 48;

/**
 * Points spread over a form at rest, three numbers each, in its own space: enough to see how deep a bent form reaches. Corners
 * and rims are among them.
 */
export function surfacePoints(member: Member, rigs: Rigs): Float64Array {
  switch (member.kind) {
    case 'ball':
      return sphere(member.shape.radius);
    case 'cylinder':
      return rings(
        ROUND,
        steps(12).map((s) => [member.shape.radius, s * member.shape.height]),
      );
    case 'rope':
    case 'plank':
    case 'lettering':
      return Float64Array.from(formOf(member, 'crowd').flatMap(({ mesh }) => [...mesh.positions]));
    case 'piece':
      return Float64Array.from(member.shape.positions);
    case 'tube':
      return rings(
        ROUND,
        steps(12).map((s) => [member.shape.radius, s * member.shape.height]),
      );
    case 'capsule': {
      const { radius, height } = member.shape;
      const top = Math.max(height - radius, radius);
      const bend = (middle: number, from: number) =>
        steps(8).map((s): [number, number] => [
          radius * Math.cos(from + (s * Math.PI) / 2),
          middle + radius * Math.sin(from + (s * Math.PI) / 2),
        ]);
      return rings(ROUND, [...bend(radius, -Math.PI / 2), ...bend(top, 0)]);
    }
    case 'ring': {
      const { radius, thickness } = member.shape;
      const bar = Math.min(thickness, radius * 0.98);
      return rings(
        ROUND,
        steps(16).map((s) => [radius + bar * Math.cos(2 * Math.PI * s), bar * Math.sin(2 * Math.PI * s)]),
      );
    }
    case 'arch':
      return archPoints(member.shape);
    case 'cone':
      return rings(
        ROUND,
        steps(12).map((s) => [member.shape.radius * (1 - s), s * member.shape.height]),
      );
    default:
      return boxPoints(boundsOf(member, rigs));
  }
}

const steps = (count: number) => Array.from({ length: count + 1 }, (_, i) => i / count);

function sphere(radius: number): Float64Array {
  return rings(
    ROUND,
    steps(24).map((s) => [radius * Math.sin(s * Math.PI), -radius * Math.cos(s * Math.PI)]),
  );
}

function rings(round: number, outline: readonly (readonly [radius: number, height: number])[]): Float64Array {
  const out: number[] = [];
  for (const [radius, height] of outline) {
    for (let i = 0; i < round; i++) {
      const angle = (i * 2 * Math.PI) / round;
      out.push(radius * Math.cos(angle), height, radius * Math.sin(angle));
    }
  }
  return Float64Array.from(out);
}

function archPoints({ width, height, depth, wall }: Extract<Member, { kind: 'arch' }>['shape']): Float64Array {
  const outer = width / 2;
  const inner = outer - Math.min(wall, outer * 0.98);
  const spring = Math.max(height, outer) - outer;
  const out: number[] = [];
  for (const r of [outer, inner])
    for (const z of steps(4).map((s) => (s - 0.5) * depth)) {
      for (const s of steps(ROUND)) out.push(r * Math.cos(s * Math.PI), spring + r * Math.sin(s * Math.PI), z);
      for (const s of steps(4)) out.push(r, s * spring, z, -r, s * spring, z);
    }
  return Float64Array.from(out);
}

/** A lattice over the box around a form. */
function boxPoints([x0, y0, z0, x1, y1, z1]: Bounds): Float64Array {
  const out: number[] = [];
  const at = steps(6);
  for (const x of at) {
    for (const y of at) {
      for (const z of at) {
        if ([x, y, z].some((v) => v === 0 || v === 1))
          out.push(x0 + (x1 - x0) * x, y0 + (y1 - y0) * y, z0 + (z1 - z0) * z);
      }
    }
  }
  return Float64Array.from(out);
}
