import { type Frame, keyFrames, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { worldBounds } from './picture.ts';

/** As many keys, and as many frames between both ends, are looked at to know how far a motion goes. */
const KEYS = 64;
const BETWEEN = 24;

/** Frames of those that play at which a motion is likely to be furthest: its keys, or evenly chosen ones, and some between both ends. */
export function tellingFrames(shot: Shot, ids: readonly string[]): number[] {
  const { first, last } = shot.play;
  const inside = keyFrames(shot, ids).filter((frame) => frame > first && frame < last);
  const step = Math.max(1, inside.length / KEYS);
  const keys = Array.from({ length: Math.min(inside.length, KEYS) }, (_, i) => inside[Math.floor(i * step)]);
  // What moves by a formula has no keys.
  const even = Array.from({ length: BETWEEN + 1 }, (_, i) => first + ((last - first) * i) / BETWEEN);
  return [...new Set([...keys, ...even])];
}

/** The box around all that some members pass through while the shot plays; empty where there is nothing to see. */
export function motionBounds(shot: Shot, at: (time: number) => Frame, ids: readonly string[]): THREE.Box3 {
  const box = new THREE.Box3();
  for (const time of tellingFrames(shot, ids)) box.union(worldBounds(shot, at(time), ids));
  return box;
}
