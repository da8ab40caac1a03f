import type { Frame, PlacedRig } from '@varrup/core';

/** Which limbs reach and which are turned joint by joint, as a word to compare. */
export const actingKey = (frame: Frame, rig: PlacedRig): string =>
  `${rig.slot}:${rig.compiled.rig.limbs.map((l) => limbWay(frame, rig, l.dials)).join('')}`;

/** `r` reaching, `j` joint by joint, `b` between. */
function limbWay(frame: Frame, rig: PlacedRig, dials: string): 'r' | 'j' | 'b' {
  const slot = rig.controls[rig.compiled.controlAt.get(dials)!];
  const reach = frame.values[frame.layout.base[slot] + frame.layout.channelAt[slot].get('reach')!];
  return reach > 0.999 ? 'r' : reach < 0.001 ? 'j' : 'b';
}

/** The controls of a rig that do something now: not the joints of a limb that reaches, nor the pole of one that does not. */
export function actingControls(frame: Frame, rig: PlacedRig): Set<string> {
  const out = new Set(rig.compiled.rig.controls.map((c) => c.id));
  for (const limb of rig.compiled.rig.limbs) {
    const way = limbWay(frame, rig, limb.dials);
    if (way === 'r') for (const id of limb.joints) out.delete(id);
    if (way === 'j') for (const id of [limb.pole, limb.dials]) out.delete(id);
  }
  return out;
}
