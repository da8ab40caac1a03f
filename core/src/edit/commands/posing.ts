import { type LimbRef, matched } from '../../body/match.ts';
import { mirrorChannel, mirrorSign, type Putting, poseChannels, posed } from '../../body/posing.ts';
import { clipAtWork } from '../../clip/at-work.ts';
import type { Curve, Key } from '../../curve/key.ts';
import { withHandleKind } from '../../curve/reshape.ts';
import { controlsOf } from '../../document/casting.ts';
import { type ChannelValue, channelPath, splitPath } from '../../document/channels.ts';
import type { Hold } from '../../document/hold.ts';
import type { Member } from '../../document/member.ts';
import { curvesOf } from '../../document/paths.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { channelValue } from '../../evaluate/channel-value.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { nextLayout } from '../../evaluate/layout.ts';
import { frameOf } from '../../evaluate/program.ts';
import { keyImage, type MirrorSign, mirrorImage } from '../../rig/image.ts';
import { defineCommand } from '../edit.ts';
import { type AutoKey, changeChannels } from './change.ts';

/** Poses put onto rigs, limbs going over from reach to joints, and who holds whom. */

/** Puts a pose onto a rig, as a hand would; or keyed on its frame. */
export const putPose = defineCommand<Putting & { name: string; autoKey: AutoKey; key: boolean }>({
  name: 'pose.put',
  label: ({ name, rig }, shot) => `put ${name} onto ${memberWords(shot, [rig])}`,
  apply(shot, { autoKey, key, ...putting }) {
    const { frame } = putting;
    const values = posed(shot, putting);
    if (!key) return changeChannels.apply(shot, { frame, values, autoKey });
    // A pose on a frame is all of it: channels that happen to hold their value there already are keyed too.
    const paths = controlsOf(shot, putting.rig)
      .filter((c) => !putting.only || putting.only.has(c.id))
      .flatMap((c) =>
        poseChannels(c, shot.rigs)
          .filter((channel) => Object.hasOwn(putting.pose, `${c.shape.control}.${channel.id}`))
          .map((channel) => channelPath(c.id, channel.id)),
      );
    // In a cycle what is not keyed in a pose would drift through it, from the pose before to the one after.
    const whole = clipAtWork(shot, putting.rig)?.cycles ?? false;
    const worth = paths.filter(
      (p) => whole || shot.curves.has(p) || Object.hasOwn(values, p) || shot.loose.has(p) || isUsed(shot, p),
    );
    const all = Object.fromEntries(worth.map((p) => [p, values[p] ?? channelValue(shot, p, frame)!]));
    return changeChannels.apply(shot, { frame, values: all, autoKey: 'every' });
  },
});

/** Whether a channel is away from its rest. */
function isUsed(shot: Shot, path: string): boolean {
  const { member, channel } = splitPath(path);
  return Object.hasOwn(shot.members.get(member)?.values ?? {}, channel);
}

/**
 * A limb goes over from reaching to joint by joint or back, without a jump. Where it is animated this is keyed: from the frame
 * on it is the other way, and before it nothing changes.
 */
export const switchLimb = defineCommand<LimbRef & { to: 'reach' | 'joints'; frame: number; words: string }>({
  name: 'limb.switch',
  label: ({ to, words }) => (to === 'reach' ? `reach with ${words}` : `turn ${words} joint by joint`),
  apply(shot, { to, frame, rig, limb }) {
    const values = matched(shot, { rig, limb }, to, frame);
    const own = limbMembers(shot, rig, limb);
    const animated = curvesOf(shot, own).length > 0;
    if (!animated) return changeChannels.apply(shot, { frame, values, autoKey: 'off' });
    const reach = Object.keys(values).find((path) => path.endsWith('.reach'))!;
    let next = shot;
    if (!shot.curves.has(reach)) {
      const first = Math.min(shot.range.first, frame - 1);
      const value = channelValue(shot, reach, frame)!;
      next = changeChannels.apply(next, { frame: first, values: { [reach]: value }, autoKey: 'every' });
      next = steppedAt(next, reach, first);
    }
    next = changeChannels.apply(next, { frame, values, autoKey: 'every' });
    return steppedAt(next, reach, frame);
  },
});

/** The members that work a limb: its target, its pole and its joints' controls. */
function limbMembers(shot: Shot, rig: string, id: string): Member[] {
  const member = shot.members.get(rig);
  const limb = member?.kind === 'rig' ? shot.rigs.at(member.shape).rig.limbs.find((l) => l.id === id) : undefined;
  const controls = limb ? [limb.dials, limb.pole, limb.target.id, ...limb.joints] : [];
  return controlsOf(shot, rig).filter((c) => controls.includes(c.shape.control));
}

function steppedAt(shot: Shot, path: string, frame: number): Shot {
  const curve = shot.curves.get(path);
  return curve ? { ...shot, curves: shot.curves.with(path, withHandleKind(curve, frame, 'out', 'stepped')) } : shot;
}

/** Who is to carry members from a frame on: their own carrier again, the stage, or a member or one of its joints. */
export type Carrying = Exclude<Hold['by'], { is: 'stage' }> | { readonly is: 'stage' };

