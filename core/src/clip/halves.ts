import { controlsOf } from '../document/casting.ts';
import { channelPath, ORIENTATION, splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { keyImage, type MirrorSign } from '../rig/image.ts';
import { rigControl } from '../rig/library.ts';
import { mirrorChannel, mirrorSign } from '../rig/posing.ts';
import { type Circle, phaseOf } from './circle.ts';

/** The second half of a cycle as the mirror image of the first. */

/** The channel that does in one half what another does in the other half. */
export interface Counterpart {
  readonly path: string;
  readonly sign: MirrorSign;
}

/** Finds the counterparts of the channels of a clip's rig. */
export function counterparts(shot: Shot, { rig }: Clip): (path: string) => Counterpart | null {
  const byControl = new Map(controlsOf(shot, rig).map((c) => [c.shape.control, c]));
  return (path) => {
    const { member: id, channel } = splitPath(path);
    const control = shot.members[id] && rigControl(shot.members[id]);
    const there = control && byControl.get(control.partner ?? control.id);
    if (!there) return null;
    const other = mirrorChannel(control, channel);
    const partner = rigControl(there)!;
    return {
      path: channelPath(there.id, other),
      sign: other === ORIENTATION ? 'orientation' : mirrorSign(partner, other),
    };
  };
}

/** The phase half a cycle away. */
export const opposite = (clip: Clip, phase: number): number =>
  phaseOf({ first: 0, length: clip.length }, phase + clip.length / 2);

/** Puts the image of a key, or of there being none, into the circle of its counterpart. */
export function putImage(source: Circle, phase: number, into: Circle, clip: Clip, sign: MirrorSign): void {
  const key = source.get(phase);
  const at = opposite(clip, phase);
  if (key) into.set(at, { ...keyImage(key, sign), frame: clip.first + at });
  else into.delete(at);
}
