import { invert, multiply } from '../pose/affine.ts';
import { Along, alongAtRest } from './along.ts';
import type { CompiledRig } from './compiled.ts';
import type { Carrier, Driven, RigJoint, RigLimb } from './definition.ts';
import { Foot } from './foot.ts';
import { DrivenJoint, Follow, Share, Toes } from './joints.ts';
import { Limb, type LimbPlaces, limbAtRest } from './limb.ts';
import { LookAt } from './look-at.ts';
import type { Operation } from './operation.ts';
import { Spine, spineAtRest } from './spine.ts';

/** A number a rig works out from its dials: where it goes in the values, and the formula. */
export interface PlacedDriven {
  readonly place: number;
  readonly driven: Driven;
  readonly unit: number;
}

/** Where a rig of a cast stands in a frame's arrays. */
export interface PlacedRig {
  readonly slot: number;
  /** The node its parts hang on: its slot, or what travels from there. */
  readonly root: number;
  readonly compiled: CompiledRig;
  /** The node of its first joint; the others follow in the rig's order. */
  readonly joints: number;
  /** The slot of each control, in the rig's order. */
  readonly controls: Int32Array;
  /** The node each control's channels are measured from. */
  readonly spaces: Int32Array;
  /** What places those spaces, in the same order. */
  readonly spaceSteps: readonly Follow[];
  readonly driven: readonly PlacedDriven[];
  /** Places in the values of the shape targets' amounts, mesh by mesh. */
  readonly targets: readonly Int32Array[];
  readonly steps: readonly Operation[];
  readonly nodes: number;
}

/** How the controls' numbers are laid out. */
export interface ControlLayout {
  readonly base: Int32Array;
  readonly turnAxes: Uint8Array;
  readonly byOrientation: Uint8Array;
  readonly channelAt: readonly ReadonlyMap<string, number>[];
}

/**
 * Lays a rig out: nodes for its joints and helpers from `firstNode` on, places for what it drives from `firstNumber` on, and the
 * steps that work them out.
 */
export function placeRig(
  compiled: CompiledRig,
  at: { readonly slot: number; readonly root: number },
  controls: Int32Array,
  layout: ControlLayout,
  firstNode: number,
  firstNumber: number,
): PlacedRig {
  return new Placing(compiled, at, controls, layout, firstNode, firstNumber).place();
}

const RADIANS = Math.PI / 180;

/**
 * What the placings of one definition have in common, in the order in which placing asks for it, which is always the same: a hundred
 * porters read one set of matrices.
 */
const common = new WeakMap<CompiledRig, unknown[]>();

class Placing {
  readonly #c: CompiledRig;
  readonly #at: { readonly slot: number; readonly root: number };
  readonly #controls: Int32Array;
  readonly #layout: ControlLayout;
  readonly #firstJoint: number;
  readonly #firstNumber: number;
  readonly #common: unknown[];
  #asked = 0;
  #nodes: number;
  readonly #spaces: Int32Array;
  readonly #driven: PlacedDriven[] = [];
  readonly #spaceSteps: Follow[] = [];
  readonly #steps: Operation[] = [];
  readonly #alongs = new Map<string, number>();
  readonly #feet = new Map<string, { sole: number; lift: number }>();

