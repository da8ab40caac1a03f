import type { Clip } from '../document/clip.ts';
import type { Hold } from '../document/hold.ts';
import type { Member } from '../document/member.ts';
import type { Operation } from '../rig/operation.ts';
import { type ControlLayout, type PlacedRig, placeRig } from '../rig/placed.ts';
import type { Rigs } from '../rig/rigs.ts';
import { HeldSpace, OWN, STAGE } from './held-space.ts';
import { Members } from './members.ts';
import { byKind, inOrder } from './order.ts';
import { AlongTracks, type WalkSteps, walkSteps } from './travelling.ts';

/** What is known of the slots before rigs are placed. */
interface Cast extends ControlLayout {
  readonly slotOf: ReadonlyMap<string, number>;
  readonly parent: Int32Array;
  readonly valueCount: number;
}

/** Where everything that is placed has its matrix, and the steps that work the matrices out. */
export interface Arrangement {
  readonly space: Int32Array;
  readonly numberCount: number;
  readonly nodeCount: number;
  readonly rigs: readonly PlacedRig[];
  readonly rigAt: ReadonlyMap<number, PlacedRig>;
  readonly steps: readonly Operation[];
  readonly held: readonly HeldSpace[];
  readonly onTracks: ReadonlyMap<string, AlongTracks>;
}

/** Which rigs get on over the stage. */
export interface Travels {
  /** Clips at work that travel. */
  readonly clips: readonly Clip[];
  /** Rigs that their tracks take along. */
  readonly onTracks: ReadonlySet<string>;
}

/**
 * Gives every member, joint and helper a node, and puts the steps in an order in which each comes after those it reads.
 * @param travels who gets on over the stage @param known the rigs at hand
 * @throws Refused, which names them, where some carry one another round in a circle
 */
export function arrange(members: readonly Member[], cast: Cast, travels: Travels, known: Rigs): Arrangement {
  const space = cast.parent.slice();
  const rigs: PlacedRig[] = [];
  const steps: Operation[] = [];
  const held: HeldSpace[] = [];
  let nodes = members.length;
  let numbers = cast.valueCount;
  const controlsOf = controlSlots(members);
  const rigAt = new Map<number, PlacedRig>();
  const walks = new Map<number, WalkSteps>();
  const onTracks = new Map<string, AlongTracks>();
  members.forEach((member, slot) => {
    const compiled = member.kind === 'rig' ? known.find(member.shape) : undefined;
    if (!compiled) return;
    const own = controlsOf.get(member.id);
    const controls = Int32Array.from(compiled.rig.controls, (c) => own?.get(c.id) ?? -1);
    if (controls.includes(-1)) throw new Error(`"${member.name}" lacks controls of its rig.`);
    const clip = travels.clips.find((c) => c.rig === member.id);
    const taken = travels.onTracks.has(member.id);
    const root = clip || taken ? nodes++ : slot;
    const placed = placeRig(compiled, { slot, root }, controls, cast, nodes, numbers);
    if (clip) walks.set(slot, walkSteps(clip, compiled, slot, root));
    else if (taken) {
      const step = new AlongTracks(slot, root);
      onTracks.set(member.id, step);
      walks.set(slot, { root: step, feet: new Map() });
    }
    nodes += placed.nodes;
    numbers += placed.driven.length;
    controls.forEach((control, c) => {
      space[control] = placed.spaces[c];
    });
    rigs.push(placed);
    rigAt.set(slot, placed);
  });
  const jointNode = (hold: Extract<Hold['by'], { is: 'member' }>): number => {
    const slot = cast.slotOf.get(hold.member);
    if (slot === undefined) return STAGE;
    const rig = hold.joint === null ? undefined : rigAt.get(slot);
    const joint = rig?.compiled.jointAt.get(hold.joint ?? '');
    return rig && joint !== undefined ? rig.joints + joint : slot;
  };
  const turnOf = ({ by, frame }: Hold) => {
    if (by.is === 'stage') return { frame, node: STAGE, at: matrixOf(by.at) };
    const node = by.is === 'own' ? OWN : jointNode(by);
    // Somebody who is not there any more holds nothing: their hold counts as none.
    return { frame, node: node === STAGE ? OWN : node };
  };
  const replaced = new Set<number>();
  members.forEach((member, slot) => {
    if (member.holds.length === 0) return;
    const turns = [...member.holds].sort((a, b) => a.frame - b.frame).map(turnOf);
    const rig = member.kind === 'control' ? rigs.find((r) => r.spaces.includes(space[slot])) : undefined;
    if (rig) {
      const usual = rig.spaceSteps[rig.spaces.indexOf(space[slot])];
      held.push(new HeldSpace(space[slot], usual.from, usual.offset, turns));
    } else {
      const own = cast.parent[slot] < 0 ? STAGE : cast.parent[slot];
      const unmoved = Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
      space[slot] = nodes++;
      held.push(new HeldSpace(space[slot], own, unmoved, turns));
    }
    replaced.add(space[slot]);
  });
  const slots = { ...cast, space };
  const ofRigs = new Set(rigs.flatMap((rig) => [...rig.controls]));
  members.forEach((_, slot) => {
    if (!ofRigs.has(slot)) steps.push(new Members(slots, [slot]));
  });
  for (const rig of rigs) {
    const walk = walks.get(rig.slot);
    if (walk) steps.push(walk.root);
    rig.spaceSteps.forEach((step, c) => {
      const onGround = walk?.feet.get(rig.compiled.rig.controls[c].id);
      if (!replaced.has(step.writes[0])) steps.push(onGround ? onGround(rig.spaces[c]) : step);
    });
    for (const slot of rig.controls) steps.push(new Members(slots, [slot]));
    steps.push(...rig.steps);
  }
  steps.push(...held);
  const nameOf = (step: Operation) => {
    const slot = step.writes[0];
    const control = rigs.flatMap((r) => [...r.spaces]).includes(slot) ? space.indexOf(slot) : slot;
    return members[control]?.name ?? null;
  };
  const ordered = inLots(inOrder(steps, nameOf)).flatMap((lot) => joined(byKind(lot)));
  return { space, numberCount: numbers, nodeCount: nodes, rigs, rigAt, steps: ordered, held, onTracks };
}

