import * as THREE from 'three';
import { type Company, inStep, type Member, membersOf } from './company.ts';

/** A number or several of an object that motions move, and what they are where nobody moves them. */
interface Slot {
  readonly node: string;
  readonly of: 'position' | 'quaternion' | 'scale' | 'morphTargetInfluences';
  readonly object: THREE.Object3D;
  readonly rest: readonly number[];
  readonly value: Float64Array;
}

/** What a motion has for a slot. */
interface Lane {
  readonly slot: Slot;
  read(time: number): ArrayLike<number>;
  /** What it has at its beginning: what lies on top is measured from there. */
  readonly base: readonly number[];
}

/** A track as the loader makes it: it brings what reads between its keys. */
interface Sampled {
  createInterpolant(result: Float32Array): { evaluate(time: number): ArrayLike<number> };
}

/** A motion that plays. */
interface Playing {
  readonly member: Member;
  readonly lanes: ReadonlyMap<Slot, Lane>;
  time: number;
  /** How long it has been there, seconds. */
  since: number;
  /** Since when it is to go; null while it is to stay. */
  leaving: number | null;
}

const ease = (u: number, shape: Company['shape']): number => {
  const t = Math.min(1, Math.max(0, u));
  return shape === 'even' ? t : t * t * (3 - 2 * t);
};

/** How fast a body turns by the arrows left and right, radians a second. */
const TURNS = 1.8;

/**
 * Plays a file by arrows and keys, as a game would: one motion has the body and gives way to those that say they follow it, in step where both have feet; others
 * come and go over it by their keys. It takes only what stands in the file.
 */
export class Driven {
  readonly members: readonly Member[];
  readonly #slots: readonly Slot[];
  readonly #lanes = new Map<Member, ReadonlyMap<Slot, Lane>>();
  readonly #carrier: THREE.Object3D | null;
  readonly #start: { readonly position: THREE.Vector3; readonly turn: THREE.Quaternion } | null;
  /** Who has the body, and who had it before and is on its way out. */
  #body: Playing | null = null;
  #before: Playing | null = null;
  /** How long the crossing takes, seconds. */
  #crossing = 0;
  #over: Playing[] = [];
  #heading = 0;
  #turning = 0;

