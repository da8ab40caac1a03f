import { channelsAt } from '../../body/place-in.ts';
import type { Curve, Key, NumberCurve, OrientationKey } from '../../curve/key.ts';
import { thinned } from '../../curve/thin.ts';
import { thinnedTurns } from '../../curve/thin-turns.ts';
import { controlsOf } from '../../document/casting.ts';
import { type ChannelValue, channelPath, findChannel, ORIENTATION, splitPath } from '../../document/channels.ts';
import { type Clip, clipFrames } from '../../document/clip.ts';
import type { Shot } from '../../document/shot.ts';
import { freeClipName, newClip } from '../../edit/commands/clips.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { placeOf } from '../../evaluate/layout.ts';
import { Program } from '../../evaluate/program.ts';
import { compose, invert, multiply, turnOf } from '../../pose/affine.ts';
import { quaternionMultiply, quaternionTurn } from '../../pose/quaternion.ts';
import { minus, plus, times } from '../../pose/vectors.ts';
import type { RigLimb } from '../../rig/definition.ts';
import type { PlacedRig } from '../../rig/placed.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { Refused } from '../../schema/refused.ts';
import { Table } from '../../table/table.ts';
import type { Motion, Scene, Vector3 } from '../scene/scene.ts';
import { type Joint, neededRoles, type Pairing, type Role, rolesOf } from './roles.ts';
import { SourceBody, type Stand } from './source.ts';

/** How a motion is put onto a rig of the harbour. */
export interface CaptureOnto {
  /** The member that is the rig. */
  readonly rig: string;
  readonly scene: Scene;
  readonly motion: Motion;
  readonly name: string;
  /** Which of the scene's nodes is which part of the body. */
  readonly pairing: Pairing;
  /** Keys are as few as keep within this of every frame. */
  readonly tolerance: { readonly millimetres: number; readonly degrees: number };
}

/** A motion as it stands on a rig. */
export interface Put {
  readonly clip: Clip;
  /** How much longer the legs of the rig are than those of the capture. */
  readonly scale: number;
  readonly keys: number;
}

/** The parts of a rig that a motion can be put onto. @throws Refused where it is not a two-legged body */
export function rigRoles(shot: Shot, rig: string): Pairing {
  const member = shot.members.get(rig);
  const compiled = member?.kind === 'rig' ? shot.rigs.find(member.shape) : undefined;
  if (!compiled) throw new Refused('A capture is put onto a rig.');
  const { rig: definition, jointAt } = compiled;
  const joints = definition.joints.map(
    ({ id, parent, place }): Joint => ({ name: id, parent: parent === null ? -1 : jointAt.get(parent)!, place }),
  );
  const found = rolesOf(joints);
  const lacking = neededRoles.filter((role) => found[role] < 0);
  if (lacking.length > 0) throw new Refused(`${member?.name} is no two-legged body: it has no ${lacking.join(', ')}.`);
  return found;
}

/** Guesses which nodes of a scene are which part of a body. */
export const sceneRoles = (scene: Scene, motion: Motion): Pairing =>
  rolesOf(new SourceBody(scene, motion, () => NOBODY).joints);

const NOBODY = rolesOf([]);

/**
 * Puts a motion onto a rig: joints turn as theirs turn from rest, the difference of the two rests taken out; hips and feet go where theirs
 * go, as much further as the legs are longer, so that feet that stand stand; arms are turned joint by joint. What comes out are plain keys of
 * the rig's controls, in a clip that is laid by. It begins where the rig stands, and looks its way.
 * @throws Refused where parts that are needed are not paired
 */
