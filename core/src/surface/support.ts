import type { Member } from '../document/member.ts';
import { boundsOf } from '../document/member.ts';
import type { Rigs } from '../rig/rigs.ts';
import { hasForm } from './mesh/index.ts';

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
