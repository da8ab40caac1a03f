import { isOpen, type Member, rigControl } from '@varrup/core';
import type { Axis, Tool } from '../view/view-store.ts';

type Grip = Exclude<Tool, 'pick'>;
const AXES: readonly Axis[] = ['x', 'y', 'z'];

/** Whether a member lets an axis be moved, turned or sized; controls are locked by their rig. */
export function isFree(member: Member, tool: Grip, axis: Axis): boolean {
  if (member.kind !== 'control') return true;
  const control = rigControl(member);
  return control !== undefined && isOpen(control, `${tool}.${axis}`);
}

/** The tool whose handles a member gets: the chosen one, or where that has nothing to do the first that has. */
export function toolFor(member: Member, tool: Tool): Tool {
  if (tool === 'pick' || member.kind !== 'control') return tool;
  const able = ([tool, 'turn', 'move', 'size'] as const).find((t) => AXES.some((axis) => isFree(member, t, axis)));
  return able ?? 'pick';
}
