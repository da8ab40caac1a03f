import { skinsOf } from '../../body/skin.ts';
import { channelOffset, channelPath } from '../../document/channels.ts';
import { castOrder, childrenOf, withDescendants } from '../../document/hierarchy.ts';
import type { Member } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import type { Frame } from '../../evaluate/frame.ts';
import type { Layout } from '../../evaluate/layout.ts';
import { isDeformed } from '../../evaluate/shape.ts';
import type { Media } from '../../media/index.ts';
import { quaternionAbout, quaternionMultiply } from '../../pose/quaternion.ts';
import type { CompiledRig } from '../../rig/compiled.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { skyLight, writeSky } from '../../surface/index.ts';
import { Names } from '../scene/names.ts';
import { AT_REST, type Place, type SceneNode, type SceneSkin, type Turn } from '../scene/scene.ts';
import { Bodies, type Body, colourAt, type MemberSurface } from './bodies.ts';
import type { Choices } from './choices.ts';
import { bentForm, memberForm, rigForm } from './forms.ts';
import { between, byChannels, type Mover, numbersAt, sized, unsized } from './mover.ts';
import { jointWorlds, planJoints, slantOfJoint } from './rig-joints.ts';
import type { Run } from './runs.ts';
import { mostSlanted, type Standing } from './slanted.ts';

/** What a node is read from in the frames of a layout. */
export type ReadFrom = (layout: Layout) => Mover;

export interface PlannedNode {
  readonly node: SceneNode;
  /** Whom of the cast it belongs to. */
  readonly member: string;
  /** What it stands for of them: where they are, or one of their joints; null where it only helps. */
  readonly is: { readonly joint: string | null } | null;
  /** Where it is and how it goes; none where it stands as its place says. */
  readonly place: ReadFrom | null;
  /** How much of each of its shape targets there is. */
  readonly weights: ReadFrom | null;
  /** Whether a clip of its rig moves it. */
  readonly inClips: boolean;
}

const ITSELF = { joint: null } as const;

/** Something of the shot that a scene cannot say, or says in another way. */
export interface LeftOut {
  readonly of: string;
  readonly text: string;
}

export interface Plan {
  readonly nodes: readonly PlannedNode[];
  readonly bodies: Bodies;
  readonly skins: readonly SceneSkin[];
  readonly left: readonly LeftOut[];
}

/**
 * Lays out the nodes of a scene, each with what it carries and where its movement is read from. Controls are none of them: they
 * are the animator's.
 * @param frame the moment at which everything stands when nothing moves
 */
export function planScene(shot: Shot, choices: Choices, runs: readonly Run[], frame: Frame, media: Media): Plan {
  return new Planner(shot, choices, runs, frame, media).plan();
}

class Planner {
  readonly #shot: Shot;
  readonly #choices: Choices;
  readonly #runs: readonly Run[];
  readonly #frame: Frame;
  readonly #names: Names;
  readonly #bodies: Bodies;
  readonly #nodes: PlannedNode[] = [];
  readonly #skins: SceneSkin[] = [];
  readonly #left: LeftOut[] = [];
  /** What everything stands on; -1 where it is as it is here. */
  #top = -1;
  /** The node of each of the cast. */
  readonly #nodeOf = new Map<string, number>();

  constructor(shot: Shot, choices: Choices, runs: readonly Run[], frame: Frame, media: Media) {
    this.#shot = shot;
    this.#choices = choices;
    this.#runs = runs;
    this.#frame = frame;
    this.#names = new Names(choices.plainNames);
    this.#bodies = new Bodies(media);
  }

