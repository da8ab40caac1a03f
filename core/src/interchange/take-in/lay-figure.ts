import type { Mesh } from '../../surface/mesh/index.ts';
import { type Ring, revolve, sphere } from '../../surface/mesh/revolve.ts';
import type { MeshPart, Scene, SceneNode, Vector3 } from '../scene/scene.ts';

/** How thick a turned bone is in its middle, as a share of its length, and at most, metres. */
const THICK = 0.11;
const THICKEST = 0.07;

/**
 * Gives a skeleton that brought no body one of turned wood: a turned piece from each joint to each that hangs on it, a ball at the
 * joint. A scene that has bodies stays as it is.
 */
export function layFigure(scene: Scene): Scene {
  if (scene.meshes.length > 0) return scene;
  const { nodes } = scene;
  const bodies = nodes.map((_, n): MeshPart[] => {
    const children = nodes.filter((child) => child.parent === n).map((child) => child.place.translation);
    const lengths = children.map((at) => Math.hypot(...at)).filter((length) => length > 1e-4);
    if (lengths.length === 0) return [];
    const thick = Math.min(Math.max(...lengths) * THICK, THICKEST);
    const bones = children.filter((at) => Math.hypot(...at) > 1e-4).map((at) => part(bone(at), 0));
    return [part(sphere(thick * 0.9, 12, 8), 1), ...bones];
  });
  const meshes = bodies.flatMap((parts, n) => (parts.length > 0 ? [{ name: nodes[n].name, parts, targets: [] }] : []));
  let next = 0;
  const dressed = nodes.map((node, n): SceneNode => (bodies[n].length > 0 ? { ...node, mesh: next++ } : node));
  const paint = (name: string, colour: readonly [number, number, number]) => ({
    name,
    colour: [...colour, 1] as const,
    roughness: 0.62,
    metalness: 0,
    bothSides: false,
  });
  return {
    ...scene,
    nodes: dressed,
    meshes,
    materials: [paint('wood', [0.79, 0.62, 0.4]), paint('joint', [0.66, 0.48, 0.29])],
  };
}

const part = (mesh: Mesh, material: number): MeshPart => ({ mesh, material, targets: [] });

/** A piece turned on a lathe from a joint to a place in its space: thin at its ends. */
function bone(to: Vector3): Mesh {
  const length = Math.hypot(...to);
  const thick = Math.min(length * THICK, THICKEST);
  const outline = [
    [0, 0],
    [0.5, 0.06],
    [1, 0.3],
    [0.8, 0.6],
    [0.5, 0.94],
    [0, 1],
  ].map(([r, y]): Ring => {
    const up = (y - 0.35) * 0.8;
    const flat = Math.hypot(1, up);
    return {
      radius: r * thick,
      y: y * length,
      out: r === 0 ? 0 : 1 / flat,
      up: r === 0 ? Math.sign(y - 0.5) : up / flat,
    };
  });
  const turned = revolve(
    outline.slice(1).map((ring, i) => [outline[i], ring]),
    10,
  );
  return along(turned, to.map((v) => v / length) as unknown as Vector3);
}

/** A mesh that stands along +Y, laid along a direction by the shortest turn. */
function along({ positions, normals, triangles }: Mesh, [x, y, z]: Vector3): Mesh {
  // The turn from +Y: about the axis square to both; over on its head where they are opposite.
  const half = Math.sqrt(Math.max(0, (1 + y) / 2));
  const q = half < 1e-6 ? [1, 0, 0, 0] : [z / (2 * half), 0, -x / (2 * half), half];
  const turn = (from: Float32Array) => {
    const out = new Float32Array(from.length);
    for (let i = 0; i < from.length; i += 3) {
      const [a, b, c] = from.subarray(i, i + 3);
      const [i2, j2, k2] = [2 * (q[1] * c - q[2] * b), 2 * (q[2] * a - q[0] * c), 2 * (q[0] * b - q[1] * a)];
      out[i] = a + q[3] * i2 + q[1] * k2 - q[2] * j2;
      out[i + 1] = b + q[3] * j2 + q[2] * i2 - q[0] * k2;
      out[i + 2] = c + q[3] * k2 + q[0] * j2 - q[1] * i2;
    }
    return out;
  };
  return { positions: turn(positions), normals: turn(normals), triangles };
}
