import type { Member } from '../document/member.ts';
import { type CompiledRig, compileRig } from './compiled.ts';
import type { Rig, RigControl } from './definition.ts';

/**
 * The rigs this program knows, by id and version. A version of a rig never changes, so knowing one is a cache of something fixed
 * and not a state: whoever needs a rig learns it first, and it is the same for everybody.
 */
const known = new Map<string, Rig>();

/** A link to a rig, as shots have it. */
export interface RigLink {
  readonly rig: string;
  readonly version: number;
}

const nameOf = ({ rig, version }: RigLink) => `${rig}@${version}`;

/** Makes a rig known. Learning the same again does nothing. */
export function learnRig(rig: Rig): CompiledRig {
  const name = nameOf({ rig: rig.id, version: rig.version });
  const there = known.get(name);
  if (!there) known.set(name, rig);
  return compileRig(there ?? rig);
}

export function findRig(link: RigLink): CompiledRig | undefined {
  const rig = known.get(nameOf(link));
  return rig && compileRig(rig);
}

/** @throws where the rig has not been learnt */
export function rigOf(link: RigLink): CompiledRig {
  const found = findRig(link);
  if (!found) throw new Error(`The rig ${link.rig}, version ${link.version}, is not here.`);
  return found;
}

/** The definition of a member that is a control; undefined for others, and where the rig is not known. */
export const rigControl = (member: Member): RigControl | undefined =>
  member.kind === 'control' ? findControl(member.shape) : undefined;

/** A control of a linked rig; undefined where the rig is not known or has none of that name. */
export function findControl(link: RigLink & { readonly control: string }): RigControl | undefined {
  const found = findRig(link);
  const at = found?.controlAt.get(link.control);
  return at === undefined ? undefined : found?.rig.controls[at];
}
