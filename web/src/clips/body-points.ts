import { channelPath, channelValue, controlsOf, type Shot } from '@varrup/core';

/** The controls whose arcs one looks at in a walk: hips, head, wrists and ankles. */
export function bodyPoints(shot: Shot, rig: string): string[] {
  const member = shot.members.get(rig);
  if (member?.kind !== 'rig') return [];
  const { limbs } = shot.rigs.at(member.shape).rig;
  const own = new Map(controlsOf(shot, rig).map((c) => [c.shape.control, c.id]));
  const ends = limbs.map((limb) => {
    const dials = own.get(limb.dials);
    const reaches = dials !== undefined && channelValue(shot, channelPath(dials, 'reach'), shot.play.first) !== 0;
    // An arm that is turned joint by joint has its hand where its last joint is.
    return own.get(reaches ? limb.dials : limb.joints[2]);
  });
  return [own.get('hips'), own.get('head'), ...ends].filter((id) => id !== undefined);
}
