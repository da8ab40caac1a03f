import { customAlphabet } from 'nanoid';
import { type DeformerKind, deformers } from '../../deform/kinds.ts';
import { channelPath } from '../../document/channels.ts';
import { DeformerSchema, deformChannel, type MemberDeformer, MOST_DEFORMERS } from '../../document/deformer.ts';
import type { Member } from '../../document/member.ts';
import { pathsOf } from '../../document/paths.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { defineCommand } from '../edit.ts';
import { refuseOutside } from './value-range.ts';

const newDeformerId = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 6);

/** A deformer of a kind with its own settings, under a name the member has not given yet. */
export function newDeformer(
  member: Member,
  kind: DeformerKind,
  settings: Record<string, unknown> = {},
): MemberDeformer {
  const { label } = deformers[kind];
  const taken = new Set(member.deformers.map((d) => d.name));
  let name = label.toLowerCase();
  for (let n = 2; taken.has(name); n++) name = `${label.toLowerCase()} ${n}`;
  return DeformerSchema.parse({ id: newDeformerId(), name, kind, settings });
}

const withMember = (shot: Shot, member: Member): Shot => ({
  ...shot,
  members: shot.members.with(member.id, member),
});

/** Puts a deformer last on a member's stack, with values of its channels that are not those it begins with. */
export const addDeformer = defineCommand<{
  id: string;
  deformer: MemberDeformer;
  values?: Readonly<Record<string, number>>;
}>({
  name: 'deformer.add',
  label: ({ id, deformer }, shot) => `${deformer.name} for ${memberWords(shot, [id])}`,
  apply(shot, { id, deformer, values = {} }) {
    const member = shot.members.at(id);
    if (member.deformers.length >= MOST_DEFORMERS || member.kind === 'control') return shot;
    const own = Object.entries(values).map(([c, value]) => [deformChannel(deformer.id, c), value] as const);
    const next = {
      ...member,
      deformers: [...member.deformers, deformer],
      values: { ...member.values, ...Object.fromEntries(own) },
    };
    const made = withMember(shot, next);
    for (const [channel, value] of own) refuseOutside(made, channelPath(id, channel), value);
    return made;
  },
});

/** Takes a deformer away with its keys. */
export const removeDeformer = defineCommand<{ id: string; deformer: string }>({
  name: 'deformer.remove',
  label: ({ id }, shot) => `take a deformer from ${memberWords(shot, [id])}`,
  apply(shot, { id, deformer }) {
    const member = shot.members.at(id);
    const channel = deformChannel(deformer, '');
    const isGone = (path: string) => path.startsWith(`${id}.${channel}`);
    const gone = pathsOf(member, shot.rigs).filter(isGone);
    const values = Object.fromEntries(Object.entries(member.values).filter(([name]) => !name.startsWith(channel)));
    const next = {
      ...shot,
      curves: shot.curves.withoutAll(gone),
      loose: shot.loose.withoutAll(gone),
      formulas: shot.formulas.withoutAll(gone),
      sets: shot.sets.map((set) =>
        set.paths.some(isGone) ? { ...set, paths: set.paths.filter((p) => !isGone(p)) } : set,
      ),
    };
    return withMember(next, { ...member, values, deformers: member.deformers.filter((d) => d.id !== deformer) });
  },
});

/** Changes what of a deformer is set and not animated. */
export const setDeformer = defineCommand<{ id: string; deformer: string; settings: Readonly<Record<string, unknown>> }>(
  {
    name: 'deformer.settings',
    label: ({ id }, shot) => `change a deformer of ${memberWords(shot, [id])}`,
    apply: (shot, { id, deformer, settings }) => {
      const member = shot.members.at(id);
      const changed = member.deformers.map((d) =>
        d.id === deformer ? DeformerSchema.parse({ ...d, settings: { ...d.settings, ...settings } }) : d,
      );
      return withMember(shot, { ...member, deformers: changed });
    },
  },
);

/** Moves a deformer up or down its stack by some places: the order matters, the first one acts first. */
export const moveDeformer = defineCommand<{ id: string; deformer: string; by: number }>({
  name: 'deformer.move',
  label: ({ id }, shot) => `reorder the deformers of ${memberWords(shot, [id])}`,
  apply(shot, { id, deformer, by }) {
    const member = shot.members.at(id);
    const from = member.deformers.findIndex((d) => d.id === deformer);
    const to = Math.min(Math.max(from + by, 0), member.deformers.length - 1);
    if (from < 0 || from === to) return shot;
    const rest = member.deformers.filter((d) => d.id !== deformer);
    return withMember(shot, { ...member, deformers: rest.toSpliced(to, 0, member.deformers[from]) });
  },
});
