import { contactsOf } from '../bounce/bounces.ts';
import type { Key, NumberCurve } from '../curve/key.ts';
import { keyIndexAt, withKey } from '../curve/reshape.ts';
import { CurveReader } from '../curve/sample.ts';
import { channelPath } from '../document/channels.ts';
import { deformChannel } from '../document/deformer.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { type Check, frameText, metresText } from './check.ts';
import { grounded } from './contact-gap.ts';

/** Nearer to the ground than this it may be squashed already. Metres. */
const AIR = 0.003;

/** The channels that make a member shorter upwards, where they have keys. */
function lengthPaths(shot: Shot, member: Member): string[] {
  const deformed = member.deformers.filter((d) => d.kind === 'squash').map((d) => deformChannel(d.id, 'length'));
  return [...deformed, 'size.y']
    .map((c) => channelPath(member.id, c))
    .filter((p) => shot.curves.get(p)?.type === 'number');
}

export const earlySquash: Check = {
  id: 'earlySquash',
  name: 'Squash before contact',
  why: 'It is the ground that squashes a thing, so nothing is squashed before it is there. On the frame before contact it is at its longest.',
  unit: '%',
  tolerance: 3,
  most: 50,
  step: 1,
  weight: 'fault',
  *look(watched, tolerance) {
    for (const { member, landings } of watched.landings) {
      for (const path of lengthPaths(watched.shot, watched.member(member))) {
        const reader = new CurveReader(watched.shot.curves.get(path) as NumberCurve);
        for (const { contact } of landings) {
          const frame = Math.ceil(contact.frame) - 1;
          if (frame <= contact.fall.top) continue;
          const round = reader.at(contact.fall.top);
          const short = (1 - reader.at(frame) / round) * 100;
          const gap = watched.gap(member, frame) ?? 0;
          if (short <= tolerance || gap < AIR) continue;
          yield {
            member,
            path,
            frame,
            value: short,
            text: `${watched.name(member)} is squashed by ${short.toFixed(0)} % at ${frame}, still ${metresText(gap)} above the ground: it lands at ${frameText(contact.frame)}.`,
          };
        }
      }
      yield null;
    }
  },
  fix: {
    words: 'squash on contact',
    apply(shot, { member, path, frame }) {
      const curve = path === null ? undefined : shot.curves.get(path);
      const height = shot.curves.get(channelPath(member, 'move.y'));
      if (path === null || frame === null || curve?.type !== 'number' || height?.type !== 'number') return shot;
      const contact = contactsOf(height).find((c) => c.frame > frame && c.frame <= frame + 1.5);
      if (!contact) return shot;
      const squashed = squashedAt(curve, contact.fall.top, frame, contact.frame);
      const next = { ...shot, curves: shot.curves.with(path, squashed) };
      // A size gets smaller about its middle: squashed there, it must be set on the ground anew.
      return path.endsWith('.size.y') ? grounded(next, channelPath(member, 'move.y'), contact.frame, null) : next;
    },
  },
};

/** A length that is as at the top up to the last frame in the air, and as short as it was meant to be at the contact. */
function squashedAt(curve: NumberCurve, top: number, air: number, contact: number): NumberCurve {
  const reader = new CurveReader(curve);
  const round = reader.at(top);
  const shortest = Math.min(
    reader.at(contact),
    ...curve.keys.filter((k) => k.frame > top && k.frame <= contact).map((k) => k.value),
  );
  let next = withKey(withKey(withKey(curve, top, round), air, round), contact, shortest);
  next = {
    ...next,
    keys: next.keys.filter((k) => k.frame <= top || k.frame >= contact || k.frame === air || k.value >= round),
  };
  const keys = [...next.keys];
  const shape = (frame: number, change: Partial<Key>) => {
    const i = keyIndexAt(keys, frame);
    keys[i] = { ...keys[i], ...change, joined: false };
  };
  shape(top, { out: { kind: 'flat' } });
  shape(air, { in: { kind: 'flat' }, out: { kind: 'linear' } });
  shape(contact, { in: { kind: 'linear' } });
  return { ...next, keys };
}
