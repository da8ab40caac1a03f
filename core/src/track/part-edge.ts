import type { ClipSpan } from '../document/track.ts';
import type { Rig } from '../rig/definition.ts';

/** Which control each control of a rig hangs on: the one that carries it, or that moves the joint it is carried by or one above that. */
const above = new WeakMap<Rig, ReadonlyMap<string, string>>();

function aboveIn(rig: Rig): ReadonlyMap<string, string> {
  const known = above.get(rig);
  if (known) return known;
  const joints = new Map(rig.joints.map((j) => [j.id, j]));
  const moving = movingJoints(rig);
  const made = new Map<string, string>();
  for (const control of rig.controls) {
    const carrier = control.in;
    if (carrier?.is === 'control') made.set(control.id, carrier.id);
    if (carrier?.is !== 'joint') continue;
    for (let joint = joints.get(carrier.id); joint; joint = joints.get(joint.parent ?? '')) {
      const by = moving.get(joint.id);
      if (by === undefined || by === control.id) continue;
      made.set(control.id, by);
      break;
    }
  }
  above.set(rig, made);
  return made;
}

/** The control that moves each joint: its own, or the one that its limb, foot or spine reaches to. What a spine comes from is moved by that. */
export function movingJoints(rig: Rig): ReadonlyMap<string, string> {
  const moving = new Map<string, string>();
  const footControl = (id: string) => rig.feet.find((f) => f.id === id)?.control;
  for (const { id, by } of rig.joints) {
    const control =
      by?.kind === 'control' || by?.kind === 'share' ? by.control : by?.kind === 'foot' && footControl(by.foot);
    if (control) moving.set(id, control);
  }
  for (const { target, upper, lower, end } of rig.limbs) {
    const control = target.is === 'control' ? target.id : footControl(target.id);
    if (control) for (const joint of [upper, lower, end]) moving.set(joint, control);
  }
  for (const { joints, from, to } of rig.spines)
    for (const [i, joint] of joints.entries()) {
      const end = i === 0 ? from : to;
      if (end.is === 'control') moving.set(joint, end.id);
    }
  return moving;
}

/**
 * The share of a span that a control of its part has, from 0 to 1: where the part has a soft edge it grows along the chain, from the control that hangs on one
 * outside inwards.
 * @param control its name in the rig
 */
export function shareOf(
  { controls, edge }: Pick<ClipSpan, 'controls' | 'edge'>,
  control: string,
  rig: Rig | undefined,
): number {
  if (controls === null) return 1;
  if (!controls.includes(control)) return 0;
  if (edge === 0 || !rig) return 1;
  const over = aboveIn(rig);
  let deep = 1;
  const seen = new Set([control]);
  for (let at = over.get(control); at !== undefined && controls.includes(at) && !seen.has(at); at = over.get(at)) {
    seen.add(at);
    deep++;
  }
  return Math.min(1, deep / (edge + 1));
}