  plan(): Plan {
    const { members, up, scale } = this.#choices;
    if (up !== 'y' || scale !== 1) this.#standOn(up, scale);
    const chosen = members ? withDescendants(this.#shot, members) : null;
    for (const { member } of castOrder(this.#shot)) {
      if (member.kind === 'control' || (chosen && !chosen.has(member.id))) continue;
      this.#tellUnsaid(member);
      if (member.kind === 'rig') this.#planRig(member);
      else this.#planMember(member);
    }
    this.#tellSlanted();
    return { nodes: this.#nodes, bodies: this.#bodies, skins: this.#skins, left: this.#left };
  }

  #add(
    node: Omit<SceneNode, 'name' | 'place'> & { readonly name: string; readonly place?: Place },
    how: { readonly member: string } & Partial<Omit<PlannedNode, 'node' | 'member'>>,
  ): number {
    const { place = null, weights = null, inClips = false, is = null, member } = how;
    const stands = node.place ?? (place ? this.#standing(place) : AT_REST);
    // A body on joints stands by itself: its joints say where it is.
    const parent = node.parent < 0 && node.skin === undefined ? this.#top : node.parent;
    const named = { ...node, parent, name: this.#names.give(node.name), place: stands };
    const amounts = weights ? { weights: [...this.#numbers(weights)] } : {};
    this.#nodes.push({ node: { ...named, ...amounts }, member, is, place, weights, inClips });
    return this.#nodes.length - 1;
  }

  /** Puts everything on a node that turns and sizes it as the receiver has it. */
  #standOn(up: Choices['up'], scale: number): void {
    const quarter = Math.SQRT1_2;
    const rotation: Turn = up === 'z' ? [quarter, 0, 0, quarter] : [0, 0, 0, 1];
    const place = { translation: [0, 0, 0], rotation, scale: [scale, scale, scale] } as const;
    this.#top = this.#add({ name: 'stage', parent: -1, place }, { member: '' });
  }

  #numbers(from: ReadFrom): Float64Array {
    const mover = from(this.#frame.layout);
    const out = new Float64Array(mover.width);
    mover.write(this.#frame, out, 0);
    return out;
  }

  #standing(from: ReadFrom): Place {
    const [x, y, z, qx, qy, qz, qw, sx, sy, sz] = this.#numbers(from);
    return { translation: [x, y, z], rotation: [qx, qy, qz, qw], scale: [sx, sy, sz] };
  }

  /** The nearest of those who carry a member that has a node. */
  #carrier({ parent }: Member): { readonly id: string; readonly node: number } | null {
    for (let up = parent; up !== null; up = this.#shot.members.get(up)?.parent ?? null) {
      const node = this.#nodeOf.get(up);
      if (node !== undefined) return { id: up, node };
    }
    return null;
  }

  /** The node of a frame that a member's scene node stands for: a rig's is where it has got to. */
  #stands(layout: Layout, id: string): number {
    const slot = layout.slotOf.get(id)!;
    return this.#choices.travel === 'node' ? (layout.rigAt.get(slot)?.root ?? slot) : slot;
  }

  /** What a member's node stands for, and what it stands on. */
  #standsOn(layout: Layout, member: Member): Standing {
    const carrier = this.#carrier(member);
    return { node: this.#stands(layout, member.id), on: carrier ? this.#stands(layout, carrier.id) : -1 };
  }

  /** Whether a member stands on what its channels are measured from. */
  #saidByChannels(layout: Layout, member: Member): boolean {
    const slot = layout.slotOf.get(member.id)!;
    const { node, on } = this.#standsOn(layout, member);
    return node === slot && layout.space[slot] === on;
  }

  #placeOf(member: Member): ReadFrom {
    return (layout) => {
      if (this.#saidByChannels(layout, member)) return byChannels(layout, layout.slotOf.get(member.id)!);
      const { node, on } = this.#standsOn(layout, member);
      return between(node, on);
    };
  }

  #planMember(member: Member): void {
    const parent = this.#carrier(member)?.node ?? -1;
    const read = this.#placeOf(member);
    if (member.kind === 'sky') {
      this.#planSky(member);
      return;
    }
    if (member.kind === 'camera' || member.kind === 'light') {
      const seen = member.kind === 'camera' ? { camera: this.#camera(member) } : { light: this.#light(member) };
      const place: ReadFrom = (layout) => unsized(read(layout));
      const node = this.#add({ name: member.name, parent, ...seen }, { member: member.id, is: ITSELF, place });
      // What it carries goes by its size as well, which it must not have itself: it stands on a node of its own.
      const carries = childrenOf(this.#shot, member.id).length > 0;
      const own = carries
        ? this.#add({ name: `${member.name} mount`, parent }, { member: member.id, place: read })
        : node;
      this.#nodeOf.set(member.id, own);
      return;
    }
    const slot = this.#frame.layout.slotOf.get(member.id)!;
    const colour = colourAt(this.#frame.values, this.#frame.layout.base[slot] + channelOffset.colour);
    const body = this.#isShown(member) ? this.#bodies.ofMember(member, colour, this.#surface(member)) : null;
    const plain = body && !isDeformed(this.#frame, slot) && !this.#comesAndGoes(member);
    const carries = plain ? { mesh: body.place() } : {};
    const node = this.#add({ name: member.name, parent, ...carries }, { member: member.id, is: ITSELF, place: read });
    this.#nodeOf.set(member.id, node);
    if (body && !plain) this.#planForm(member, node, body);
  }

  /** The sun of a sky, as it stands when the run begins. */
  #planSky(member: Member): void {
    const sky = skyLight();
    writeSky(this.#frame.value(member.id, 'hour') ?? 12, this.#frame.value(member.id, 'haze') ?? 0, sky);
    const colour = [sky.sun[0], sky.sun[1], sky.sun[2]] as const;
    const light = { kind: 'sun', colour, intensity: this.#isShown(member) ? sky.strength : 0 } as const;
    const place = { ...AT_REST, rotation: lookingDown(sky.towards) };
    const parent = this.#carrier(member)?.node ?? -1;
    const at: ReadFrom = this.#placeOf(member);
    this.#nodeOf.set(member.id, this.#add({ name: member.name, parent }, { member: member.id, is: ITSELF, place: at }));
    // It stands by itself: whoever carries the sky does not turn the sun.
    this.#add({ name: `${member.name} sun`, parent: -1, light, place }, { member: member.id });
    this.#left.push({
      of: member.name,
      text: 'the colours of a sky and its haze: its sun goes out, as it stands when the motion begins',
    });
  }

  /** A body that is squashed, bent, or comes and goes has a node of its own, so that what its member carries is not touched. */
  #planForm(member: Member, parent: number, body: Body): void {
    const name = `${member.name} form`;
    const visible = (layout: Layout) => (frame: Frame) => frame.isVisible(layout.slotOf.get(member.id)!);
    const form = memberForm(member, body.mesh);
    const bent = bentForm(form, this.#runs);
    const place: ReadFrom = (layout) => sized(bent.is === 'sized' ? form.size(layout) : null, visible(layout));
    if (bent.is === 'sized') this.#add({ name, parent, mesh: body.place() }, { member: member.id, place });
    else {
      const own = this.#bodies.add(bent.shaped(body.mesh));
      const weights: ReadFrom = (layout) => bent.amounts(layout);
      this.#add({ name, parent, mesh: own }, { member: member.id, place, weights });
      this.#tellRest(member, bent.rest);
    }
  }

  #planRig(member: Member): void {
    const compiled = member.kind === 'rig' ? this.#shot.rigs.find(member.shape) : undefined;
    if (!compiled) return;
    const { id, name } = member;
    const { travel, joints } = this.#choices;
    const placed = (layout: Layout) => layout.rigAt.get(layout.slotOf.get(id)!)!;
    const parent = this.#carrier(member)?.node ?? -1;
    const place = this.#placeOf(member);
    let under = this.#add({ name, parent }, { member: id, place, inClips: travel === 'node' });
    this.#nodeOf.set(id, under);
    const carriers: number[] = [];
    if (travel === 'joint') {
      const goes: ReadFrom = (layout) => between(placed(layout).root, placed(layout).slot);
      under = this.#add({ name: `${name} travel`, parent: under }, { member: id, place: goes, inClips: true });
      carriers.push(under);
    }
    const root = under;
    const isBent = isDeformed(this.#frame, this.#frame.layout.slotOf.get(id)!);
    const form = isBent ? rigForm(member, compiled) : null;
    const runs = this.#runs.filter((run) => run.rig === null || run.rig === id);
    const bent = form && bentForm(form, runs);
    if (form && bent?.is === 'sized') {
      const squash: ReadFrom = (layout) => sized(form.size(layout), null);
      under = this.#add({ name: `${name} squash`, parent: under }, { member: id, place: squash, inClips: true });
    }
    const worlds = jointWorlds(id, compiled, runs);
    const kept = planJoints(compiled, joints === 'deforming', worlds);
    const slanted = kept.filter((j) => j.above < 0 && slantOfJoint(worlds, j.joint) > 1e-4);
    if (slanted.length > 0) {
      const which = slanted.map((j) => compiled.rig.joints[j.joint].id).join(', ');
      this.#left.push({ of: name, text: `joints are slanted by how it is sized, which no file says: ${which}` });
    }
    const nodeOf = new Map<number, number>();
    for (const { joint, above, at } of kept) {
      const read: ReadFrom = (layout) => {
        const rig = placed(layout);
        return between(rig.joints + joint, above < 0 ? rig.root : rig.joints + above);
      };
      const on = above < 0 ? under : nodeOf.get(above)!;
      const wanted = { name: compiled.rig.joints[joint].id, parent: on, place: at };
      const is = { joint: wanted.name };
      nodeOf.set(joint, this.#add(wanted, { member: id, is, place: read, inClips: true }));
    }
    if (!this.#isShown(member)) return;
    if (bent?.is === 'shaped') {
      const body = bent.shaped(this.#bodies.ofRig(`${name} body`, skinsOf(compiled), null, []));
      const node = { name: `${name} body`, parent: root, mesh: this.#bodies.add(body) };
      this.#add(node, { member: id, weights: (layout) => bent.amounts(layout), inClips: true });
      this.#tellRest(member, bent.rest);
      return;
    }
    const bones = kept.map(({ joint, inverseBind }) => ({ node: nodeOf.get(joint)!, joint, inverseBind }));
    this.#planSkins(member, compiled, bones, carriers);
  }

  /** The meshes of a rig on its joints: one of all that have no shape targets, and each that has by itself. */
  #planSkins(
    { id, name }: Member,
    compiled: CompiledRig,
    joints: readonly { readonly node: number; readonly joint: number; readonly inverseBind: Float64Array }[],
    carriers: readonly number[],
  ): void {
    const unmoved = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    const binds = [...joints.flatMap((j) => [...j.inverseBind]), ...carriers.flatMap(() => unmoved)];
    const nodes = [...joints.map((j) => j.node), ...carriers];
    const skin = this.#skins.push({ name: `${name} skin`, joints: nodes, inverseBinds: Float64Array.from(binds) }) - 1;
    const placeOf = compiled.rig.joints.map((_, joint) =>
      Math.max(
        0,
        joints.findIndex((j) => j.joint === joint),
      ),
    );
    const skins = skinsOf(compiled);
    const plain = skins.filter((s) => s.targets.length === 0);
    if (plain.length > 0) {
      const mesh = this.#bodies.add(this.#bodies.ofRig(`${name} body`, plain, placeOf, []));
      this.#add({ name: `${name} body`, parent: -1, mesh, skin }, { member: id });
    }
    skins.forEach((own, m) => {
      if (own.targets.length === 0) return;
      const targets = own.mesh.targets.map((t) => t.name);
      const mesh = this.#bodies.add(this.#bodies.ofRig(`${name} ${own.mesh.id}`, [own], placeOf, targets));
      const weights: ReadFrom = (layout) => numbersAt(layout.rigAt.get(layout.slotOf.get(id)!)!.targets[m]);
      this.#add({ name: `${name} ${own.mesh.id}`, parent: -1, mesh, skin }, { member: id, weights, inClips: true });
    });
  }

  /** How a member's surface is when the run begins. */
  #surface({ id, material }: Member): MemberSurface {
    const of = (channel: string, otherwise: number): number =>
      (material && this.#frame.value(id, `surface.${channel}`)) ?? otherwise;
    return { roughness: of('roughness', 0.82), metal: of('metal', 0), glow: of('glow', 0), clear: of('clear', 0) };
  }

  #camera(member: Member) {
    // Curves may lead it to where no picture is.
    const view = Math.min(2.6, Math.max(0.02, this.#frame.value(member.id, 'view') ?? 0.6));
    return { view, near: 0.1, far: 500 };
  }

  #light(member: Member) {
    const { layout, values } = this.#frame;
    const at = layout.base[layout.slotOf.get(member.id)!] + channelOffset.colour;
    const intensity = this.#isShown(member) ? (this.#frame.value(member.id, 'brightness') ?? 0) : 0;
    const colour = [values[at], values[at + 1], values[at + 2]] as const;
    if (member.kind !== 'light' || member.shape.beam === 'round') return { kind: 'point', colour, intensity } as const;
    const outer = (member.shape.spread * Math.PI) / 180;
    return { kind: 'spot', colour, intensity, cone: { inner: outer * (1 - member.shape.soft), outer } } as const;
  }

  /** Whether it is to be seen at some time. */
  #isShown(member: Member): boolean {
    return this.#comesAndGoes(member) || this.#frame.isVisible(this.#frame.layout.slotOf.get(member.id)!);
  }

  /** Whether it, or somebody who carries it, is shown and hidden in the shot. */
  #comesAndGoes({ id }: Member): boolean {
    for (let up: string | null = id; up !== null; up = this.#shot.members.get(up)?.parent ?? null) {
      if (this.#moves(up, 'visible')) return true;
    }
    return false;
  }

  #moves(id: string, channel: string): boolean {
    const path = channelPath(id, channel);
    return (this.#shot.curves.get(path)?.keys.length ?? 0) > 1 || this.#shot.formulas.has(path);
  }

  /** What of a member moves in the shot and cannot move where it goes to. */
  #tellUnsaid(member: Member): void {
    const tell = (text: string) => this.#left.push({ of: member.name, text });
    if (['colour.r', 'colour.g', 'colour.b'].some((c) => this.#moves(member.id, c)))
      tell('its colour changes in the shot; it keeps the one it has at the first frame');
    if (this.#moves(member.id, 'view')) tell('its view angle changes in the shot; it keeps the one of the first frame');
    if (this.#moves(member.id, 'brightness'))
      tell('its brightness changes in the shot; it keeps the one of the first frame');
    if (member.kind === 'rig' && this.#comesAndGoes(member))
      tell('it is shown and hidden in the shot; a body on joints is always there');
    if (!this.#isShown(member)) tell('it is hidden, so its body stays here');
  }

  /** What hangs askew in a body that is squashed is slanted by it. */
  #tellSlanted(): void {
    const held = [...this.#nodeOf.keys()]
      .map((id) => this.#shot.members.at(id))
      .filter((member) => this.#runs.some(({ program }) => !this.#saidByChannels(program.layout, member)));
    if (held.length === 0) return;
    const most = mostSlanted(this.#runs, (layout) => held.map((member) => this.#standsOn(layout, member)));
    held.forEach((member, i) => {
      if ((most[i] ?? 0) > 1e-3)
        this.#left.push({
          of: member.name,
          text: 'it is slanted by what carries it, which no file says: it goes out square',
        });
    });
  }

  #tellRest(member: Member, rest: number): void {
    if (rest > 1e-4)
      this.#left.push({
        of: member.name,
        text: `it bends in more ways than shape targets say: up to ${(rest * 1000).toFixed(1)} mm are missing`,
      });
  }
}

/** The turn that has -Z look from where light comes to where it goes. */
function lookingDown(towards: Float64Array): Quaternion {
  const yaw = Math.atan2(towards[0], towards[2]);
  const pitch = -Math.asin(towards[1]);
  return quaternionMultiply(quaternionAbout([0, 1, 0], yaw), quaternionAbout([1, 0, 0], pitch));
}