export function putOntoRig(shot: Shot, putting: CaptureOnto): Put {
  const { scene, motion, pairing } = putting;
  const lacking = neededRoles.filter((role) => pairing[role] < 0);
  if (lacking.length > 0) throw new Refused(`Say first which joint is ${lacking.join(', ')}.`);
  const frames = Math.round(motion.seconds * shot.rate);
  if (frames + 1 > clipFrames.most)
    throw new Refused(`The motion has ${frames} frames; a clip has up to ${clipFrames.most}.`);
  const source = new SourceBody(scene, motion, () => pairing);
  const looks = Math.min(frames, 200);
  source.beginAt(
    pairing.hips,
    Array.from({ length: looks + 1 }, (_, i) => (motion.seconds * i) / Math.max(looks, 1)),
  );
  const target = new TargetBody(shot, putting.rig, source, pairing);
  const first = shot.play.first;
  const values = new Map<string, ChannelValue[]>();
  for (let f = 0; f <= frames; f++) {
    for (const [path, value] of target.follow(f / shot.rate)) {
      const list = values.get(path) ?? [];
      list.push(value);
      values.set(path, list);
    }
  }
  const curves: Record<string, Curve> = {};
  let keys = 0;
  for (const [path, list] of [...values, ...target.constants]) {
    const curve = curveOf(shot, path, list, first, putting.tolerance);
    curves[path] = curve;
    keys += curve.keys.length;
  }
  const name = freeClipName(shot, putting.rig, putting.name.trim().slice(0, 80) || 'Capture');
  const length = Math.max(frames, clipFrames.least);
  const clip = newClip(shot, putting.rig, { name, length, first, cycles: false, halves: 'free', labels: [] });
  return { clip: { ...clip, kept: { curves, recipes: {} } }, scale: target.scale, keys };
}

const straight = { in: { kind: 'linear' }, out: { kind: 'linear' }, joined: false, role: 'key' } as const;
const smooth = { in: { kind: 'smooth' }, out: { kind: 'smooth' }, joined: true, role: 'key' } as const;

/** A curve of values frame by frame, with as few keys as keep within the tolerance. */
function curveOf(
  shot: Shot,
  path: string,
  list: readonly ChannelValue[],
  first: number,
  { millimetres, degrees }: CaptureOnto['tolerance'],
): Curve {
  const radians = (degrees * Math.PI) / 180;
  if (path.endsWith(ORIENTATION)) {
    const keys = list.map(
      (value, f): OrientationKey => ({ frame: first + f, value: value as Quaternion, ...straight }),
    );
    return thinnedTurns({ type: 'orientation', keys, before: 'hold', after: 'hold' }, radians);
  }
  const keys = list.map((value, f): Key => ({ frame: first + f, value: value as number, ...smooth }));
  const curve: NumberCurve = { type: 'number', keys, before: 'hold', after: 'hold' };
  if (keys.length < 3) return curve;
  const { member, channel } = splitPath(path);
  const unit = findChannel(shot.members.at(member), channel, shot.rigs)?.unit;
  return thinned(curve, unit === '°' ? radians : millimetres / 1000).curve;
}

/** Leads a control to a turn from its rest and, where one is given, to a place, both in the rig's space. */
type Lead = (control: string, turned: Quaternion, place: Vector3 | null) => void;

const bothSides = ['L', 'R'] as const;

const wanted = new Float64Array(16);
const turnScratch = new Float64Array(4);

/** A rig whose controls are led to where a body is. */
class TargetBody {
  readonly scale: number;
  readonly constants: ReadonlyMap<string, ChannelValue[]>;
  readonly #shot: Shot;
  readonly #program: Program;
  readonly #frame: Frame;
  readonly #placed: PlacedRig;
  readonly #source: SourceBody;
  readonly #pairing: Pairing;
  readonly #roles: Pairing;
  /** For limbs and hands: what takes the rest of this body's bone onto that of the other. */
  readonly #corrections = new Map<Role, Quaternion>();
  readonly #places = new Map<string, number>();
  readonly #torso: number;
  /** How much higher the other body must be at rest for its feet to stand as these do: many skeletons rest with their hips on the ground. */
  readonly #lift: number;

