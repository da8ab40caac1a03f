import { type Clip, CompiledWay, clipAtWork, controlsOf, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { useWay } from '../../clips/way-drawing.ts';
import { rigMeant } from '../../commands/rig-meant.ts';
import { colour } from '../../ui/theme.ts';
import { live } from '../../view/live.ts';
import type { Moment } from '../moment.ts';
import type { Overlay } from './overlay.ts';

/** More prints than this are too many to tell apart. */
const MOST_PRINTS = 160;
/** How far above the ground marks are drawn, metres. */
const ABOVE = 0.003;

/** What one can walk on. */
export const isGround = (shot: Shot | null, member: unknown): boolean => {
  const kind = shot?.members.get(String(member))?.kind;
  return (
    kind === 'plane' ||
    kind === 'box' ||
    kind === 'steps' ||
    kind === 'wedge' ||
    kind === 'block' ||
    kind === 'cylinder'
  );
};

/** What is drawn on the ground: prints of the feet of a walk, the way it is laid along, and a way that is being drawn. */
export class GroundMarks implements Overlay {
  readonly scene = new THREE.Scene();
  #made: { shot: Shot; rig: string | null; prints: boolean; points: readonly unknown[] } | null = null;

  show({ shot, picked, habits: { footprints } }: Moment): void {
    const { clip: drawn, points } = useWay.getState();
    const rig = footprints || picked.length > 0 || drawn ? rigMeant(shot, picked) : null;
    const made = this.#made;
    if (made && made.shot === shot && made.rig === rig && made.prints === footprints && made.points === points) return;
    this.#made = { shot, rig, prints: footprints, points };
    this.#clear();
    const clip = rig ? clipAtWork(shot, rig) : null;
    if (clip && footprints) this.#prints(shot, clip);
    if (clip?.way && clip.travelling && !drawn) this.#line(wayPoints(clip), 'blue', 0.55);
    if (drawn && points.length > 0) this.#drawing(points);
  }

  recolour(): void {
    this.#made = null;
  }

  dispose(): void {
    this.#clear();
  }

  #clear(): void {
    for (const part of [...this.scene.children] as (THREE.Mesh | THREE.Line)[]) {
      part.geometry.dispose();
      (part.material as THREE.Material).dispose();
      this.scene.remove(part);
    }
  }

  #prints(shot: Shot, clip: Clip): void {
    const member = shot.members.get(clip.rig);
    if (member?.kind !== 'rig') return;
    const { feet, controls } = shot.rigs.at(member.shape).rig;
    const own = new Map(controlsOf(shot, clip.rig).map((c) => [c.shape.control, c.id]));
    let count = 0;
    for (const foot of feet) {
      const control = controls.find((c) => c.id === foot.control);
      const slot = live.now!.layout.slotOf.get(own.get(foot.control) ?? '');
      if (!control || slot === undefined) continue;
      for (const middle of middlesOf(shot, clip, foot.control)) {
        if (count++ >= MOST_PRINTS) return;
        const { world } = live.sample(middle)!;
        const matrix = new THREE.Matrix4().fromArray(world, slot * 16);
        const at = (p: readonly [number, number, number]) =>
          new THREE.Vector3(...(p.map((v, i) => v - control.place[i]) as [number, number, number]));
        const outline = soleOf([foot.heel, foot.inner, foot.toe, foot.outer].map(at)).map((p) =>
          p.applyMatrix4(matrix),
        );
        this.#print(outline, control.side === 'left' ? 'teal' : 'plum');
      }
    }
  }

  #print(outline: readonly THREE.Vector3[], tint: 'teal' | 'plum'): void {
    const lifted = outline.map((p) => p.clone().setY(p.y + ABOVE));
    const middle = lifted.reduce((s, p) => s.addScaledVector(p, 1 / lifted.length), new THREE.Vector3());
    const fan = lifted.flatMap((p, i) => [middle, p, lifted[(i + 1) % lifted.length]]);
    const geometry = new THREE.BufferGeometry().setFromPoints(fan);
    const material = new THREE.MeshBasicMaterial({
      color: colour(tint),
      transparent: true,
      opacity: 0.62,
      side: THREE.DoubleSide,
      depthTest: false,
    });
    this.scene.add(new THREE.Mesh(geometry, material));
  }

  #drawing(points: readonly (readonly [number, number, number])[]): void {
    const dots = new THREE.BufferGeometry().setFromPoints(points.map((p) => new THREE.Vector3(...p)));
    const material = new THREE.PointsMaterial({
      color: colour('blue'),
      size: 9 * devicePixelRatio,
      sizeAttenuation: false,
      depthTest: false,
    });
    this.scene.add(new THREE.Points(dots, material));
    if (points.length < 2) return;
    const way = new CompiledWay({ points: [...points], ground: [[0, 0]] });
    this.#line(alongPoints(way, points), 'blue', 0.8);
  }

  #line(points: readonly THREE.Vector3[], tint: 'blue', opacity: number): void {
    const geometry = new THREE.BufferGeometry().setFromPoints([...points]);
    const material = new THREE.LineBasicMaterial({ color: colour(tint), transparent: true, opacity, depthTest: false });
    this.scene.add(new THREE.Line(geometry, material));
  }
}

/** The middles of a foot's stances in the frames that play; in place one round of them. */
function middlesOf(shot: Shot, { stances, first, length, cycles, travelling }: Clip, control: string): number[] {
  const own = stances[control] ?? [];
  if (!cycles || !travelling) return own.map(({ from, to }) => first + (from + to) / 2);
  const out: number[] = [];
  const rounds = Math.ceil((shot.play.last - first) / length);
  for (let n = Math.floor((shot.play.first - first) / length); n <= rounds; n++) {
    for (const { from, to } of own) {
      const middle = first + n * length + (from + to) / 2;
      if (middle >= shot.play.first && middle <= shot.play.last) out.push(middle);
    }
  }
  return out;
}

/** A round outline through the edges of a sole: heel, inside, toe, outside. */
function soleOf(edges: readonly THREE.Vector3[]): THREE.Vector3[] {
  return new THREE.CatmullRomCurve3([...edges], true, 'catmullrom', 0.9).getPoints(28);
}

const place = new Float64Array(3);

function wayPoints({ way }: Clip): THREE.Vector3[] {
  const compiled = new CompiledWay(way!);
  const count = Math.min(800, Math.max(2, Math.ceil(compiled.length / 0.03)));
  return Array.from({ length: count + 1 }, (_, i) => {
    const d = (compiled.length * i) / count;
    compiled.placeAt(d, place);
    return new THREE.Vector3(place[0], compiled.heightAt(d) + ABOVE, place[1]);
  });
}

/** A way that has no ground yet, at the heights of its points. */
function alongPoints(way: CompiledWay, points: readonly (readonly [number, number, number])[]): THREE.Vector3[] {
  const count = Math.min(400, Math.max(2, Math.ceil(way.length / 0.05)));
  return Array.from({ length: count + 1 }, (_, i) => {
    way.placeAt((way.length * i) / count, place);
    const near = points.reduce((a, b) =>
      Math.hypot(b[0] - place[0], b[2] - place[1]) < Math.hypot(a[0] - place[0], a[2] - place[1]) ? b : a,
    );
    return new THREE.Vector3(place[0], near[1] + ABOVE, place[1]);
  });
}