  constructor(
    compiled: CompiledRig,
    at: { readonly slot: number; readonly root: number },
    controls: Int32Array,
    layout: ControlLayout,
    firstNode: number,
    firstNumber: number,
  ) {
    this.#c = compiled;
    this.#common = common.get(compiled) ?? [];
    common.set(compiled, this.#common);
    this.#at = at;
    this.#controls = controls;
    this.#layout = layout;
    this.#firstJoint = firstNode;
    this.#firstNumber = firstNumber;
    this.#nodes = firstNode + compiled.rig.joints.length;
    this.#spaces = Int32Array.from(controls, () => this.#nodes++);
  }

  place(): PlacedRig {
    const { rig } = this.#c;
    for (const limb of rig.limbs) this.#alongs.set(limb.id, this.#nodes++);
    for (const foot of rig.feet) this.#feet.set(foot.id, { sole: this.#nodes++, lift: this.#nodes++ });
    this.#placeControls();
    for (const foot of rig.feet) this.#placeFoot(foot.id);
    const taken = new Set<string>();
    for (const limb of rig.limbs) {
      for (const id of [limb.upper, limb.lower, limb.end]) taken.add(id);
      this.#placeLimb(limb);
    }
    for (const spine of rig.spines) {
      for (const id of spine.joints) taken.add(id);
      const rest = this.#once(() => spineAtRest(spine.joints.map((id) => this.#rest(id))));
      const nodes = spine.joints.map((id) => this.#joint(id));
      const [from, to] = [this.#carrier(spine.from), this.#carrier(spine.to)];
      this.#steps.push(this.#looking(spine.joints, new Spine(from.node, from.offset, to.node, to.offset, nodes, rest)));
    }
    for (const joint of rig.joints) if (!taken.has(joint.id)) this.#placeJoint(joint);
    const targets = rig.meshes.map((mesh) => Int32Array.from(mesh.targets, (t) => this.#drive(t.by, 1)));
    return {
      ...this.#at,
      compiled: this.#c,
      joints: this.#firstJoint,
      controls: this.#controls,
      spaces: this.#spaces,
      spaceSteps: this.#spaceSteps,
      driven: this.#driven,
      targets,
      steps: this.#steps,
      nodes: this.#nodes - this.#firstJoint,
    };
  }

  /** What is the same for all rigs of the definition: made once. */
  #once<T>(make: () => T): T {
    const at = this.#asked++;
    if (at === this.#common.length) this.#common.push(make());
    return this.#common[at] as T;
  }

  #joint(id: string): number {
    return this.#firstJoint + this.#c.jointAt.get(id)!;
  }

  #control(id: string): number {
    return this.#controls[this.#c.controlAt.get(id)!];
  }

  #definition(id: string) {
    return this.#c.rig.controls[this.#c.controlAt.get(id)!];
  }

  #rest(joint: string): Float64Array {
    const at = this.#c.jointAt.get(joint)! * 16;
    return this.#c.rests.subarray(at, at + 16);
  }

  /** The place of a control's dial or channel in the values. */
  #number(control: string, channel: string): number {
    const slot = this.#control(control);
    return this.#layout.base[slot] + this.#layout.channelAt[slot].get(channel)!;
  }

