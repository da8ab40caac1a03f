import { addCustomChannel, newId } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { NameDialog } from '../ui/Dialog.tsx';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';

/** Gives what is picked a channel of its own. */
export function AddChannelDialog() {
  const open = useQuestion((q) => q.open === 'add-channel');
  const ask = useQuestion((q) => q.ask);
  const lead = useSelection((s) => s.picked.at(-1));
  if (!open || !lead) return null;
  return (
    <NameDialog
      title="A channel of its own"
      label="What is it called?"
      action="Add it"
      onClose={() => ask(null)}
      onName={(name) =>
        useShot.getState().run(addCustomChannel, { id: lead, channel: { id: newId(), name, initial: 0 } })
      }
    />
  );
}
