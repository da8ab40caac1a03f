import { parseRig } from '../rig/problems.ts';
import { problemText } from '../schema/problem.ts';
import { type Build, sideOfPlace, twinsOf } from './build.ts';
import { dressed } from './dressed.ts';
import { shellOf } from './shell.ts';
import { depthAt } from './through.ts';
import { TriangleTree } from './triangle-tree.ts';

/** Something about a rig that is being built: what, and which joint or part of the body it is about. */
export interface BuildRemark {
  readonly text: string;
  readonly joint?: string;
  readonly mesh?: string;
  /** Whether it cannot be kept so. */
  readonly stops: boolean;
}

/** What an animator would stumble over in a rig that is being built; first what stands in the way of keeping it. */
export function buildRemarks(build: Build): BuildRemark[] {
  if (build.joints.length === 0)
    return [{ text: 'It has no joints yet: press on the body, and joints land in its middle.', stops: true }];
  const out: BuildRemark[] = [];
  const parsed = parseRig(dressed(build, { version: 1, changes: '' }));
  if (!parsed.ok) for (const problem of parsed.problems) out.push({ text: problemText(problem), stops: true });
  const tree = new TriangleTree(shellOf(build.meshes));
  const twins = twinsOf(build.joints);
  for (const joint of build.joints) {
    const deforms = build.meshes.some(({ skin }) =>
      skin.kind === 'rigid' ? skin.joint === joint.id : skin.joints.includes(joint.id),
    );
    if (deforms && build.meshes.length > 0 && depthAt(tree, joint.place, [0.31, 0.83, 0.46]) <= 0)
      out.push({ text: `${joint.name} stands outside the body it moves`, joint: joint.id, stops: false });
    if (sideOfPlace(joint.place) !== 0 && !twins.has(joint.id) && / [LR]$/.test(joint.name))
      out.push({ text: `${joint.name} has no counterpart on the other side`, joint: joint.id, stops: false });
  }
  const used = new Set(build.meshes.map(({ skin }) => (skin.kind === 'rigid' ? skin.joint : '')));
  if (build.joints.length > 3 && build.meshes.length > 0 && used.size === 1 && !used.has(''))
    out.push({
      text: 'All of the body hangs on one joint: compute its weights, or hang its parts on joints',
      stops: false,
    });
  if (build.parts.length === 0 && build.joints.length > 3)
    out.push({ text: 'It is not dressed: each joint is turned by itself, and nothing reaches', stops: false });
  return out;
}