  /** A node, and the map from the rig at rest into it. */
  #carrier(carrier: Carrier | null): { node: number; offset: Float64Array } {
    if (!carrier) return { node: this.#at.root, offset: UNMOVED };
    if (carrier.is === 'joint')
      return { node: this.#joint(carrier.id), offset: this.#once(() => inverse(this.#rest(carrier.id))) };
    if (carrier.is === 'control') {
      const [x, y, z] = this.#definition(carrier.id).place;
      return { node: this.#control(carrier.id), offset: this.#once(() => shift(-x, -y, -z)) };
    }
    const limb = this.#c.rig.limbs.find((l) => l.id === carrier.id)!;
    const rest = this.#rest(limb.upper);
    return { node: this.#alongs.get(carrier.id)!, offset: this.#once(() => shift(-rest[12], -rest[13], -rest[14])) };
  }

  #placeControls(): void {
    this.#c.rig.controls.forEach((control, c) => {
      const { node, offset } = this.#carrier(control.in);
      this.#spaceSteps.push(
        new Follow(
          node,
          this.#spaces[c],
          this.#once(() => times(offset, shift(...control.place))),
        ),
      );
    });
  }

  #placeFoot(id: string): void {
    const foot = this.#c.rig.feet.find((f) => f.id === id)!;
    const { sole, lift } = this.#feet.get(id)!;
    const { node, offset } = this.#carrier({ is: 'control', id: foot.control });
    const dial = (name: string) => this.#number(foot.control, name);
    const dials = { heel: dial('heel'), ball: dial('ball'), toe: dial('toe'), bank: dial('bank') };
    this.#steps.push(new Foot(foot, node, offset, sole, lift, dials));
  }

  #placeLimb(limb: RigLimb): void {
    const parent = this.#c.rig.joints[this.#c.jointAt.get(limb.upper)!].parent;
    const carrier = this.#carrier(parent === null ? null : { is: 'joint', id: parent });
    const target =
      limb.target.is === 'foot'
        ? { node: this.#feet.get(limb.target.id)!.lift, offset: UNMOVED }
        : this.#carrier({ is: 'control', id: limb.target.id });
    const ends = [limb.upper, limb.lower, limb.end];
    const places: LimbPlaces = {
      carrier: carrier.node,
      carrierOffset: carrier.offset,
      target: target.node,
      targetOffset: this.#once(() => times(target.offset, this.#rest(limb.end))),
      pole: this.#control(limb.pole),
      upper: this.#joint(limb.upper),
      lower: this.#joint(limb.lower),
      end: this.#joint(limb.end),
      controls: limb.joints.map((id) => this.#control(id)) as [number, number, number],
      controlOffsets: limb.joints.map((id, i) => {
        const { offset } = this.#carrier({ is: 'control', id });
        return this.#once(() => times(offset, this.#rest(ends[i])));
      }) as [Float64Array, Float64Array, Float64Array],
      reach: this.#number(limb.dials, 'reach'),
      soft: this.#number(limb.dials, 'soft'),
      stretch: this.#number(limb.dials, 'stretch'),
    };
    const [upper, lower, end] = ends.map((id) => this.#rest(id));
    const along = this.#once(() => {
      const [from, to] = [upper, end].map((m) => [m[12], m[13], m[14]] as const);
      return alongAtRest(from, to, limb.along, limb.follows);
    });
    this.#steps.push(new Along(this.#alongs.get(limb.id)!, places, along));
    const rest = this.#once(() => limbAtRest(upper, lower, end, this.#definition(limb.pole).place));
    this.#steps.push(this.#looking(ends, new Limb(places, rest)));
  }

  #placeJoint(joint: RigJoint): void {
    const node = this.#joint(joint.id);
    const parent = this.#carrier(joint.parent === null ? null : { is: 'joint', id: joint.parent });
    const rest = this.#rest(joint.id);
    const before = this.#once(() => times(parent.offset, shift(rest[12], rest[13], rest[14])));
    const after = this.#once(() => {
      const turned = times(shift(-rest[12], -rest[13], -rest[14]), rest);
      return isIdentity(turned) ? null : turned;
    });
    const still = this.#once(() => times(parent.offset, rest));
    const { by } = joint;
    let step: Operation;
    if (!by) step = new Follow(parent.node, node, still);
    else if (by.kind === 'control') {
      const { node: from, offset } = this.#carrier({ is: 'control', id: by.control });
      const stands = this.#once(() => times(offset, rest));
      step = new Follow(from, node, stands);
    } else if (by.kind === 'foot') {
      const limb = this.#c.rig.limbs.find((l) => l.target.is === 'foot' && l.target.id === by.foot);
      const reach = limb ? this.#number(limb.dials, 'reach') : -1;
      const { sole } = this.#feet.get(by.foot)!;
      step = new Toes(sole, rest, parent.node, still, node, reach);
    } else if (by.kind === 'share') {
      const slot = this.#control(by.control);
      const { base, turnAxes, byOrientation } = this.#layout;
      const control = { slot, values: base[slot], axes: turnAxes, turns: byOrientation[slot] === 1 };
      step = new Share(parent.node, node, before, after, by.share, control);
    } else {
      const first = this.#firstNumber + this.#driven.length;
      const numbers = [...by.move, ...by.turn, ...by.size];
      numbers.forEach((driven, i) => {
        if (driven) this.#drive(driven, i >= 3 && i < 6 ? RADIANS : 1);
      });
      const which = Uint8Array.from(numbers.flatMap((driven, i) => (driven ? [i] : [])));
      const atRest = this.#once(() => ({ before, after, still, which }));
      step = new DrivenJoint(parent.node, node, atRest, first);
    }
    this.#steps.push(this.#looking([joint.id], step));
  }

  /** Gives a formula a place in the values. */
  #drive(driven: Driven, unit: number): number {
    const place = this.#firstNumber + this.#driven.length;
    this.#driven.push({ place, driven, unit });
    return place;
  }

  /** A step, and after it the turning of those of its joints that look at something. */
  #looking(joints: readonly string[], step: Operation): Operation {
    const looks = this.#c.rig.looks.filter((l) => joints.includes(l.joint));
    if (looks.length === 0) return step;
    const after = looks.map((look) => {
      const [control, dial] = look.share.split('.');
      const r = this.#rest(look.joint);
      // The rig's forward, seen from the joint: the last row of its turn.
      return new LookAt(
        this.#joint(look.joint),
        this.#control(look.at),
        [r[2], r[6], r[10]],
        this.#number(control, dial),
      );
    });
    return {
      reads: [...step.reads, ...looks.map((l) => this.#control(l.at))],
      writes: step.writes,
      run(now) {
        step.run(now);
        for (let i = 0; i < after.length; i++) after[i].run(now);
      },
    };
  }
}

const shift = (x: number, y: number, z: number) => Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1);

const isIdentity = (m: Float64Array) => m.every((v, i) => Math.abs(v - (i % 5 === 0 ? 1 : 0)) < 1e-12);

const UNMOVED = shift(0, 0, 0);

function inverse(matrix: Float64Array): Float64Array {
  const out = new Float64Array(16);
  invert(out, 0, matrix, 0);
  return out;
}

function times(a: Float64Array, b: Float64Array): Float64Array {
  const out = new Float64Array(16);
  multiply(out, 0, a, 0, b, 0);
  return out;
}
