import { type Shot, splitPath } from '@varrup/core';
import type { OnionSkin } from '../../view/habits.ts';

/** A neighbouring frame, and how strongly it is drawn. */
export interface GhostFrame {
  readonly frame: number;
  readonly side: 'before' | 'after';
  readonly strength: number;
}

/** The frames ghosts are of, the nearest ones strongest. */
export function ghostFrames(shot: Shot, ids: readonly string[], now: number, onion: OnionSkin): GhostFrame[] {
  const { before, after, every } = onion;
  const [back, on] =
    every === 'keys'
      ? keyFramesAround(shot, ids, now)
      : [
          Array.from({ length: before }, (_, i) => now - (i + 1) * every),
          Array.from({ length: after }, (_, i) => now + (i + 1) * every),
        ];
  const side = (frames: readonly number[], count: number, which: GhostFrame['side']) =>
    frames
      .filter((f) => f >= shot.range.first && f <= shot.range.last)
      .slice(0, count)
      .map((frame, i): GhostFrame => ({ frame, side: which, strength: 0.36 * (1 - i / (count + 1)) }));
  return [...side(back, before, 'before').reverse(), ...side(on, after, 'after')];
}

function keyFramesAround(shot: Shot, ids: readonly string[], now: number): [number[], number[]] {
  const own = new Set<string>();
  for (const id of ids)
    for (let at: string | null = id; at !== null; at = shot.members.get(at)?.parent ?? null) own.add(at);
  const frames = new Set<number>();
  for (const [path, curve] of shot.curves.entries()) {
    if (own.has(splitPath(path).member)) for (const key of curve.keys) frames.add(key.frame);
  }
  const sorted = [...frames].sort((a, b) => a - b);
  return [sorted.filter((f) => f < now - 1e-6).reverse(), sorted.filter((f) => f > now + 1e-6)];
}
