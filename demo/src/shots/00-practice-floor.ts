import { bringRig, emptyShot, newRigMembers, type Shot } from '@varrup/core';
import { learnHarbour } from '../rigs/index.ts';

/** An empty floor with somebody to pose. */
export function practiceFloor(): Shot {
  learnHarbour();
  const shot = emptyShot('practice-floor', '00 Practice floor');
  return bringRig.apply(shot, newRigMembers(shot, { rig: 'porter', version: 2, id: 'porter' }));
}
