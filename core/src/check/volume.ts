import type { NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { channelPath } from '../document/channels.ts';
import { DeformerSchema, deformChannel } from '../document/deformer.ts';
import type { Bounds } from '../document/kinds/index.ts';
import { boundsOf, type Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { type Check, frameText } from './check.ts';
import { lookedAt, type Watched } from './watched.ts';

const AXES = ['x', 'y', 'z'] as const;
/** Axes whose sizes differ by less than this share grow together: that is growing, not squashing. */
const TOGETHER = 0.01;

export const volume: Check = {
  id: 'volume',
  name: 'Volume not kept',
  why: 'What gets shorter must get wider, or it seems to lose substance. The eye sees a volume that changes before it sees a squash.',
  unit: '%',
  tolerance: 2,
  most: 100,
  step: 1,
  weight: 'fault',
  *look(watched, tolerance) {
    for (const id of watched.shot.members.keys()) {
      const sizes = AXES.map((a) => watched.shot.curves.get(channelPath(id, `size.${a}`)));
      if (sizes.every((c) => c?.type !== 'number')) continue;
      const worst = worstVolume(watched, id);
      if (worst.change * 100 > tolerance) {
        yield {
          member: id,
          path: channelPath(id, `size.${leading(watched.shot, id)}`),
          frame: worst.frame,
          value: worst.change * 100,
          text: `${watched.name(id)} has ${worst.more ? 'more' : 'less'} volume by ${(worst.change * 100).toFixed(0)} % at ${frameText(worst.frame)} than at its first key: its sizes do not make up for one another.`,
          unfixable: watched.member(id).kind === 'group',
        };
      }
      yield null;
    }
  },
  fix: {
    words: 'squash that keeps volume',
    apply: (shot, { member }) => {
      // About its origin, as the sizes were, or about its foot: whichever leaves it nearer to the ground where it lands.
      const [about, foot] = [null, 0].map((level) => withSquashInstead(shot, member, level));
      return gapsOf(foot, member) < gapsOf(about, member) ? foot : about;
    },
  },
};

function worstVolume(watched: Watched, id: string): { change: number; frame: number; more: boolean } {
  const { shot } = watched;
  const member = watched.member(id);
  const read = AXES.map((a) => sizeReader(shot, member, a));
  const keys = AXES.flatMap((a) => shot.curves.get(channelPath(id, `size.${a}`))?.keys.map((k) => k.frame) ?? []);
  const first = Math.min(...keys);
  const base = read.map((r) => r(first));
  const whole = base[0] * base[1] * base[2];
  let worst = { change: 0, frame: first, more: false };
  for (const frame of keys) {
    const now = read.map((r) => r(frame));
    const shares = now.map((v, i) => v / (base[i] || 1));
    const uneven = Math.max(...shares) - Math.min(...shares) > TOGETHER * Math.max(...shares.map(Math.abs));
    const ratio = (now[0] * now[1] * now[2]) / (whole || 1);
    if (uneven && Math.abs(ratio - 1) > worst.change) worst = { change: Math.abs(ratio - 1), frame, more: ratio > 1 };
  }
  return worst;
}

function sizeReader(shot: Shot, member: Member, axis: (typeof AXES)[number]): (frame: number) => number {
  const curve = shot.curves.get(channelPath(member.id, `size.${axis}`));
  if (curve?.type === 'number') {
    const reader = new CurveReader(curve);
    return (frame) => reader.at(frame);
  }
  const value = member.values[`size.${axis}`] ?? 1;
  return () => value;
}

/** The axis that is squashed: the one that goes furthest from what it was, and another way than the rest. */
function leading(shot: Shot, id: string): (typeof AXES)[number] {
  const spread = (axis: (typeof AXES)[number]) => {
    const curve = shot.curves.get(channelPath(id, `size.${axis}`));
    if (curve?.type !== 'number') return 0;
    const first = curve.keys[0].value || 1;
    return Math.max(...curve.keys.map((k) => Math.abs(Math.log(Math.abs(k.value / first) || 1e-6))));
  };
  return AXES.reduce((best, axis) => (spread(axis) > spread(best) + 1e-9 ? axis : best), 'y');
}

/** How far a member is from the ground at all its landings together, in metres. */
const gapsOf = (shot: Shot, id: string): number =>
  lookedAt(shot)
    .landings.filter((l) => l.member === id)
    .flatMap((l) => l.landings)
    .reduce((sum, l) => sum + Math.abs(l.touch.gap), 0);

/** A squash deformer in the place of the sizes: it goes by the same curve, and keeps the volume at every frame. */
function withSquashInstead(shot: Shot, id: string, level: number | null): Shot {
  const member = shot.members.at(id);
  const axis = leading(shot, id);
  const old = shot.curves.get(channelPath(id, `size.${axis}`));
  if (old?.type !== 'number') return shot;
  const base = old.keys[0].value || 1;
  const scaled: NumberCurve = {
    ...old,
    keys: old.keys.map((k) => ({
      ...k,
      value: k.value / base,
      in: k.in.kind === 'free' ? { ...k.in, rise: k.in.rise / base } : k.in,
      out: k.out.kind === 'free' ? { ...k.out, rise: k.out.rise / base } : k.out,
    })),
  };
  const taken = new Set(member.deformers.map((d) => d.id));
  let name = 'size';
  for (let n = 2; taken.has(name); n++) name = `size${n}`;
  const deformer = DeformerSchema.parse({ id: name, name: 'squash', kind: 'squash', settings: { axis, space: 'own' } });
  const values = {
    ...member.values,
    [deformChannel(name, 'foot')]: level ?? originLevel(boundsOf(member, shot.rigs), axis),
  };
  const curves = shot.curves.edit();
  curves.set(channelPath(id, deformChannel(name, 'length')), scaled);
  for (const a of AXES) {
    const curve = curves.get(channelPath(id, `size.${a}`));
    if (curve?.type === 'number') values[`size.${a}`] = curve.keys[0].value;
    curves.delete(channelPath(id, `size.${a}`));
  }
  const changed = { ...member, values, deformers: [...member.deformers, deformer] };
  return { ...shot, curves: curves.done(), members: shot.members.with(id, changed) };
}

/** Where a member's origin is between its lowest and its highest: what size left standing must go on standing. */
function originLevel(bounds: Bounds, axis: (typeof AXES)[number]): number {
  const i = AXES.indexOf(axis);
  const [low, high] = [bounds[i], bounds[i + 3]];
  return high > low ? Math.min(1, Math.max(0, -low / (high - low))) : 0;
}
