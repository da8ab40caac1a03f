import { isOpen, type RigControl } from '@varrup/core';
import type { Axis, Tool } from '../../view/tool.ts';

type Grip = Exclude<Tool, 'pick'>;
const AXES: readonly Axis[] = ['x', 'y', 'z'];

/** Whether a control lets an axis be moved, turned or sized; what is no control always does. */
export const isFree = (control: RigControl | undefined, tool: Grip, axis: Axis): boolean =>
  control === undefined || isOpen(control, `${tool}.${axis}`);

/** The tool whose handles a control gets: the chosen one, or where that has nothing to do the first that has. */
export function toolFor(control: RigControl | undefined, tool: Tool): Tool {
  if (tool === 'pick' || control === undefined) return tool;
  const able = ([tool, 'turn', 'move', 'size'] as const).find((t) => AXES.some((axis) => isFree(control, t, axis)));
  return able ?? 'pick';
}
