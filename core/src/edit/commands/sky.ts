import type { Member } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import { defineCommand } from '../edit.ts';
import { newMember } from './members.ts';

/** Times of day as they are given with one press. */
export const skyLooks = {
  day: { hour: 13, haze: 0.12 },
  dusk: { hour: 17.4, haze: 0.3 },
  night: { hour: 22.5, haze: 0.22 },
} as const;
export type SkyLook = keyof typeof skyLooks;

/** The skies of a shot, the first one first: that one counts. */
export const skiesOf = ({ members }: Pick<Shot, 'members'>): Member[] =>
  members
    .values()
    .filter((m) => m.kind === 'sky')
    .sort((a, b) => a.rank - b.rank);

/** Gives the shot a sky of a look, or its sky that look: keys of its hour and haze go. @param id of a new sky */
export const setSky = defineCommand<{ look: SkyLook; id: string }>({
  name: 'sky.set',
  label: ({ look }) => `make it ${look}`,
  apply(shot, { look, id }) {
    const [sky = newMember(shot, { kind: 'sky', id })] = skiesOf(shot);
    const paths = ['hour', 'haze'].map((channel) => `${sky.id}.${channel}`);
    const lit = { ...sky, values: { ...sky.values, ...skyLooks[look] } };
    return {
      ...shot,
      members: shot.members.with(sky.id, lit),
      curves: shot.curves.withoutAll(paths),
      loose: shot.loose.withoutAll(paths),
      formulas: shot.formulas.withoutAll(paths),
    };
  },
});
