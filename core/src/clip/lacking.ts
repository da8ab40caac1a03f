import { controlsOf } from '../document/casting.ts';
import type { Clip } from '../document/clip.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { phaseOf } from './circle.ts';

/**
 * What a clip that repeats still lacks to be a cycle, as a sentence; null where it is one. While its first poses are made nobody wants to
 * hear that its halves differ and its feet slide, and nothing can be measured on half a step.
 */
export function lackingOf(shot: Shot, clip: Clip): string | null {
  if (!clip.cycles) return 'The clip ends and does not repeat.';
  const rig = shot.members.get(clip.rig);
  const compiled = rig?.kind === 'rig' ? shot.rigs.at(rig.shape) : null;
  const controls = controlsOf(shot, clip.rig);
  const soles = new Set(compiled?.rig.feet.map((f) => f.control));
  const feet = controls.filter((c) => soles.has(c.shape.control));
  const phases = new Set<number>();
  for (const control of feet.length > 0 ? feet : controls) {
    const own = curvesOf(shot, [control]);
    for (const [, curve] of own) for (const key of curve.keys) phases.add(phaseOf(clip, key.frame));
    if (feet.length > 0 && own.length === 0) return `${control.name} has no key yet.`;
  }
  if (feet.length === 0) return phases.size < 2 ? 'It has one pose, and needs two to move.' : null;
  return gapOf(clip, [...phases]);
}

/** Frames of a walk that go without a key of any foot: a quarter of it, as from contact to passing, and a frame for rounding. */
const longestGap = ({ length }: Clip) => Math.floor(length / 4) + 1;

function gapOf(clip: Clip, phases: number[]): string | null {
  phases.sort((a, b) => a - b);
  for (const [i, from] of phases.entries()) {
    const to = phases[i + 1] ?? phases[0] + clip.length;
    if (to - from <= longestGap(clip)) continue;
    const inGap = clip.labels.filter(({ frame }) => [frame, frame + clip.length].some((f) => f > from && f < to));
    const missing = inGap.map((l) => `${l.pose} at ${clip.first + l.frame}`);
    const poses =
      missing.length > 4
        ? `${missing.length} poses are`
        : `${listed(missing) || 'a pose'} ${missing.length > 1 ? 'are' : 'is'}`;
    return `No foot has a key between frames ${clip.first + from} and ${clip.first + to}: ${poses} missing.`;
  }
  return null;
}

const listed = (words: readonly string[]) =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
