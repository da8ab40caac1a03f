import { findChannel, ORIENTATION, splitPath } from '../document/channels.ts';
import { withoutLoose } from '../document/loose.ts';
import type { Suggestion } from '../document/note.ts';
import type { Shot } from '../document/shot.ts';

/** The shot as it would be with a suggestion. Channels of whom there is no more are left out; what is loose on the others goes. */
export function suggested(shot: Shot, { curves, values }: Pick<Suggestion, 'curves' | 'values'>): Shot {
  const there = (path: string) => {
    const { member: id, channel } = splitPath(path);
    const member = shot.members.get(id);
    return member !== undefined && findChannel(member, channel, shot.rigs) !== undefined;
  };
  const draft = shot.curves.edit();
  let loose = shot.loose;
  for (const [path, curve] of Object.entries(curves)) {
    if (!there(path)) continue;
    if (curve) draft.set(path, curve);
    else draft.delete(path);
    loose = withoutLoose(loose, path);
  }
  const members = shot.members.edit();
  for (const [path, value] of Object.entries(values)) {
    const { member: id, channel } = splitPath(path);
    const member = there(path) ? members.get(id) : undefined;
    if (!member) continue;
    if (typeof value === 'number') members.set(id, { ...member, values: { ...member.values, [channel]: value } });
    else if (channel === ORIENTATION) members.set(id, { ...member, orientation: value });
  }
  return { ...shot, curves: draft.done(), members: members.done(), loose };
}

/** What two states of a shot move otherwise: the curves and the constant values of those who are in both. */
export function suggestionBetween(before: Shot, after: Shot): Pick<Suggestion, 'curves' | 'values'> {
  const curves: Suggestion['curves'] = {};
  const values: Suggestion['values'] = {};
  before.curves.changesTo(after.curves, (path, _, curve) => {
    if (after.members.has(splitPath(path).member)) curves[path] = curve ?? null;
  });
  before.members.changesTo(after.members, (id, old, member) => {
    if (!old || !member) return;
    for (const [channel, value] of Object.entries(member.values))
      if (old.values[channel] !== value) values[`${id}.${channel}`] = value;
    if (old.orientation !== member.orientation && member.orientation) values[`${id}.orientation`] = member.orientation;
  });
  return { curves, values };
}
