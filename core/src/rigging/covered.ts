import { MESH_UNIT, PICTURE_UNIT, type RigMesh, rigLimits } from '../rig/definition.ts';
import { Refused } from '../schema/refused.ts';
import { fromSides } from '../surface/mesh/projected.ts';
import type { Build } from './build.ts';

/** What a part of a body is made of: as a material of the house is, its pattern as a picture in the media store. */
export interface PartMaterial {
  readonly colour: string;
  readonly roughness: number;
  readonly metalness: number;
  /** A picture, and how many metres one repeat of it takes. */
  readonly picture: { readonly media: string; readonly scale: number } | null;
}

/**
 * Makes a part of a body of something. A picture is projected from three sides, and goes with the body as it bends.
 * @throws Refused where its points, twice where sides meet, would be more than a body can have
 */
export function coverPart(build: Build, id: string, made: PartMaterial): Build {
  const all = build.meshes.reduce((sum, mesh) => sum + mesh.positions.length / 3, 0);
  const meshes = build.meshes.map((mesh) => {
    if (mesh.id !== id) return mesh;
    const { colour, roughness, metalness, picture } = made;
    const material = { roughness, metalness, bothSides: mesh.material?.bothSides ?? false };
    if (!picture) return { ...mesh, colour, material };
    const metres = mesh.positions.map((v) => v * MESH_UNIT);
    const { from, triangles, places } = fromSides(metres, mesh.triangles, picture.scale, 1);
    if (all - mesh.positions.length / 3 + from.length > rigLimits.vertices)
      throw new Refused(`It would have more than ${rigLimits.vertices} points: a picture needs some of them twice.`);
    return {
      ...split(mesh, from),
      triangles: [...triangles],
      colour,
      material: {
        ...material,
        picture: {
          media: picture.media,
          places: Array.from(places, (p) => Math.round(p / PICTURE_UNIT)),
          cutOut: false,
        },
      },
    };
  });
  return { ...build, meshes };
}

/** A mesh of other vertices, each of which is one of the old ones. */
function split(mesh: RigMesh, from: readonly number[]): RigMesh {
  const each = (list: readonly number[], n: number) => from.flatMap((v) => list.slice(v * n, v * n + n));
  const { skin } = mesh;
  return {
    ...mesh,
    positions: each(mesh.positions, 3),
    skin: skin.kind === 'rigid' ? skin : { ...skin, indices: each(skin.indices, 4), weights: each(skin.weights, 4) },
    targets: mesh.targets.map((target) => {
      const at = new Map(target.vertices.map((v, i) => [v, i]));
      const moved = from.flatMap((v, i) => (at.has(v) ? [[i, at.get(v)!] as const] : []));
      return {
        ...target,
        vertices: moved.map(([i]) => i),
        offsets: moved.flatMap(([, o]) => target.offsets.slice(o * 3, o * 3 + 3)),
      };
    }),
  };
}
