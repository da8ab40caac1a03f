import {
  bake,
  bendsByPoint,
  byMaterial,
  type Choices,
  type Clip,
  castOrder,
  deformPoints,
  type Frame,
  formOf,
  isDeformed,
  Program,
  plainName,
  type Scene,
  type Shot,
  skinPoints,
  skinsOf,
  takeUpClip,
  usualChoices,
  writeGlb,
  writeSkinMatrices,
} from '@varrup/core';
import { validateBytes } from 'gltf-validator';
import * as THREE from 'three';
import { describe, expect, test } from 'vitest';
import { nightFerry } from '../index.ts';
import { ThreePlayer } from '../testing/three-player.ts';

/** A tenth of a millimetre, and a hundredth of a degree. */
const METRES = 1e-4;
const DEGREES = 0.01;

const choices = (shot: Shot): Choices => ({
  ...usualChoices,
  frames: shot.play,
  clips: shot.clips.values().map((clip) => clip.id),
  rate: shot.rate,
});

/** Where the vertices of a member's body are in the world at a frame, straight from the evaluator, and the node that shows them. */
function bodyAt(shot: Shot, frame: Frame, id: string): { node: string; points: Float64Array } | null {
  const member = shot.members.at(id);
  const slot = frame.layout.slotOf.get(id)!;
  if (!frame.isVisible(slot)) return null;
  const placed = frame.layout.rigAt.get(slot);
  const world = new THREE.Matrix4();
  let points: Float64Array;
  let inWorld = false;
  if (placed) {
    const skins = skinsOf(placed.compiled);
    const matrices = new Float64Array(placed.compiled.rig.joints.length * 16);
    writeSkinMatrices(frame, placed, matrices);
    const shown = bendsByPoint(frame, slot) ? skins : skins.filter((skin) => skin.targets.length === 0);
    points = Float64Array.from(
      byMaterial(shown)
        .flat()
        .flatMap((skin) => {
          const out = new Float64Array(skin.positions.length);
          skinPoints(frame, placed, skins.indexOf(skin), matrices, out);
          return [...out];
        }),
    );
    inWorld = !bendsByPoint(frame, slot);
    world.fromArray(frame.world, placed.root * 16);
  } else {
    points = Float64Array.from(formOf(member).flatMap((part) => [...part.mesh.positions]));
    deformPoints(frame, slot, points);
    world.fromArray(frame.world, slot * 16);
  }
  if (points.length === 0) return null;
  const point = new THREE.Vector3();
  if (!inWorld)
    for (let i = 0; i < points.length; i += 3) point.fromArray(points, i).applyMatrix4(world).toArray(points, i);
  const node = placed ? `${member.name} body` : isDeformed(frame, slot) ? `${member.name} form` : member.name;
  return { node: plainName(node), points };
}

/** The nodes of all joints, by the member and its joint: where two rigs have one of a name, the second one's has a number. */
function jointNodes(shot: Shot, scene: Scene): Map<string, string> {
  const taken = new Set<string>();
  const out = new Map<string, string>();
  const rigs = castOrder(shot).flatMap(({ member }) => (member.kind === 'rig' ? [member] : []));
  for (const rig of rigs) {
    for (const { id } of shot.rigs.find(rig.shape)!.rig.joints) {
      const pattern = new RegExp(`^${plainName(id)}(_\\d+)?$`);
      const node = scene.nodes.find(({ name }) => pattern.test(name) && !taken.has(name))!;
      taken.add(node.name);
      out.set(`${rig.id} ${id}`, node.name);
    }
  }
  return out;
}

/** The angle between two directions, exact where it is small as well. */
const angle = (a: THREE.Vector3, b: THREE.Vector3): number =>
  Math.atan2(new THREE.Vector3().crossVectors(a, b).length(), a.dot(b));

interface Worst {
  metres: number;
  degrees: number;
  vertices: number;
}

/** How far a motion, played by three, is from our frames at most, at whole and half frames. */
function worstOf(
  player: ThreePlayer,
  scene: Scene,
  motion: string,
  shot: Shot,
  span: { first: number; last: number },
  members: readonly string[],
): Worst {
  const program = new Program(shot);
  const frame = program.createFrame();
  const worst: Worst = { metres: 0, degrees: 0, vertices: 0 };
  const ours = new THREE.Matrix4();
  const joints = jointNodes(shot, scene);
  const [at, seen] = [new THREE.Vector3(), new THREE.Vector3()];
  for (let time = span.first; time <= span.last; time += 0.5) {
    program.evaluate(time, frame);
    player.show(motion, (time - span.first) / shot.rate);
    for (const id of members) {
      const placed = frame.layout.rigAt.get(frame.layout.slotOf.get(id)!);
      const body = time % 6 < 1 ? bodyAt(shot, frame, id) : null;
      if (body) {
        expect(player.count(body.node)).toBe(body.points.length / 3);
        for (const [v, point] of player.points(body.node, 17))
          worst.vertices = Math.max(worst.vertices, point.distanceTo(seen.fromArray(body.points, v * 3)));
      }
      placed?.compiled.rig.joints.forEach((joint, j) => {
        // A rig that is squashed as a whole takes its joints along: its vertices tell whether that is right.
        if (isDeformed(frame, placed.slot)) return;
        ours.fromArray(frame.world, (placed.joints + j) * 16);
        const theirs = player.world(joints.get(`${id} ${joint.id}`)!);
        worst.metres = Math.max(
          worst.metres,
          at.setFromMatrixPosition(ours).distanceTo(seen.setFromMatrixPosition(theirs)),
        );
        for (const axis of [0, 1, 2]) {
          at.setFromMatrixColumn(ours, axis);
          seen.setFromMatrixColumn(theirs, axis);
          worst.degrees = Math.max(worst.degrees, THREE.MathUtils.radToDeg(angle(at, seen)));
        }
      });
    }
  }
  return worst;
}

const doing = (shot: Shot, clip: Clip): Shot => {
  const at = takeUpClip.apply(shot, { id: clip.id });
  return {
    ...at,
    clips: at.clips.with(clip.id, { ...at.clips.at(clip.id), travelling: clip.travel !== 0, way: null }),
  };
};

describe.each(nightFerry.shots().map((shot) => ({ name: shot.name, shot })))('$name', ({ shot }) => {
  test('plays the same in a player of somebody else, and its file is without fault', async () => {
    const { scene } = bake(shot, choices(shot));
    const glb = await writeGlb(scene);
    const { issues } = await validateBytes(glb);
    expect(issues.messages.filter((m) => m.severity < 2)).toEqual([]);
    const player = await ThreePlayer.open(glb);
    const everybody = shot.members.keys().filter((id) => shot.members.at(id).kind !== 'control');
    const worst = worstOf(player, scene, scene.motions[0].name, shot, shot.play, [...everybody]);
    expect(worst.metres).toBeLessThan(METRES);
    expect(worst.degrees).toBeLessThan(DEGREES);
    expect(worst.vertices).toBeLessThan(METRES);
    shot.clips.values().forEach((clip, i) => {
      const span = { first: clip.first, last: clip.first + clip.length };
      const own = worstOf(player, scene, scene.motions[i + 1].name, doing(shot, clip), span, [clip.rig]);
      expect(own.metres).toBeLessThan(METRES);
      expect(own.degrees).toBeLessThan(DEGREES);
      expect(own.vertices).toBeLessThan(METRES);
    });
  });
});