/** From a frame on members are carried by somebody else, and stay where they stand at it. */
export const holdMembers = defineCommand<{ ids: readonly string[]; by: Carrying; frame: number }>({
  name: 'member.hold',
  label({ ids, by, frame }, shot) {
    const who = memberWords(shot, ids);
    if (by.is === 'own') return `let ${who} go at ${frame}`;
    if (by.is === 'stage') return `plant ${who} at ${frame}`;
    return `${memberWords(shot, [by.member])} takes ${who} at ${frame}`;
  },
  apply(shot, { ids, by, frame }) {
    const now = frameOf(shot, frame);
    const carrier = (id: string): Hold['by'] => (by.is === 'stage' ? { is: 'stage', at: spaceOf(now, id) } : by);
    const held = withHolds(shot, ids, frame, (rest, id) => [...rest, { frame, by: carrier(id) }]);
    // Nobody can be carried by what they carry themselves: then there is no layout.
    nextLayout(now.layout, shot, held);
    return held;
  },
});

/** Takes a change of carrier back. */
export const removeHold = defineCommand<{ ids: readonly string[]; frame: number }>({
  name: 'member.unhold',
  label: ({ ids, frame }, shot) => `take back who carries ${memberWords(shot, ids)} from ${frame} on`,
  apply: (shot, { ids, frame }) => withHolds(shot, ids, frame, (rest) => rest),
});

/** Where the space of a member is in the world: three numbers a column. */
function spaceOf({ layout, world }: Frame, id: string): number[] {
  const parent = layout.space[layout.slotOf.get(id) ?? 0];
  const at =
    parent < 0 ? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1] : [...world.subarray(parent * 16, parent * 16 + 16)];
  return at.filter((_, i) => i % 4 < 3);
}

function withHolds(
  shot: Shot,
  ids: readonly string[],
  frame: number,
  change: (rest: Hold[], id: string) => Hold[],
): Shot {
  const members = shot.members.edit();
  for (const id of ids) {
    const member = members.get(id);
    if (!member) continue;
    const rest = member.holds.filter((h) => Math.abs(h.frame - frame) > 1e-6);
    members.set(id, { ...member, holds: change(rest, id).sort((a, b) => a.frame - b.frame) });
  }
  return { ...shot, members: members.done() };
}

/**
 * Turns the motion of a rig, or of some of its controls, into its mirror image: left and right change places through all
 * frames from one to another. Controls whose partner is not among those meant take part with it all the same.
 */
export const mirrorMotion = defineCommand<{ rig: string; only?: readonly string[]; from: number; to: number }>({
  name: 'pose.mirrorMotion',
  label: ({ rig, from, to }, shot) => `mirror the motion of ${memberWords(shot, [rig])} from ${from} to ${to}`,
  apply(shot, { rig, only, from, to }) {
    const member = shot.members.get(rig);
    if (member?.kind !== 'rig') return shot;
    const { controls } = shot.rigs.at(member.shape).rig;
    const own = new Map(controlsOf(shot, rig).map((c) => [c.shape.control, c]));
    const meant = new Set(only);
    let next = shot;
    for (const control of controls) {
      const here = own.get(control.id)!;
      const there = own.get(control.partner ?? control.id)!;
      if (only && !meant.has(here.id) && !meant.has(there.id)) continue;
      const partner = shot.rigs.controlOf(there)!;
      for (const { id } of poseChannels(here, shot.rigs)) {
        const image = mirrorChannel(control, id);
        const [a, b] = [channelPath(here.id, id), channelPath(there.id, image)];
        // Each pair once; what is its own image is turned about by itself.
        if (a > b) continue;
        const sign = id === 'orientation' ? 'orientation' : mirrorSign(partner, image);
        next = swapped(next, a, b, sign, from, to);
      }
    }
    return next;
  },
});

function swapped(shot: Shot, a: string, b: string, sign: MirrorSign, from: number, to: number): Shot {
  const [ca, cb] = [shot.curves.get(a), shot.curves.get(b)];
  if (!ca && !cb) return swappedConstants(shot, a, b, sign);
  const curves = shot.curves.edit();
  const put = (path: string, own: Curve | undefined, other: Curve | undefined) => {
    const keys = (own?.keys ?? []) as readonly { frame: number }[];
    const outside = keys.filter((k) => k.frame < from || k.frame > to);
    const inside = ((other?.keys ?? []) as readonly Key[]).filter((k) => k.frame >= from && k.frame <= to);
    const mirroredKeys = inside.map((k) => keyImage(k, sign));
    const all = [...outside, ...mirroredKeys].sort((x, y) => x.frame - y.frame);
    if (all.length === 0) curves.delete(path);
    else curves.set(path, { ...(own ?? other!), keys: all } as Curve);
  };
  put(a, ca, cb);
  if (a !== b) put(b, cb, ca);
  return { ...shot, curves: curves.done() };
}

function swappedConstants(shot: Shot, a: string, b: string, sign: MirrorSign): Shot {
  const [va, vb] = [channelValue(shot, a, 0), channelValue(shot, b, 0)];
  if (va === undefined || vb === undefined) return shot;
  const values: Record<string, ChannelValue> = { [a]: mirrorImage(vb, sign), [b]: mirrorImage(va, sign) };
  return changeChannels.apply(shot, { frame: 0, values, autoKey: 'off' });
}
