import { controlsOf } from '../document/casting.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { makeLayout } from '../evaluate/layout.ts';
import { MOST_PROBLEMS } from '../schema/problem.ts';

interface CastingProblem {
  readonly path: readonly string[];
  readonly sentence: string;
}

/** What is wrong with the rigs of a shot, their controls, and who holds whom. */
export function castingProblems(shot: Shot): CastingProblem[] {
  const problems: CastingProblem[] = [];
  for (const member of shot.members.values()) {
    problems.push(...rigProblems(shot, member), ...controlProblems(shot, member), ...holdProblems(shot, member));
    if (problems.length >= MOST_PROBLEMS) break;
  }
  if (problems.length > 0 || !shot.members.values().some((m) => m.holds.length > 0)) return problems;
  try {
    makeLayout(shot);
    return [];
  } catch (error) {
    return [{ path: ['members'], sentence: (error as Error).message }];
  }
}

function rigProblems(shot: Shot, member: Member): CastingProblem[] {
  if (member.kind !== 'rig') return [];
  const path = ['members', member.id, 'shape'];
  const { rig: name, version } = member.shape;
  const compiled = shot.rigs.find(member.shape);
  if (!compiled)
    return [{ path, sentence: `links version ${version} of the rig "${name}", which is not in the library` }];
  const there = controlsOf(shot, member.id);
  const own = new Set(there.map((c) => c.shape.control));
  const lacking = compiled.rig.controls.find((c) => !own.has(c.id));
  if (lacking) return [{ path, sentence: `lacks the control "${lacking.name}" of its rig` }];
  return there.length === compiled.rig.controls.length
    ? []
    : [{ path, sentence: 'has controls its rig has not, or one of them twice' }];
}

function controlProblems(shot: Shot, member: Member): CastingProblem[] {
  if (member.kind !== 'control') return [];
  const path = ['members', member.id];
  const rig = member.parent === null ? undefined : shot.members.get(member.parent);
  if (rig?.kind !== 'rig') return [{ path: [...path, 'parent'], sentence: 'is not a rig, as a control needs' }];
  if (rig.shape.rig !== member.shape.rig || rig.shape.version !== member.shape.version)
    return [{ path: [...path, 'shape'], sentence: `is of another rig than "${rig.name}"` }];
  if (member.custom.length > 0 || member.deformers.length > 0 || member.material)
    return [{ path, sentence: 'is a control, which has the channels of its rig and no others' }];
  return [];
}

function holdProblems(shot: Shot, member: Member): CastingProblem[] {
  const frames = new Set(member.holds.map((h) => h.frame));
  const path = ['members', member.id, 'holds'];
  if (frames.size !== member.holds.length) return [{ path, sentence: 'change carrier twice at one frame' }];
  return member.holds.flatMap((hold, i) => {
    const { by } = hold;
    if (by.is !== 'member') return [];
    const holder = shot.members.get(by.member);
    if (!holder) return [{ path: [...path, String(i)], sentence: `names "${by.member}", who is not in the cast` }];
    const joints = holder.kind === 'rig' ? shot.rigs.find(holder.shape)?.jointAt : undefined;
    if (by.joint !== null && !joints?.has(by.joint))
      return [
        { path: [...path, String(i)], sentence: `names the joint "${by.joint}", which "${holder.name}" has not` },
      ];
    return [];
  });
}
