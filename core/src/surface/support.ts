import type { Member } from '../document/member.ts';
import { boundsOf } from '../document/member.ts';
import type { Rigs } from '../rig/rigs.ts';
import { formOf, hasForm } from './mesh/index.ts';

/**
 * How deep a form at rest reaches against a direction `(x, y, z)` of any length: the smallest `d · p` over its points `p`,
 * in its own space. Exact for every kind; boxes are taken with sharp edges.
 */
export type Lowest = (x: number, y: number, z: number) => number;

export function lowestOf(member: Member, rigs: Rigs): Lowest {
  switch (member.kind) {
    case 'ball': {
      const { radius } = member.shape;
      return (x, y, z) => -radius * Math.sqrt(x * x + y * y + z * z);
    }
    case 'cylinder': {
      const { radius, height } = member.shape;
      return (x, y, z) => Math.min(0, y * height) - radius * Math.sqrt(x * x + z * z);
    }
    case 'cone': {
      const { radius, height } = member.shape;
      return (x, y, z) => Math.min(y * height, -radius * Math.sqrt(x * x + z * z));
    }
    case 'capsule': {
      const { radius, height } = member.shape;
      const top = Math.max(height - radius, radius);
      return (x, y, z) => Math.min(y * radius, y * top) - radius * Math.sqrt(x * x + y * y + z * z);
    }
    case 'tube': {
      const { radius, height } = member.shape;
      return (x, y, z) => Math.min(0, y * height) - radius * Math.sqrt(x * x + z * z);
    }
    case 'ring': {
      const { radius, thickness } = member.shape;
      const bar = Math.min(thickness, radius * 0.98);
      return (x, y, z) => -radius * Math.sqrt(x * x + z * z) - bar * Math.sqrt(x * x + y * y + z * z);
    }
    case 'arch': {
      const { width, depth } = member.shape;
      const half = width / 2;
      const spring = Math.max(member.shape.height, half) - half;
      // The bend is half a circle: of a direction that goes down it is one of the feet.
      return (x, y, z) =>
        Math.min(-half * Math.abs(x), y * spring - (y > 0 ? half * Math.abs(x) : half * Math.sqrt(x * x + y * y))) -
        (depth / 2) * Math.abs(z);
    }
    // Forms whose sides are all there are to them.
    case 'rope':
    case 'plank':
    case 'lettering': {
      const points = formOf(member, 'crowd').flatMap(({ mesh }) => [...mesh.positions]);
      return (x, y, z) => {
        let least = Number.POSITIVE_INFINITY;
        for (let i = 0; i < points.length; i += 3)
          least = Math.min(least, x * points[i] + y * points[i + 1] + z * points[i + 2]);
        return least;
      };
    }
    case 'piece': {
      const { positions: p } = member.shape;
      return (x, y, z) => {
        let least = Number.POSITIVE_INFINITY;
        for (let i = 0; i < p.length; i += 3) least = Math.min(least, x * p[i] + y * p[i + 1] + z * p[i + 2]);
        return least;
      };
    }
    case 'wedge': {
      const { width, height, depth } = member.shape;
      return (x, y, z) =>
        Math.min((-width / 2) * x, (width / 2) * x, (-width / 2) * x + height * y) - (depth / 2) * Math.abs(z);
    }
    default: {
      const [x0, y0, z0, x1, y1, z1] = boundsOf(member, rigs);
      return (x, y, z) => Math.min(x * x0, x * x1) + Math.min(y * y0, y * y1) + Math.min(z * z0, z * z1);
    }
  }
}

/** Whether a kind has a body that can touch things. */
export const isSolid = (member: Member): boolean => hasForm(member.kind);
