import { bringRig, changeChannels, emptyShot, newRigMembers, type Shot } from '@varrup/core';
import { laidBy, withErrands, withGaits } from '../called.ts';
import { harbourRigs } from '../rigs/index.ts';

/** Who stands about on the practice floor, and where. The porter is of the first version: a newer one can be taken. */
const about = [
  { rig: 'porter', version: 1, x: 0, z: 0, turn: 0 },
  { rig: 'sack', version: 1, x: 0.62, z: 0.35, turn: 0 },
  { rig: 'goat', version: 1, x: -1.35, z: -0.1, turn: 0.5 },
] as const;

/** An empty floor with somebody to pose: nothing is keyed, everything may be tried. Clips to ask for lie ready, laid by. */
export function practiceFloor(): Shot {
  const standing = about.reduce<Shot>(
    (shot, { rig, version, x, z, turn }) => {
      const brought = bringRig.apply(shot, newRigMembers(shot, { rig, version, id: rig }));
      const places = { [`${rig}.move.x`]: x, [`${rig}.move.z`]: z, [`${rig}.turn.y`]: turn };
      const values = Object.fromEntries(Object.entries(places).filter(([, v]) => v !== 0));
      return changeChannels.apply(brought, { frame: 1, values, autoKey: 'off' });
    },
    emptyShot('practice-floor', '00 Practice floor', harbourRigs()),
  );
  return laidBy(withGaits(withErrands(standing, 'porter', 'Stroll'), 'goat'), 'goat');
}
