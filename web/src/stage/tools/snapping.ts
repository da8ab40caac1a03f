import { type Box, hasForm, type Shot, snapAlong, snapSize, topmost, toStep, withDescendants } from '@varrup/core';
import * as THREE from 'three';
import type { Snap } from '../../view/tool.ts';
import { worldBounds } from '../picture/picture.ts';
import type { InHand } from './handle-place.ts';

/** The steps of the ruled floor, metres; those of a turn, radians; those of a size. */
const STEP = 0.1;
const TURN = Math.PI / 12;
const SIZE = 0.1;
/** How near something must come to something, as a share of how far away it is looked at. */
const REACH = 0.02;

/** What a drag goes to. */
export interface Snapping {
  /** Turns go by this, radians, and sizes by this; 0 where they go anywhere. */
  readonly turn: number;
  readonly size: number;
  /**
   * Changes how far things are moved so that they come to what they go to.
   * @param delta how far, in the world @param pivot that of the leading one, before @param axis the one it is moved along; null where it is free
   */
  settle(delta: THREE.Vector3, pivot: THREE.Vector3, axis: THREE.Vector3 | null): void;
  /**
   * The factor at which what is sized comes to what it goes to.
   * @param pivot where it is sized from, in the world @param axes the directions it is sized along
   */
  factor(factor: number, pivot: THREE.Vector3, axes: readonly THREE.Vector3[]): number;
}

/** What a drag that begins now goes to; null where it goes anywhere. */
export function snappingOf(snap: Snap, moment: InHand, camera: THREE.Camera, at: THREE.Vector3): Snapping | null {
  if (snap === 'off') return null;
  if (snap === 'grid') return { turn: TURN, size: SIZE, settle: ontoGrid, factor: (f) => f };
  const { shot, frame, picked } = moment;
  const moving = withDescendants(shot, topmost(shot, picked));
  const own = worldBounds(
    shot,
    frame,
    [...moving].filter((id) => isSeen(shot, id)),
  );
  if (own.isEmpty()) return null;
  const others = shot.members
    .values()
    .filter((m) => !moving.has(m.id) && hasForm(m.kind) && frame.isVisible(frame.layout.slotOf.get(m.id) ?? 0))
    .map((m) => boxOf(worldBounds(shot, frame, [m.id])));
  const eye = new THREE.Vector3().setFromMatrixPosition(camera.matrixWorld);
  const reach = REACH * Math.max(1, eye.distanceTo(at));
  return {
    turn: TURN,
    size: 0,
    settle: (delta, _, axis) => againstThings(delta, axis, own, others, reach),
    factor: (factor, pivot, along) => sizedAgainst(factor, pivot, along, boxOf(own), others, reach),
  };
}

const isSeen = (shot: Shot, id: string): boolean => {
  const { kind } = shot.members.at(id);
  return hasForm(kind) || kind === 'rig';
};

const axes = ['x', 'y', 'z'] as const;

function ontoGrid(delta: THREE.Vector3, pivot: THREE.Vector3, axis: THREE.Vector3 | null): void {
  if (axis) {
    const along = pivot.clone().add(delta).dot(axis);
    delta.addScaledVector(axis, toStep(along, STEP) - along);
    return;
  }
  for (const a of axes) if (Math.abs(delta[a]) > 1e-6) delta[a] = toStep(pivot[a] + delta[a], STEP) - pivot[a];
}

function againstThings(
  delta: THREE.Vector3,
  axis: THREE.Vector3 | null,
  own: THREE.Box3,
  others: readonly Box[],
  reach: number,
): void {
  axes.forEach((a, i) => {
    // Only where it is moved at all; along a slanted axis it would leave it.
    const meant = axis ? Math.abs(axis[a]) > 0.9999 : Math.abs(delta[a]) > 1e-6;
    if (!meant) return;
    const there = boxOf(own.clone().translate(delta));
    delta[a] += snapAlong(there, others, i as 0 | 1 | 2, reach);
  });
}

/** The factor nearest to the hand's with which a face comes to something, along those directions that run along the world's. */
function sizedAgainst(
  factor: number,
  pivot: THREE.Vector3,
  along: readonly THREE.Vector3[],
  own: Box,
  others: readonly Box[],
  reach: number,
): number {
  const found = axes.flatMap((a, i) =>
    along.some((v) => Math.abs(v[a]) > 0.9999)
      ? [snapSize(own, pivot[a], factor, others, i as 0 | 1 | 2, reach)].filter((f) => f !== factor)
      : [],
  );
  return found.reduce((best, f) => (Math.abs(f - factor) < Math.abs(best - factor) ? f : best), found[0] ?? factor);
}

const boxOf = ({ min, max }: THREE.Box3): Box => ({ min: [min.x, min.y, min.z], max: [max.x, max.y, max.z] });
