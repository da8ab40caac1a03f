import type { Curve, NumberCurve } from '../curve/key.ts';
import { controlsOf } from '../document/casting.ts';
import { channelPath, splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { anatomyOf } from './anatomy.ts';
import { tooHigh } from './fitting.ts';

/**
 * The curves of a clip with the body lowered, all of it evenly, until its legs reach the ground. Where they do, or where the rig has no
 * legs that a gait knows, the curves stay what they are.
 * @param curves those of the rig's controls, by path
 */
export function loweredToReach(
  shot: Shot,
  clip: Clip,
  curves: Readonly<Record<string, Curve>>,
): Readonly<Record<string, Curve>> {
  const member = shot.members.get(clip.rig);
  const compiled = member?.kind === 'rig' ? shot.rigs.find(member.shape) : undefined;
  const anatomy = compiled ? anatomyOf(compiled) : '';
  const controls = controlsOf(shot, clip.rig);
  const body = controls.find((c) => c.shape.control === 'body');
  if (typeof anatomy === 'string' || !body) return curves;
  const height = channelPath(body.id, 'move.y');
  const curve = curves[height];
  if (curve?.type !== 'number') return curves;
  const names = new Map(controls.map((c) => [c.id, c.shape.control]));
  const constants = controls.flatMap((c) =>
    Object.entries(c.values).map(
      ([channel, value]) => [channelPath(c.shape.control, channel), constant(clip.first, value)] as const,
    ),
  );
  const own = Object.entries(curves).flatMap(([path, c]) => {
    const { member: id, channel } = splitPath(path);
    return c.type === 'number' ? [[channelPath(names.get(id)!, channel), c] as const] : [];
  });
  const by = tooHigh(anatomy, [...constants, ...own], clip.first, clip.length);
  if (by === 0) return curves;
  return { ...curves, [height]: { ...curve, keys: curve.keys.map((k) => ({ ...k, value: k.value - by })) } };
}

/** What has no keys, as a curve that never changes. */
const constant = (frame: number, value: number): NumberCurve => ({
  type: 'number',
  keys: [{ frame, value, in: { kind: 'flat' }, out: { kind: 'flat' }, joined: true, role: 'key' }],
  before: 'hold',
  after: 'hold',
});
