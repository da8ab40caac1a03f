import type { Member } from '../document/member.ts';

/** A flat face of a set piece in its own space: corners in order, three numbers each, seen from outside against the clock. */
export type Face = Float64Array;

const DISC = 32;

/** The faces of a form things can land on; a ball and a cone have none that is flat enough to stand on. */
export function facesOf(member: Member): Face[] {
  switch (member.kind) {
    case 'plane': {
      const [x, z] = [member.shape.width / 2, member.shape.depth / 2];
      return [face([-x, 0, z], [x, 0, z], [x, 0, -z], [-x, 0, -z])];
    }
    case 'box': {
      const { width, height, depth } = member.shape;
      return boxFaces(width / 2, 0, height, depth / 2);
    }
    case 'block': {
      const half = member.shape.size / 2;
      return boxFaces(half, -half, half, half);
    }
    case 'plank':
      // A bowed one is no face to stand on.
      return member.shape.bow === 0
        ? boxFaces(member.shape.length / 2, 0, member.shape.thickness, member.shape.width / 2)
        : [];
    case 'cylinder':
      return [disc(member.shape.radius, member.shape.height)];
    case 'wedge': {
      const [x, y, z] = [member.shape.width / 2, member.shape.height, member.shape.depth / 2];
      return [face([-x, y, z], [x, 0, z], [x, 0, -z], [-x, y, -z])];
    }
    case 'steps':
      return treads(member.shape);
    default:
      return [];
  }
}

const face = (...corners: readonly (readonly [number, number, number])[]): Face => Float64Array.from(corners.flat());

function boxFaces(x: number, low: number, high: number, z: number): Face[] {
  return [
    face([-x, high, z], [x, high, z], [x, high, -z], [-x, high, -z]),
    face([-x, low, -z], [x, low, -z], [x, low, z], [-x, low, z]),
    face([x, low, z], [x, low, -z], [x, high, -z], [x, high, z]),
    face([-x, low, -z], [-x, low, z], [-x, high, z], [-x, high, -z]),
    face([-x, low, z], [x, low, z], [x, high, z], [-x, high, z]),
    face([x, low, -z], [-x, low, -z], [-x, high, -z], [x, high, -z]),
  ];
}

function disc(radius: number, height: number): Face {
  const corners = Array.from({ length: DISC }, (_, i): [number, number, number] => {
    const angle = (-i * 2 * Math.PI) / DISC;
    return [radius * Math.cos(angle), height, radius * Math.sin(angle)];
  });
  return face(...corners);
}

/** The treads of a flight of steps that goes down towards +X. */
function treads(shape: Extract<Member, { kind: 'steps' }>['shape']): Face[] {
  const half = (shape.count * shape.tread) / 2;
  const z = shape.depth / 2;
  return Array.from({ length: shape.count }, (_, i) => {
    const [right, y] = [half - i * shape.tread, (i + 1) * shape.rise];
    return face([right - shape.tread, y, z], [right, y, z], [right, y, -z], [right - shape.tread, y, -z]);
  });
}
