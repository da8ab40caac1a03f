import { mirrorChannel, mirrorSign, poseChannels } from '../body/posing.ts';
import { controlsOf } from '../document/casting.ts';
import { channelPath, ORIENTATION, splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { keyImage, type MirrorSign, mirrorImage } from '../rig/image.ts';
import { type Circle, circleOf, laidOut, phaseOf } from './circle.ts';
import { shiftedStances } from './shift.ts';

/** The second half of a cycle as the mirror image of the first. */

/** The channel that does in one half what another does in the other half. */
export interface Counterpart {
  readonly path: string;
  readonly sign: MirrorSign;
}

/** Finds the counterparts of the channels of a rig. */
export function counterparts(shot: Shot, { rig }: Pick<Clip, 'rig'>): (path: string) => Counterpart | null {
  const byControl = new Map(controlsOf(shot, rig).map((c) => [c.shape.control, c]));
  return (path) => {
    const { member: id, channel } = splitPath(path);
    const control = shot.members.get(id) && shot.rigs.controlOf(shot.members.at(id));
    const there = control && byControl.get(control.partner ?? control.id);
    if (!there) return null;
    const other = mirrorChannel(control, channel);
    const partner = shot.rigs.controlOf(there)!;
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

/**
 * The curves of a clip with one half made the mirror image of the other.
 * @param leads the half that stays as it is
 */
export function withMirroredHalves(shot: Shot, clip: Clip, leads: 'first' | 'second'): Shot {
  const { length, first } = clip;
  const counterpart = counterparts(shot, clip);
  const inLead = (phase: number) => phase < length / 2 === (leads === 'first');
  const lead = new Map<string, Circle>();
  for (const [path, curve] of curvesOf(shot, controlsOf(shot, clip.rig))) {
    const circle = circleOf(curve, clip, curve);
    lead.set(path, new Map([...circle].filter(([phase]) => inLead(phase))));
  }
  const made = new Map([...lead].map(([path, circle]) => [path, new Map(circle)]));
  for (const [path, circle] of lead) {
    const other = counterpart(path);
    if (!other) continue;
    const into = made.get(other.path) ?? new Map();
    made.set(other.path, into);
    for (const phase of circle.keys()) putImage(circle, phase, into, clip, other.sign);
  }
  const curves = shot.curves.edit();
  for (const [path, circle] of made) {
    const [key] = circle.values();
    const curve = key && laidOut(circle, typeof key.value === 'number' ? 'number' : 'orientation', { ...clip, first });
    if (curve) curves.set(path, curve);
    else curves.delete(path);
  }
  return mirroredConstants({ ...shot, curves: curves.done() }, clip);
}

/** What has no keys is the same on both sides: as it is on the left. */
function mirroredConstants(shot: Shot, clip: Clip): Shot {
  const members = shot.members.edit();
  const counterpart = counterparts(shot, clip);
  for (const control of controlsOf(shot, clip.rig)) {
    if (shot.rigs.control(control.shape)?.side !== 'left') continue;
    for (const { id } of poseChannels(control, shot.rigs)) {
      const path = channelPath(control.id, id);
      const other = counterpart(path);
      if (!other || other.sign === 'orientation' || shot.curves.has(path) || shot.curves.has(other.path)) continue;
      const { member, channel } = splitPath(other.path);
      const [own, there] = [members.at(control.id).values[id], members.at(member).values[channel]];
      const image = own === undefined ? undefined : (mirrorImage(own, other.sign) as number);
      if (image === there) continue;
      const { [channel]: _, ...rest } = members.at(member).values;
      members.set(member, {
        ...members.at(member),
        values: image === undefined ? rest : { ...rest, [channel]: image },
      });
    }
  }
  return { ...shot, members: members.done() };
}

/** The stances of a clip's feet with those of the one half made the image of the other. */
export function mirroredStances(shot: Shot, clip: Clip, leads: 'first' | 'second'): Clip['stances'] {
  const out: Clip['stances'] = {};
  for (const { shape } of controlsOf(shot, clip.rig)) {
    const own = clip.stances[shape.control];
    const partner = shot.rigs.control(shape)?.partner;
    if (!own || !partner) {
      if (own) out[shape.control] = own;
      continue;
    }
    for (const stance of own) {
      if (stance.from < clip.length / 2 !== (leads === 'first')) continue;
      out[shape.control] = [...(out[shape.control] ?? []), stance];
      out[partner] = [...(out[partner] ?? []), ...shiftedStances([stance], clip.length, clip.length / 2)];
    }
  }
  return out;
}
