import {
  addJoint,
  type Build,
  dressed,
  MESH_UNIT,
  madeWhole,
  outfitted,
  parseRig,
  type Rig,
  type RigMesh,
  stiffen,
  weighed,
} from '@varrup/core';
import { along, egg, type Form, turned, type Vector } from './make/forms.ts';
import type { Paint } from './make/maker.ts';
import { paints } from './make/parts.ts';

/**
 * The gull that sits on the harbour's lamps, built the way anybody builds a rig here: half a body, made whole in the mirror; joints put in;
 * weights computed; dressed as what stands on two legs, with wings for arms.
 */
export function gull(): Rig {
  const half = skeleton({ id: 'gull', name: 'Gull', joints: [], parts: [], meshes: halfBody() });
  const whole = outfitted(madeWhole(half), 'biped');
  const soft = new Map(
    weighed(
      whole.meshes.filter((mesh) => SOFT.test(mesh.id)),
      whole.joints,
    ).map((mesh) => [mesh.id, mesh]),
  );
  let build: Build = { ...whole, meshes: whole.meshes.map((mesh) => soft.get(mesh.id) ?? mesh) };
  for (const mesh of build.meshes) if (!soft.has(mesh.id)) build = stiffen(build, mesh.id, holderOf(mesh.id));
  const parsed = parseRig(dressed(build, { version: 1, changes: 'The first gull.' }));
  if (!parsed.ok) throw new Error(parsed.problems[0].sentence);
  return parsed.value;
}

/** Body, wings, tail and legs bend; the rest is carried. */
const SOFT = /^(body|mantle|wing|tip|tail|leg)/;

function holderOf(mesh: string): string {
  const side = mesh.endsWith('R') ? 'R' : 'L';
  if (/^web/.test(mesh)) return `toes${side}`;
  return 'head';
}

const part = (id: string, { colour, finish }: Paint, { positions, triangles }: Form): RigMesh => ({
  id,
  colour,
  finish,
  positions: positions.map((v) => Math.round(v / MESH_UNIT)),
  triangles,
  skin: { kind: 'rigid', joint: 'none' },
  targets: [],
});

const ring = (at: Vector, wide: number, deep: number) => ({ at, wide, deep });

/** All that lies in the middle, and what lies on the left. */
function halfBody(): RigMesh[] {
  const ochre: Paint = { colour: '#d99a32', finish: 'wood' };
  return [
    part(
      'body',
      paints.white,
      along(
        [
          ring([0, 0.238, -0.2], 0.028, 0.018),
          ring([0, 0.235, -0.14], 0.058, 0.046),
          ring([0, 0.23, -0.06], 0.082, 0.074),
          ring([0, 0.235, 0.03], 0.086, 0.086),
          ring([0, 0.262, 0.1], 0.07, 0.074),
          ring([0, 0.31, 0.135], 0.047, 0.05),
          ring([0, 0.352, 0.15], 0.041, 0.044),
          ring([0, 0.392, 0.165], 0.046, 0.05),
          ring([0, 0.418, 0.185], 0.03, 0.034),
        ],
        [1, 0, 0],
        28,
      ),
    ),
    part(
      'tail',
      paints.white,
      along(
        [
          ring([0, 0.244, -0.17], 0.03, 0.016),
          ring([0, 0.246, -0.25], 0.048, 0.009),
          ring([0, 0.243, -0.33], 0.056, 0.005),
        ],
        [1, 0, 0],
        20,
      ),
    ),
    part(
      'wingL',
      paints.grey,
      along(
        [
          ring([0.05, 0.282, -0.01], 0.07, 0.02),
          ring([0.14, 0.3, 0.005], 0.078, 0.018),
          ring([0.26, 0.312, 0.015], 0.078, 0.015),
          ring([0.36, 0.31, 0.005], 0.07, 0.012),
          ring([0.47, 0.302, -0.03], 0.056, 0.009),
          ring([0.56, 0.294, -0.06], 0.042, 0.007),
        ],
        [0, 0, 1],
        22,
      ),
    ),
    part(
      'tipL',
      paints.ink,
      along(
        [
          ring([0.55, 0.295, -0.056], 0.044, 0.0075),
          ring([0.63, 0.288, -0.09], 0.03, 0.005),
          ring([0.69, 0.284, -0.118], 0.014, 0.0035),
        ],
        [0, 0, 1],
        18,
      ),
    ),
    part(
      'beak',
      ochre,
      along(
        [
          ring([0, 0.392, 0.205], 0.017, 0.018),
          ring([0, 0.388, 0.24], 0.012, 0.013),
          ring([0, 0.38, 0.272], 0.007, 0.008),
        ],
        [1, 0, 0],
        14,
      ),
    ),
    part('eyeL', paints.ink, egg([0.037, 0.405, 0.19], [0.008, 0.009, 0.009], 2, 12)),
    part(
      'legL',
      ochre,
      turned(
        [0.042, 0.195, -0.03],
        [0.042, 0.014, -0.012],
        [
          [0, 0.012],
          [0.35, 0.008],
          [0.62, 0.009],
          [1, 0.007],
        ],
        12,
      ),
    ),
    part(
      'webL',
      ochre,
      along(
        [
          ring([0.042, 0.006, -0.022], 0.008, 0.005),
          ring([0.043, 0.006, 0.015], 0.022, 0.0055),
          ring([0.045, 0.005, 0.048], 0.034, 0.0045),
        ],
        [1, 0, 0],
        16,
      ),
    ),
  ];
}

/** The joints of the middle and the left, as they are pressed in; the right ones come with the other half. */
function skeleton(body: Build): Build {
  let build = body;
  const put = (parent: string | null, name: string, place: Vector): string => {
    const [next, id] = addJoint(build, { name, parent, place, pairs: false });
    build = next;
    return id;
  };
  const hips = put(null, 'hips', [0, 0.235, -0.08]);
  const spine = put(hips, 'spine', [0, 0.24, -0.01]);
  const chest = put(spine, 'chest', [0, 0.25, 0.06]);
  const neck = put(chest, 'neck', [0, 0.29, 0.125]);
  const throat = put(neck, 'throat', [0, 0.335, 0.145]);
  put(throat, 'head', [0, 0.375, 0.155]);
  const tail = put(hips, 'tail', [0, 0.243, -0.18]);
  put(tail, 'tail tip', [0, 0.245, -0.26]);
  const arm = put(chest, 'arm L', [0.075, 0.288, 0.0]);
  const forearm = put(arm, 'forearm L', [0.28, 0.312, 0.012]);
  put(forearm, 'hand L', [0.49, 0.3, -0.036]);
  const thigh = put(hips, 'thigh L', [0.042, 0.2, -0.03]);
  const shin = put(thigh, 'shin L', [0.042, 0.105, -0.028]);
  const ankle = put(shin, 'ankle L', [0.042, 0.02, -0.014]);
  put(ankle, 'toes L', [0.043, 0.006, 0.012]);
  return build;
}