  constructor(shot: Shot, rig: string, source: SourceBody, pairing: Pairing) {
    // By itself and without keys: it is led from its rest, and nobody else is worked out with it.
    const still = alone(shot, rig);
    const reach = new Map<string, ChannelValue[]>();
    this.#roles = rigRoles(shot, rig);
    const program = new Program(still);
    const placed = program.layout.rigAt.get(program.layout.slotOf.get(rig)!)!;
    this.#shot = still;
    this.#program = program;
    this.#placed = placed;
    this.#source = source;
    this.#pairing = pairing;
    this.#frame = program.createFrame();
    program.evaluate(shot.play.first, this.#frame);
    for (const limb of placed.compiled.rig.limbs) {
      const isArm = [this.#roles.armL, this.#roles.armR].includes(placed.compiled.jointAt.get(limb.upper)!);
      const path = channelPath(this.#member(limb.dials), 'reach');
      const value = isArm ? 0 : 1;
      this.#frame.values[placeOf(program.layout, path)] = value;
      reach.set(path, [value]);
    }
    this.constants = reach;
    this.#settle();
    this.scale = legOf(this.#restOf.bind(this), this.#roles) / legOf((j) => source.rest[j], pairing);
    this.#torso = torsoOf(this.#restOf.bind(this), this.#roles) / torsoOf((j) => source.rest[j], pairing) || this.scale;
    const feet = (['footL', 'footR'] as const).map(
      (foot) => this.#restOf(this.#roles[foot])[1] / this.scale - source.rest[pairing[foot]][1],
    );
    this.#lift = (feet[0] + feet[1]) / 2;
    this.#learnRests();
  }

  #restOf(joint: number): Vector3 {
    const { rests } = this.#placed.compiled;
    return [rests[joint * 16 + 12], rests[joint * 16 + 13], rests[joint * 16 + 14]];
  }

  /** Limbs hang differently at rest from body to body: with arms out, or down. */
  #learnRests(): void {
    for (const side of ['L', 'R']) {
      for (const [from, to] of [
        ['arm', 'forearm'],
        ['forearm', 'hand'],
        ['thigh', 'shin'],
        ['shin', 'foot'],
      ]) {
        const [role, next] = [`${from}${side}`, `${to}${side}`] as [Role, Role];
        const [a, b] = [this.#roles[role], this.#roles[next]];
        const [c, d] = [this.#pairing[role], this.#pairing[next]];
        if (a < 0 || b < 0 || c < 0 || d < 0) continue;
        const own = minus(this.#restOf(b), this.#restOf(a));
        this.#corrections.set(role, shortest(own, minus(this.#source.rest[d], this.#source.rest[c])));
      }
      // What ends a limb hangs on it as it does at rest.
      const [forearm, hand] = [`forearm${side}`, `hand${side}`] as [Role, Role];
      this.#corrections.set(hand, this.#corrections.get(forearm) ?? [0, 0, 0, 1]);
    }
  }

  #settle(): void {
    const { steps } = this.#program.layout;
    for (let s = 0; s < steps.length; s++) steps[s].run(this.#frame);
  }

  #member(control: string): string {
    return this.#program.layout.ids[this.#placed.controls[this.#placed.compiled.controlAt.get(control)!]];
  }

  /** Leads the rig to where the body is at a time. @returns the channels of its controls that do it */
  follow(seconds: number): Map<string, ChannelValue> {
    const out = new Map<string, ChannelValue>();
    const { rig, jointAt } = this.#placed.compiled;
    const stand = (role: Role): Stand | null =>
      this.#pairing[role] < 0 ? null : this.#source.at(this.#pairing[role], seconds);
    const hips = stand('hips')!;
    const at = this.#grown(hips.place, 'hips', this.scale);
    const put: Lead = (control, turned, place) =>
      this.#put(control, this.#worldTurn(turned), place && this.#worldPlace(place), out);
    const spine = rig.spines.find((s) => jointAt.get(s.joints[0]) === this.#roles.hips);
    const hipsControl = spine?.from.is === 'control' ? spine.from.id : this.#moverOf(this.#roles.hips);
    if (hipsControl) put(hipsControl, hips.turned, this.#besideJoint(hipsControl, this.#roles.hips, at, hips.turned));
    this.#settle();
    const chest = stand('chest');
    if (chest && this.#roles.chest >= 0) {
      const control = spine?.to.is === 'control' ? spine.to.id : this.#moverOf(this.#roles.chest);
      const rest = minus(this.#restOf(this.#roles.chest), this.#restOf(this.#roles.hips));
      const sourceRest = minus(this.#source.rest[this.#pairing.chest], this.#source.rest[this.#pairing.hips]);
      const now = minus(chest.place, hips.place);
      // From the hips as far and as aslant as there, of this body's own length.
      const place = plus(
        at,
        plus(quaternionTurn(hips.turned, minus(rest, times(sourceRest, this.#torso))), times(now, this.#torso)),
      );
      if (control) put(control, chest.turned, this.#besideJoint(control, this.#roles.chest, place, chest.turned));
    }
    this.#settle();
    const head = stand('head');
    const neck = rig.spines.find((s) => jointAt.get(s.joints[s.joints.length - 1]) === this.#roles.head);
    const headControl =
      neck?.to.is === 'control' ? neck.to.id : this.#roles.head >= 0 ? this.#moverOf(this.#roles.head) : null;
    if (head && headControl) put(headControl, head.turned, null);
    // What stands on the same level is led together, and then what hangs on it follows.
    for (const side of bothSides) {
      const shoulder = stand(`shoulder${side}`);
      const mover = this.#roles[`shoulder${side}`] >= 0 ? this.#moverOf(this.#roles[`shoulder${side}`]) : null;
      if (shoulder && mover) put(mover, shoulder.turned, null);
      this.#leadFoot(side, stand, put);
    }
    this.#settle();
    for (const [i, part] of (['arm', 'forearm', 'hand'] as const).entries()) {
      for (const side of bothSides) {
        const role = `${part}${side}` as const;
        const limb = this.#limbOf(`arm${side}`);
        const there = stand(role);
        if (limb && there) put(limb.joints[i], this.#corrected(role, there.turned), null);
        if (i === 0) this.#leadKnee(side, stand, put);
      }
      this.#settle();
    }
    return out;
  }

  #limbOf(upper: Role): RigLimb | undefined {
    const { rig, jointAt } = this.#placed.compiled;
    return rig.limbs.find((l) => jointAt.get(l.upper) === this.#roles[upper]);
  }

  #leadFoot(side: 'L' | 'R', stand: (role: Role) => Stand | null, put: Lead): void {
    const { rig } = this.#placed.compiled;
    const foot: Role = `foot${side}`;
    const limb = this.#limbOf(`thigh${side}`);
    const there = stand(foot);
    if (!limb || !there) return;
    const target =
      limb.target.is === 'control' ? limb.target.id : rig.feet.find((f) => f.id === limb.target.id)!.control;
    const place = this.#grown(there.place, foot, this.scale);
    put(target, there.turned, this.#besideJoint(target, this.#roles[foot], place, there.turned));
  }

  /** Where the knee would be if the leg were turned joint by joint: the pole stands before it as at rest. */
  #leadKnee(side: 'L' | 'R', stand: (role: Role) => Stand | null, put: Lead): void {
    const [thigh, shin] = [`thigh${side}`, `shin${side}`] as const;
    const limb = this.#limbOf(thigh);
    const upper = stand(thigh);
    if (!limb || !upper) return;
    const turned = this.#corrected(thigh, upper.turned);
    const from = this.#jointPlace(this.#roles[thigh]);
    const bone = minus(this.#restOf(this.#roles[shin]), this.#restOf(this.#roles[thigh]));
    const knee = plus(from, quaternionTurn(turned, bone));
    put(limb.pole, turned, this.#besideJoint(limb.pole, this.#roles[shin], knee, turned));
  }

  /** Where a joint of this body goes: as far from its rest as that of the other, so much further. */
  #grown(place: Vector3, role: Role, scale: number): Vector3 {
    const rest = this.#restOf(this.#roles[role]);
    const [x, y, z] = this.#source.rest[this.#pairing[role]];
    return plus(rest, times(minus(place, [x, y + this.#lift, z]), scale));
  }

  #corrected(role: Role, turned: Quaternion): Quaternion {
    return quaternionMultiply(turned, this.#corrections.get(role) ?? [0, 0, 0, 1]);
  }

  /** Where a control is whose joint is at a place, turned so from its rest. */
  #besideJoint(control: string, joint: number, place: Vector3, turned: Quaternion): Vector3 {
    const { rig, controlAt } = this.#placed.compiled;
    const own = rig.controls[controlAt.get(control)!].place;
    return plus(place, quaternionTurn(turned, minus(own, this.#restOf(joint))));
  }

  /** Where a joint is now, in the rig's space. */
  #jointPlace(joint: number): Vector3 {
    const { world } = this.#frame;
    invert(wanted, 0, world, this.#placed.root * 16);
    multiply(wanted, 0, wanted, 0, world, (this.#placed.joints + joint) * 16);
    return [wanted[12], wanted[13], wanted[14]];
  }

  #moverOf(joint: number): string | null {
    const { by } = this.#placed.compiled.rig.joints[joint];
    return by?.kind === 'control' ? by.control : null;
  }

  #worldTurn(turned: Quaternion): Quaternion {
    turnOf(turnScratch, 0, this.#frame.world, this.#placed.root * 16);
    return quaternionMultiply([turnScratch[0], turnScratch[1], turnScratch[2], turnScratch[3]], turned);
  }

  #worldPlace([x, y, z]: Vector3): Vector3 {
    const { world } = this.#frame;
    const m = this.#placed.root * 16;
    return [0, 1, 2].map(
      (r) => world[m + r] * x + world[m + 4 + r] * y + world[m + 8 + r] * z + world[m + 12 + r],
    ) as unknown as Vector3;
  }

  /** Sets a control's channels so that it stands in the world as wanted, and lets what hangs on it follow. */
  #put(control: string, turn: Quaternion, place: Vector3 | null, out: Map<string, ChannelValue>): void {
    const id = this.#member(control);
    const { layout } = this.#program;
    const slot = layout.slotOf.get(id)!;
    const at = place ?? ([12, 13, 14].map((i) => this.#frame.world[slot * 16 + i]) as unknown as Vector3);
    compose(wanted, 0, Float64Array.from(turn), 0, 1, at[0], at[1], at[2]);
    for (const [path, value] of Object.entries(
      channelsAt(this.#shot, this.#frame, id, wanted, place ? 'both' : 'turn'),
    )) {
      out.set(path, value);
      if (typeof value !== 'number') this.#frame.orientations.set(value, slot * 4);
      else this.#frame.values[this.#placeOf(path)] = value;
    }
  }

  #placeOf(path: string): number {
    const known = this.#places.get(path) ?? placeOf(this.#program.layout, path);
    this.#places.set(path, known);
    return known;
  }
}

/** A rig at rest, with those who carry it, and nobody else. */
function alone(shot: Shot, rig: string): Shot {
  const kept = new Set(controlsOf(shot, rig).map((c) => c.id));
  for (let up: string | null = rig; up !== null; up = shot.members.get(up)?.parent ?? null) kept.add(up);
  const members = shot.members.values().filter((m) => kept.has(m.id));
  const carriers = shot.curves.entries().filter(([path]) => {
    const { member } = splitPath(path);
    return kept.has(member) && shot.members.at(member).kind !== 'control' && member !== rig;
  });
  return {
    ...shot,
    members: Table.of(members.map((m) => [m.id, { ...m, holds: [] }])),
    curves: Table.of(carriers),
    formulas: Table.empty(),
    clips: Table.empty(),
    loose: Table.empty(),
  };
}

/** How long a leg is at rest, along its bones, both together. */
function legOf(rest: (joint: number) => Vector3, roles: Pairing): number {
  let sum = 0;
  for (const [a, b] of [
    ['thighL', 'shinL'],
    ['shinL', 'footL'],
    ['thighR', 'shinR'],
    ['shinR', 'footR'],
  ] as const)
    sum += Math.hypot(...minus(rest(roles[a]), rest(roles[b])));
  return sum;
}

function torsoOf(rest: (joint: number) => Vector3, roles: Pairing): number {
  return roles.chest < 0 ? 0 : Math.hypot(...minus(rest(roles.chest), rest(roles.hips)));
}

/** The shortest turn from one direction to another. */
function shortest(from: Vector3, to: Vector3): Quaternion {
  const [a, b] = [Math.hypot(...from), Math.hypot(...to)];
  if (a < 1e-9 || b < 1e-9) return [0, 0, 0, 1];
  const [x, y, z] = [
    from[1] * to[2] - from[2] * to[1],
    from[2] * to[0] - from[0] * to[2],
    from[0] * to[1] - from[1] * to[0],
  ];
  const w = a * b + from[0] * to[0] + from[1] * to[1] + from[2] * to[2];
  if (w < 1e-9 * a * b) {
    // Opposite: over by half a turn about whatever is square to it.
    const square: Vector3 = Math.abs(from[0]) < 0.9 * a ? [0, -from[2], from[1]] : [-from[1], from[0], 0];
    const length = Math.hypot(...square);
    return [square[0] / length, square[1] / length, square[2] / length, 0];
  }
  const length = Math.hypot(x, y, z, w);
  return [x / length, y / length, z / length, w / length];
}
