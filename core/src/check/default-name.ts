import { splitPath } from '../document/channels.ts';
import { kinds } from '../document/kinds/index.ts';
import { changingPaths } from '../track/arrangement.ts';
import type { Check } from './check.ts';

export const defaultName: Check = {
  id: 'defaultName',
  name: 'Default name',
  why: 'Whoever gets this shot finds “Ball 3” and has to guess. Name what is animated for what it is.',
  unit: '',
  tolerance: null,
  weight: 'hint',
  *look(watched) {
    const { shot } = watched;
    const animated = new Set([...changingPaths(shot)].map((p) => splitPath(p).member));
    for (const id of animated) {
      const member = shot.members.get(id);
      if (!member) continue;
      const { label } = kinds[member.kind];
      if (
        member.name !== label &&
        !(member.name.startsWith(`${label} `) && /^\d+$/.test(member.name.slice(label.length + 1)))
      )
        continue;
      yield {
        member: id,
        frame: null,
        value: 0,
        text: `“${member.name}” is animated and still has the name it came with.`,
      };
    }
    yield null;
  },
};
