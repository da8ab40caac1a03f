import type { Curve } from '../curve/key.ts';
import { channelPath, ORIENTATION } from '../document/channels.ts';
import { castOrder, childrenOf, freeNameAmong } from '../document/hierarchy.ts';
import type { Member } from '../document/member.ts';
import { curvesOf, pathsOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../pose/angles.ts';
import { quaternionMultiply } from '../pose/quaternion.ts';
import { orderAxes } from '../pose/rotation-order.ts';
import { keyImage } from '../rig/image.ts';
import type { Quaternion } from '../schema/numbers.ts';
import type { TableDraft } from '../table/table.ts';

/** Across which axis something is mirrored: from side to side, or from front to back. */
export type MirrorAxis = 'x' | 'z';
/** The turns that go the other way in the mirror. */
const mirroredTurns = { x: ['y', 'z'], z: ['x', 'y'] } as const;

/** A member with its form as in the mirror, where that is another one. */
function mirroredForm(member: Member, axis: MirrorAxis): Member {
  if (member.kind !== 'piece') return member;
  const at = axis === 'x' ? 0 : 2;
  const flipped = (list: readonly number[]) => list.map((v, i) => (i % 3 === at && v !== 0 ? -v : v));
  const { positions, normals, triangles, from } = member.shape;
  // What is seen from outside goes round the other way.
  const around = triangles.map((_, i) => triangles[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]);
  const [x, y, z] = flipped(from);
  return {
    ...member,
    shape: { positions: flipped(positions), normals: flipped(normals), triangles: around, from: [x, y, z] },
  };
}

/** New ids for members, by their old ones. */
type Copies = Readonly<Record<string, string>>;

/** The records of a shot that a copy has its own of. */
type Copied = 'members' | 'curves' | 'loose' | 'formulas' | 'recipes' | 'clips' | 'tracks';

/**
 * Copies of some members, with their keys and all else that is theirs, as many times as wanted. What is to be copied is gathered
 * once, so that the hundredth copy costs what the first does.
 */
export class Copying {
  readonly #shot: Shot;
  readonly #draft: { readonly [K in Copied]: TableDraft<ReturnType<Shot[K]['at']>> };
  readonly #members: readonly Member[];
  readonly #curves: readonly [string, Curve][];
  readonly #paths: readonly string[];
  readonly #names: Set<string>;
  /** The rank of the last child of each parent that got copies. */
  readonly #ranks = new Map<string | null, number>();

  /** @param copied its keys are the members to be copied */
  constructor(shot: Shot, copied: Copies) {
    this.#shot = shot;
    this.#draft = {
      members: shot.members.edit(),
      curves: shot.curves.edit(),
      loose: shot.loose.edit(),
      formulas: shot.formulas.edit(),
      recipes: shot.recipes.edit(),
      clips: shot.clips.edit(),
      tracks: shot.tracks.edit(),
    };
    this.#members = castOrder(shot).flatMap(({ member }) => (Object.hasOwn(copied, member.id) ? [member] : []));
    this.#curves = curvesOf(shot, this.#members);
    this.#paths = this.#members.flatMap((m) => pathsOf(m, shot.rigs));
    this.#names = new Set(shot.members.values().map((m) => m.name));
  }

  done(): Shot {
    const { members, curves, loose, formulas, recipes, clips, tracks } = this.#draft;
    return {
      ...this.#shot,
      members: members.done(),
      curves: curves.done(),
      loose: loose.done(),
      formulas: formulas.done(),
      recipes: recipes.done(),
      clips: clips.done(),
      tracks: tracks.done(),
    };
  }

  /** Makes one more copy, under these ids. */
  make(copies: Copies): void {
    for (const member of this.#members) this.#copyMember(member, copies);
    const pathOf = (path: string) => {
      const dot = path.indexOf('.');
      const id = path.slice(0, dot);
      return Object.hasOwn(copies, id) ? copies[id] + path.slice(dot) : null;
    };
    for (const [path, curve] of this.#curves) this.#draft.curves.set(pathOf(path)!, curve);
    for (const path of this.#paths) {
      const loose = this.#shot.loose.get(path);
      if (loose !== undefined) this.#draft.loose.set(pathOf(path)!, loose);
      const formula = this.#shot.formulas.get(path);
      // A copy's formula reads the copies of those it read, and others as they are.
      const inputs = formula?.inputs.map((i) => ({ ...i, path: pathOf(i.path) ?? i.path }));
      if (formula && inputs) this.#draft.formulas.set(pathOf(path)!, { ...formula, inputs });
    }
    const copied = <T>(record: Readonly<Record<string, T>>) =>
      Object.fromEntries(
        Object.entries(record).flatMap(([path, value]) => {
          const to = pathOf(path);
          return to ? [[to, value] as const] : [];
        }),
      );
    // A copy's recipe is known by what it is copied for, and so is its clip.
    const named = (id: string, member: string) => `${id.slice(0, 20)}-${member}`.slice(0, 40);
    const recipesOf = (all: readonly ReturnType<Shot['recipes']['at']>[]) =>
      all.flatMap((r) => {
        if (!Object.hasOwn(copies, r.member)) return [];
        const id = named(r.id, copies[r.member]);
        return [[id, { ...r, id, member: copies[r.member], written: copied(r.written) }] as const];
      });
    for (const [id, recipe] of recipesOf(this.#shot.recipes.values())) this.#draft.recipes.set(id, recipe);
    for (const clip of this.#shot.clips.values()) {
      if (!Object.hasOwn(copies, clip.rig)) continue;
      const rig = copies[clip.rig];
      const kept = clip.kept && {
        curves: copied(clip.kept.curves),
        recipes: Object.fromEntries(recipesOf(Object.values(clip.kept.recipes))),
      };
      const id = named(clip.id, rig);
      const follows = Object.fromEntries(Object.entries(clip.follows).map(([next, how]) => [named(next, rig), how]));
      this.#draft.clips.set(id, { ...clip, id, rig, follows, kept });
    }
    for (const track of this.#shot.tracks.values()) {
      if (!Object.hasOwn(copies, track.rig)) continue;
      const rig = copies[track.rig];
      const id = named(track.id, rig);
      const spans = track.spans.map((span) => ({
        ...span,
        clip: named(span.clip, rig),
        base: { ...span.base, clip: span.base.clip && named(span.base.clip, rig) },
      }));
      this.#draft.tracks.set(id, { ...track, id, rig, spans });
    }
  }

  #copyMember(member: Member, copies: Copies): void {
    const there = (id: string) => (Object.hasOwn(copies, id) ? copies[id] : id);
    const parent = member.parent === null ? null : there(member.parent);
    // A control is called as its rig says, and a copy is held by the copy of who held it.
    const isControl = member.kind === 'control';
    const name = isControl ? member.name : freeNameAmong(this.#names, member.name);
    this.#names.add(name);
    const holds = member.holds.map((h) =>
      h.by.is === 'member' ? { ...h, by: { ...h.by, member: there(h.by.member) } } : h,
    );
    const rank = isControl ? member.rank : this.#nextRank(parent);
    const id = copies[member.id];
    this.#draft.members.set(id, { ...member, id, parent, name, rank, holds });
  }

  #nextRank(parent: string | null): number {
    const last = this.#ranks.get(parent) ?? childrenOf(this.#shot, parent).at(-1)?.rank ?? 0;
    this.#ranks.set(parent, last + 1);
    return last + 1;
  }

  /**
   * Makes a copy the mirror image of what it is of, across the middle of its parent's space: places, turns and pivots with all their keys, and
   * forms whose sides differ. Rigs stand as their places say and are no mirror images.
   */
  mirror(copies: Copies, axis: MirrorAxis): void {
    const turned = new Set([`move.${axis}`, `pivot.${axis}`, ...mirroredTurns[axis].map((a) => `turn.${a}`)]);
    /** Those whose size turns them inside out, which does it for all that hangs on them. */
    const under = new Set<string>();
    for (const { id: old, kind, parent } of this.#members) {
      if (parent !== null && under.has(parent)) under.add(old);
      if (kind === 'control' || under.has(old)) continue;
      const id = copies[old];
      const lopsided = axis === 'x' && (kind === 'wedge' || kind === 'steps');
      if (lopsided) under.add(old);
      const signs = lopsided ? [...turned, 'size.x'] : turned;
      const member = this.#draft.members.at(id);
      const values = { ...member.values };
      for (const channel of signs) {
        const now = values[channel] ?? (channel === 'size.x' ? 1 : 0);
        if (now !== 0) values[channel] = -now;
        const path = channelPath(id, channel);
        const curve = this.#draft.curves.get(path);
        if (curve?.type === 'number')
          this.#draft.curves.set(path, { ...curve, keys: curve.keys.map((k) => keyImage(k, -1)) });
      }
      const [x, y, z, w] = member.orientation;
      const orientation: Quaternion = axis === 'x' ? [x, -y, -z, w] : [-x, -y, z, w];
      this.#draft.members.set(id, mirroredForm({ ...member, values, orientation }, axis));
      const path = channelPath(id, ORIENTATION);
      const turns = this.#draft.curves.get(path);
      if (turns?.type === 'orientation') {
        const image = ([a, b, c, d]: Quaternion): Quaternion => (axis === 'x' ? [a, -b, -c, d] : [-a, -b, c, d]);
        this.#draft.curves.set(path, { ...turns, keys: turns.keys.map((k) => ({ ...k, value: image(k.value) })) });
      }
    }
  }

  /**
   * Turns a copy about the upright, keyed or not. Angles that are keyed in an order in which the turn about the upright is not the last one
   * cannot say it, and stay.
   */
  turn(id: string, yaw: number): void {
    const member = this.#draft.members.at(id);
    if (member.rotation === 'angles' && orderAxes[member.order][2] === 1) {
      const now = member.values['turn.y'] ?? 0;
      const curve = this.#draft.curves.get(`${id}.turn.y`);
      if (curve?.type === 'number')
        this.#draft.curves.set(`${id}.turn.y`, {
          ...curve,
          keys: curve.keys.map((k) => ({ ...k, value: k.value + yaw })),
        });
      this.#draft.members.set(id, { ...member, values: { ...member.values, 'turn.y': now + yaw } });
      return;
    }
    this.turnBy(id, [0, Math.sin(yaw / 2), 0, Math.cos(yaw / 2)]);
  }

  /** Turns a copy in its parent's space. Angles that are keyed cannot say it, and stay. */
  turnBy(id: string, by: Quaternion): void {
    const member = this.#draft.members.at(id);
    const turnedOn = (value: Quaternion) => quaternionMultiply(by, value);
    if (member.rotation === 'orientation') {
      const path = channelPath(id, ORIENTATION);
      const curve = this.#draft.curves.get(path);
      if (curve?.type === 'orientation') {
        const keys = curve.keys.map((k) => ({ ...k, value: turnedOn(k.value) }));
        this.#draft.curves.set(path, { ...curve, keys });
      }
      this.#draft.members.set(id, { ...member, orientation: turnedOn(member.orientation) });
      return;
    }
    const axes = ['x', 'y', 'z'];
    if (axes.some((axis) => this.#draft.curves.get(`${id}.turn.${axis}`))) return;
    const now = axes.map((axis) => member.values[`turn.${axis}`] ?? 0) as Angles;
    const next = quaternionToAngles(turnedOn(anglesToQuaternion(now, member.order)), member.order, now);
    const turned = Object.fromEntries(axes.map((axis, i) => [`turn.${axis}`, next[i]]));
    this.#draft.members.set(id, { ...member, values: { ...member.values, ...turned } });
  }

  /** Moves a copy by adding to its move, keyed or not. */
  shift(id: string, offset: readonly [x: number, y: number, z: number]): void {
    const member = this.#draft.members.at(id);
    const values = { ...member.values };
    ['x', 'y', 'z'].forEach((axis, i) => {
      const path = `${id}.move.${axis}`;
      const curve = this.#draft.curves.get(path);
      values[`move.${axis}`] = (values[`move.${axis}`] ?? 0) + offset[i];
      if (curve?.type !== 'number') return;
      const keys = curve.keys.map((k) => ({ ...k, value: k.value + offset[i] }));
      this.#draft.curves.set(path, { ...curve, keys });
    });
    this.#draft.members.set(id, { ...member, values });
  }
}