/** Twelve numbers, three a column, as a matrix of sixteen. */
const matrixOf = (at: readonly number[]) =>
  Float64Array.from({ length: 16 }, (_, i) => (i % 4 === 3 ? (i === 15 ? 1 : 0) : at[Math.floor(i / 4) * 3 + (i % 4)]));

/** The controls of each rig's member: slots by the rig's own names. */
function controlSlots(members: readonly Member[]): Map<string, Map<string, number>> {
  const out = new Map<string, Map<string, number>>();
  members.forEach((member, slot) => {
    if (member.kind !== 'control' || member.parent === null) return;
    const own = out.get(member.parent) ?? new Map<string, number>();
    own.set(member.shape.control, slot);
    out.set(member.parent, own);
  });
  return out;
}

/**
 * Cuts steps into lots, rig after rig, whose matrices the processor can keep at hand: a kind is done for a dozen rigs, the next kind
 * for the same dozen, and so on. Each kind at once for hundreds of rigs would fetch everything from far away at every kind.
 */
function inLots(ordered: readonly Operation[]): Operation[][] {
  const lots: Operation[][] = [];
  let nodes = LOT;
  for (const step of ordered) {
    if (nodes >= LOT) {
      lots.push([]);
      nodes = 0;
    }
    lots[lots.length - 1].push(step);
    nodes += step.writes.length;
  }
  return lots;
}

/** So many matrices, of 128 bytes each, take a third of the megabyte that a processor keeps for one core. Half as many cost more calls than they save. */
const LOT = 2500;

/** Steps of a kind that come one after another become one step, where they can. */
function joined(steps: readonly Operation[]): Operation[] {
  const out: Operation[] = [];
  for (let from = 0; from < steps.length; ) {
    const first = steps[from];
    let to = from + 1;
    while (to < steps.length && steps[to].constructor === first.constructor) to++;
    if (first.together) out.push(first.together(steps.slice(from, to)));
    else out.push(...steps.slice(from, to));
    from = to;
  }
  return out;
}
