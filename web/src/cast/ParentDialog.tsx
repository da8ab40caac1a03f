import { castOrder, parentMembers, withDescendants } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';
import { indent } from './indent.ts';

/** Puts what is picked under another member: what dragging in the cast does, for the keyboard. */
export function ParentDialog() {
  const open = useQuestion((q) => q.open === 'parent');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.shot);
  const run = useShot((s) => s.run);
  const selection = useSelection((s) => s.picked);
  if (!open || !shot || selection.length === 0) return null;
  const own = withDescendants(shot, selection);
  const choices = castOrder(shot).filter(({ member }) => !own.has(member.id) && member.kind !== 'control');
  const put = (parent: string | null) => {
    run(parentMembers, { ids: selection, parent, frame: usePlayhead.getState().frame });
    ask(null);
  };
  return (
    <Dialog
      open
      onClose={() => ask(null)}
      title="Put under another"
      about="It stays where it stands; from then on it goes along with its parent."
    >
      <ul className="max-h-80 overflow-y-auto">
        <li>
          <button
            type="button"
            className="h-7 w-full rounded-md px-2 text-left hover:bg-well"
            onClick={() => put(null)}
          >
            nobody: on the stage
          </button>
        </li>
        {choices.map(({ member, depth }) => (
          <li key={member.id}>
            <button
              type="button"
              className="h-7 w-full truncate rounded-md px-2 text-left hover:bg-well"
              style={{ paddingLeft: 8 + indent(depth) }}
              onClick={() => put(member.id)}
            >
              {member.name}
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
