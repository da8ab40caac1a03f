import type { Curve } from '../../curve/key.ts';
import { type Media, mediaHash, mediaOfRig } from '../../media/index.ts';
import { type Rig, type RigDraft, rigLimits, type Side } from '../../rig/definition.ts';
import { parseRig } from '../../rig/problems.ts';
import { problemText } from '../../schema/problem.ts';
import { Refused } from '../../schema/refused.ts';
import type { Scene, Vector3 } from '../scene/scene.ts';
import { type Bones, bonesOf } from './bones.ts';
import { curvesOfMotion } from './curves.ts';
import { meshesOf, type ShapeDial } from './meshes.ts';

/** A motion of a rig that came in: curves by `control.channel`, from frame 0 on. */
export interface TakenMotion {
  readonly name: string;
  /** In frames. */
  readonly length: number;
  readonly curves: ReadonlyMap<string, Curve>;
}

/** A rig made of a scene, with the motions it came with. */
export interface TakenRig {
  readonly rig: Rig;
  readonly motions: readonly TakenMotion[];
  /** The pictures of its bodies. */
  readonly media: Media;
  /** What of the scene is not in it, or in another way. */
  readonly left: readonly string[];
}

/**
 * Makes a rig of a scene: each node that moves or carries something is a joint with a control of its own, which moves, turns and sizes
 * it; bodies hang on them as they did, and each shape target has a dial.
 * @param rate frames a second of the shot its motions are for
 * @throws Refused where there is nothing in it, or more than a rig can be
 */
export function rigOfScene(scene: Scene, { id, name, rate }: { id: string; name: string; rate: number }): TakenRig {
  const bones = bonesOf(scene);
  if (bones.list.length === 0)
    throw new Refused('There is nothing in the file that could stand in a shot: no body, no joint.');
  const left = new Set<string>();
  const dials = dialsOf(scene);
  const draft: RigDraft = {
    id,
    version: 1,
    name,
    changes: 'As it came in.',
    joints: bones.list.map((bone) => ({
      id: bone.id,
      parent: bone.parent < 0 ? null : bones.list[bone.parent].id,
      place: bone.place,
      turn: bone.turn,
      by: { kind: 'control', control: bone.id },
    })),
    controls: [...controlsOf(bones), ...dialControls(dials)],
    meshes: meshesOf(scene, bones, dials),
    sets: [{ id: 'joints', name: 'joints', side: 'centre', controls: bones.list.map((bone) => bone.id) }],
  };
  const parsed = parseRig(draft);
  if (!parsed.ok) throw new Refused(`No rig can be made of it: ${parsed.problems.map(problemText).join('; ')}.`);
  const motions = scene.motions.map((motion): TakenMotion => {
    const { curves, unsaid } = curvesOfMotion(motion, bones, dials, rate);
    for (const text of unsaid) left.add(text);
    return { name: motion.name, length: Math.max(1, Math.ceil(motion.seconds * rate - 1e-6)), curves };
  });
  if (scene.meshes.some((m) => m.parts.some((p) => p.mesh.colours)))
    left.add('colours of corners: bodies have one each');
  if (scene.nodes.some((n) => n.camera)) left.add('cameras: they belong to a shot, not to a rig');
  if (scene.nodes.some((n) => n.light)) left.add('lights: they belong to a shot, not to a rig');
  const needed = new Set(mediaOfRig(parsed.value));
  const media = new Map(
    scene.pictures.map(({ bytes }) => [mediaHash(bytes), bytes] as const).filter(([hash]) => needed.has(hash)),
  );
  return { rig: parsed.value, motions, media, left: [...left] };
}

/** A control for each joint, that stands where the joint is and is carried by its parent's. */
function controlsOf({ list }: Bones): RigDraft['controls'] {
  const names = new Map(list.map((bone) => [bone.name.toLowerCase(), bone]));
  return list.map((bone, b) => {
    const side = sideOf(bone.name);
    const other = side === 'centre' ? undefined : names.get(otherSide(bone.name).toLowerCase());
    const partner = other && other !== bone && isMirrored(bone.place, other.place) ? other.id : null;
    const children = list.filter((other) => other.parent === b);
    const far = children.map(({ place }) => Math.hypot(...place.map((v, c) => v - bone.place[c])));
    const reach = Math.min(Math.max((far.length > 0 ? Math.max(...far) : 0.1) * 0.3, 0.02), 1);
    return {
      id: bone.id,
      name: bone.name.trim().slice(0, 80) || bone.id,
      side,
      partner,
      form: 'ring' as const,
      reach,
      place: bone.place,
      in: bone.parent < 0 ? null : { is: 'control' as const, id: list[bone.parent].id },
      move: 'xyz',
      turn: 'xyz',
      size: 'xyz',
      rotation: 'orientation' as const,
    };
  });
}

/** Whether two places mirror each other from side to side, as near as a rig asks for. */
const isMirrored = (a: Vector3, b: Vector3): boolean => Math.hypot(a[0] + b[0], a[1] - b[1], a[2] - b[2]) < 1e-6;

const LEFT = /(^|[^a-z])(left|l)([^a-z]|$)|Left/;
const RIGHT = /(^|[^a-z])(right|r)([^a-z]|$)|Right/;

/** Which side a name says. */
export function sideOf(name: string): Side {
  const spaced = name.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
  if (LEFT.test(spaced)) return 'left';
  return RIGHT.test(spaced) ? 'right' : 'centre';
}

/** The same name on the other side. */
export const otherSide = (name: string): string =>
  name.replace(/left|right|(?<![A-Za-z])[lr](?![A-Za-z])|(?<=[a-z])[LR](?![a-z])/gi, (word) => {
    const other = { left: 'right', right: 'left', l: 'r', r: 'l' }[word.toLowerCase()] ?? word;
    if (word === word.toUpperCase()) return other.toUpperCase();
    return word[0] === word[0].toUpperCase() ? other[0].toUpperCase() + other.slice(1) : other;
  });

/** A dial for each shape target of each node, as many to a control as it can have. */
function dialsOf(scene: Scene): ShapeDial[] {
  const dials: ShapeDial[] = [];
  scene.nodes.forEach(({ mesh }, node) => {
    if (mesh === undefined) return;
    scene.meshes[mesh].targets.forEach((name, target) => {
      const control = `shapes${Math.floor(dials.length / rigLimits.dials) + 1}`;
      dials.push({ node, target, name, path: `${control}.d${dials.length + 1}` });
    });
  });
  return dials;
}

function dialControls(dials: readonly ShapeDial[]): RigDraft['controls'] {
  const byControl = new Map<string, ShapeDial[]>();
  for (const dial of dials) {
    const [control] = dial.path.split('.');
    byControl.set(control, [...(byControl.get(control) ?? []), dial]);
  }
  return [...byControl].map(([id, own]) => ({
    id,
    name: id === 'shapes1' ? 'shapes' : id,
    side: 'centre' as const,
    form: 'diamond' as const,
    reach: 0.08,
    place: [0, 0, 0] as const,
    dials: own.map((dial) => ({
      id: dial.path.split('.')[1],
      label: dial.name.trim().slice(0, 80) || `shape ${dial.target + 1}`,
      min: -2,
      max: 2,
    })),
  }));
}
