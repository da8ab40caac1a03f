import { controlsOf } from '../document/casting.ts';
import { channelPath, constantValue, findChannel } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';

/**
 * The controls of a rig that do nothing: those that turn the joints of limbs which reach, wherever that is not animated. To key them
 * fills the sheet with lines that move nothing.
 */
export function idleControls(shot: Shot, rig: string): Set<string> {
  const out = new Set<string>();
  const member = shot.members.get(rig);
  const compiled = member?.kind === 'rig' ? shot.rigs.at(member.shape) : null;
  const byControl = new Map(controlsOf(shot, rig).map((c) => [c.shape.control, c]));
  for (const { dials, joints } of compiled?.rig.limbs ?? []) {
    const holder = byControl.get(dials);
    const channel = holder && findChannel(holder, 'reach', shot.rigs);
    if (!holder || !channel) continue;
    const path = channelPath(holder.id, channel.id);
    if (shot.curves.has(path) || shot.loose.has(path) || shot.formulas.has(path)) continue;
    if (constantValue(holder, channel) < 1) continue;
    for (const joint of joints) {
      const control = byControl.get(joint);
      if (control) out.add(control.id);
    }
  }
  return out;
}