  private constructor(scene: THREE.Object3D, members: readonly Member[]) {
    this.members = members;
    const carried = members.find((m) => m.company.travel)?.company.travel?.node;
    this.#carrier = carried ? (nodeCalled(scene, carried) ?? null) : null;
    this.#start = this.#carrier && {
      position: this.#carrier.position.clone(),
      turn: this.#carrier.quaternion.clone(),
    };
    const slots = new Map<string, Slot>();
    for (const member of members) this.#lanes.set(member, this.#lanesOf(scene, member, slots));
    this.#slots = [...slots.values()];
  }

  /** Everybody of a file who can be driven: whose motions say what follows what, or which key asks for them. */
  static allOf(scene: THREE.Object3D, clips: readonly THREE.AnimationClip[]): Driven[] {
    const all = membersOf(clips);
    return [...new Set(all.map((m) => m.company.of))].flatMap((whom) => {
      const members = all.filter((m) => m.company.of === whom);
      const isLed = members.some(({ company }) => company.follows.length > 0 || company.key !== null);
      return isLed ? [new Driven(scene, members)] : [];
    });
  }

  /** The node of whom it drives. */
  get whom(): string {
    return this.members[0].company.of;
  }

  /** The motions that can have the body: those that are led to or from, or else move all of it. */
  get bodies(): Member[] {
    const led = new Set(this.members.flatMap((m) => m.company.follows.map((f) => f.motion)));
    return this.members.filter((m) => m.company.follows.length > 0 || led.has(m.clip.name) || m.company.key === null);
  }

  /** What goes over the ground; null where nothing does. */
  get carrier(): THREE.Object3D | null {
    return this.#carrier;
  }

  /** What plays, in words. */
  get words(): string {
    const names = [this.#body, ...this.#over].flatMap((p) => (p ? [p.member.clip.name] : []));
    return names.join(' · ');
  }

  begin(name: string): void {
    const member = this.members.find((m) => m.clip.name === name);
    this.#body = member ? this.#playing(member, 0) : null;
    [this.#before, this.#crossing, this.#over, this.#heading, this.#turning] = [null, 0, [], 0, 0];
    if (this.#carrier && this.#start) {
      this.#carrier.position.copy(this.#start.position);
      this.#carrier.quaternion.copy(this.#start.turn);
    }
  }

  /** An arrow goes down. Where none is led to by it, left and right turn the body. */
  press(by: 'up' | 'down' | 'left' | 'right'): void {
    if (this.#follow(by)) return;
    if (by === 'left') this.#turning = 1;
    if (by === 'right') this.#turning = -1;
  }

  /** An arrow comes up. */
  release(by: string): void {
    if (by === 'left' || by === 'right') this.#turning = 0;
  }

  /** A key starts the motion that has it, or stops it where it plays. */
  ask(key: string): boolean {
    const member = this.members.find((m) => m.company.key === key);
    if (!member) return false;
    const there = this.#over.find((p) => p.member === member && p.leaving === null);
    if (there) there.leaving = there.since;
    else {
      this.#over = [...this.#over.filter((p) => p.member !== member), this.#playing(member, 0)];
      this.#over.sort((a, b) => a.member.company.rank - b.member.company.rank);
    }
    return true;
  }

  #playing(member: Member, time: number): Playing {
    return { member, lanes: this.#lanes.get(member)!, time, since: 0, leaving: null };
  }

  #follow(by: 'up' | 'down' | 'left' | 'right' | 'end'): boolean {
    const now = this.#body;
    // Who has not come in wholly does not give way yet.
    if (!now || this.#before) return false;
    const how = now.member.company.follows.find((f) => f.by === by);
    const next = how && this.members.find((m) => m.clip.name === how.motion);
    if (!how || !next) return false;
    const steps = now.member.company.repeats && next.company.repeats;
    this.#before = now;
    this.#body = this.#playing(next, steps ? inStep(now.member, now.time, next) : 0);
    this.#crossing = how.seconds;
    return true;
  }

  /** Goes on by some seconds, and puts everything where it is then. */
  advance(by: number): void {
    const now = this.#body;
    if (!now) return;
    const share = this.#share(now);
    const before = this.#before;
    const [rate, rateBefore] = this.#rates(share);
    const pace = (p: Playing, r: number) => ((p.member.company.travel?.metres ?? 0) / p.member.clip.duration) * r;
    const speed = before ? pace(before, rateBefore) * (1 - share) + pace(now, rate) * share : pace(now, rate);
    const { turn } = now.member.company;
    const rounds = now.member.company.repeats ? 0 : turn / now.member.clip.duration;
    this.#move(speed * by, (this.#turning * TURNS + rounds) * by);
    goOn(now, by * rate);
    if (before) goOn(before, by * rateBefore);
    for (const over of this.#over) goOn(over, by);
    this.#over = this.#over.filter((p) => !isGone(p));
    if (before && this.#share(now) >= 1) this.#before = null;
    const { company, clip } = now.member;
    const end = company.follows.find((f) => f.by === 'end');
    if (end && !company.repeats && !company.loop && now.time >= clip.duration - end.seconds) this.#follow('end');
    this.#put();
  }

  #share(now: Playing): number {
    return this.#before && this.#crossing > 0 ? ease(now.since / this.#crossing, now.member.company.shape) : 1;
  }

  /** How fast the two that cross go: where both have feet they keep step. */
  #rates(share: number): [now: number, before: number] {
    const [now, before] = [this.#body!.member, this.#before?.member];
    if (!before || !now.company.repeats || !before.company.repeats) return [1, 1];
    const rounds = (1 - share) / before.clip.duration + share / now.clip.duration;
    return [rounds * now.clip.duration, rounds * before.clip.duration];
  }

  #move(along: number, turn: number): void {
    if (!this.#carrier || !this.#start) return;
    this.#heading += turn;
    this.#carrier.quaternion.copy(this.#start.turn).multiply(turned.setFromAxisAngle(UP, this.#heading));
    this.#carrier.position.addScaledVector(ahead.set(0, 0, 1).applyQuaternion(this.#carrier.quaternion), along);
  }

  #put(): void {
    const now = this.#body!;
    const share = this.#share(now);
    for (const slot of this.#slots) {
      slot.value.set(valueIn(this.#before ?? now, slot));
      if (this.#before) mix(slot, valueIn(now, slot), share);
    }
    for (const over of this.#over) this.#lay(over);
    for (const slot of this.#slots) put(slot);
  }

  #lay(over: Playing): void {
    const { part, plays } = over.member.company;
    const weight = weightOf(over);
    for (const slot of this.#slots) {
      const lane = over.lanes.get(slot);
      const own = part ? (part[slot.node] ?? 0) : lane ? 1 : 0;
      if (own * weight === 0) continue;
      const value = lane ? lane.read(over.time) : slot.rest;
      if (plays === 'instead') mix(slot, value, own * weight);
      else if (lane) addOn(slot, value, lane.base, own * weight);
    }
  }

  #lanesOf(scene: THREE.Object3D, { clip }: Member, slots: Map<string, Slot>): ReadonlyMap<Slot, Lane> {
    const lanes = new Map<Slot, Lane>();
    for (const track of clip.tracks) {
      const { nodeName, propertyName } = THREE.PropertyBinding.parseTrackName(track.name);
      const object = nodeCalled(scene, nodeName);
      // Where the body goes is reckoned here, and not taken from the motion.
      if (!object || object === this.#carrier || !isMoved(propertyName)) continue;
      const slot = slots.get(track.name) ?? slotOf(object, nodeName, propertyName);
      slots.set(track.name, slot);
      const interpolant = (track as unknown as Sampled).createInterpolant(new Float32Array(slot.rest.length));
      const read = (time: number) => interpolant.evaluate(time);
      lanes.set(slot, { slot, read, base: Array.from(read(0)) });
    }
    return lanes;
  }
}

const UP = new THREE.Vector3(0, 1, 0);
const ahead = new THREE.Vector3();
const turned = new THREE.Quaternion();

const nodeCalled = (scene: THREE.Object3D, name: string): THREE.Object3D | undefined =>
  scene.getObjectByName(THREE.PropertyBinding.sanitizeNodeName(name));

const isMoved = (name: string): name is Slot['of'] =>
  name === 'position' || name === 'quaternion' || name === 'scale' || name === 'morphTargetInfluences';

function slotOf(object: THREE.Object3D, node: string, of: Slot['of']): Slot {
  const rest =
    of === 'morphTargetInfluences' ? [...((object as THREE.Mesh).morphTargetInfluences ?? [])] : object[of].toArray();
  return { node, of, object, rest: rest as number[], value: new Float64Array(rest.length) };
}

const valueIn = ({ lanes, time }: Playing, slot: Slot): ArrayLike<number> => lanes.get(slot)?.read(time) ?? slot.rest;

/** Goes on in a motion: round as a whole, round its part until it is to go, or up to its end. */
function goOn(playing: Playing, by: number): void {
  const { company, clip } = playing.member;
  playing.since += by;
  playing.time += by;
  if (company.loop && playing.leaving === null) {
    const [from, to] = company.loop;
    while (to > from && playing.time >= to) playing.time -= to - from;
  } else if (company.repeats && !company.loop) playing.time %= clip.duration;
  else playing.time = Math.min(playing.time, clip.duration);
}

/** How much of a motion over others there is: it eases in, and out towards its end or since it was stopped. */
function weightOf({ member: { clip, company }, time, since, leaving }: Playing): number {
  const come = company.easeIn > 0 ? ease(since / company.easeIn, company.shape) : 1;
  if (company.easeOut <= 0) return come;
  const left = endsByItself(company) || leaving === null ? clip.duration - time : company.easeOut - (since - leaving);
  const stays = leaving === null && (company.repeats || company.loop !== null);
  return stays ? come : Math.min(come, ease(left / company.easeOut, company.shape));
}

/** Whether a motion that is stopped plays its end, and is not only eased out. */
const endsByItself = ({ repeats, loop }: Company): boolean => loop !== null || !repeats;

const isGone = ({ member: { clip, company }, time, since, leaving }: Playing): boolean => {
  if (endsByItself(company)) return time >= clip.duration && (leaving !== null || company.loop === null);
  return leaving !== null && since - leaving >= company.easeOut;
};

const a = new THREE.Quaternion();
const b = new THREE.Quaternion();
const c = new THREE.Quaternion();

/** Goes over from what a slot has to another value by a share. */
function mix({ value, of }: Slot, other: ArrayLike<number>, share: number): void {
  if (of === 'quaternion') {
    a.fromArray(value).slerp(b.fromArray(other), share).toArray(value);
    return;
  }
  for (let i = 0; i < value.length; i++) value[i] += (other[i] - value[i]) * share;
}

/** Adds what a motion differs by from its own beginning. */
function addOn({ value, of }: Slot, other: ArrayLike<number>, base: readonly number[], share: number): void {
  if (of === 'quaternion') {
    const by = b.fromArray(base).invert().multiply(a.fromArray(other));
    a.fromArray(value).multiply(c.identity().slerp(by, share)).toArray(value);
    return;
  }
  for (let i = 0; i < value.length; i++) value[i] += (other[i] - base[i]) * share;
}

function put({ object, of, value }: Slot): void {
  if (of === 'morphTargetInfluences') {
    const own = (object as THREE.Mesh).morphTargetInfluences;
    if (own) for (let i = 0; i < own.length; i++) own[i] = value[i];
  } else object[of].fromArray(value);
}
