import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { bringRigIn } from '../rigs/library.ts';
import { useShot } from '../shot/shot-store.ts';
import { NameDialog } from '../ui/Dialog.tsx';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';
import { rigOfCast } from './new-rig.ts';

/** Makes a rig of what is picked, and goes to where it is built on. */
export function RigOfDialog() {
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.committed);
  const picked = useSelection((s) => s.picked);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [lead] = useState(() => (picked[0] ? shot?.members.get(picked[0])?.name : undefined) ?? '');
  const [place, setPlace] = useState(true);
  if (!shot) return null;
  const make = async (name: string) => {
    try {
      const { link, from } = await rigOfCast(shot, picked, name);
      if (place) await bringRigIn(link, { ids: picked, at: from });
      await unlessUnderWay();
      await queries.invalidateQueries({ queryKey: ['rigs'] });
      void navigate(`/rigs/${link.rig}/${link.version}/build`);
    } catch (error) {
      toast.error(`No rig was made of it. ${(error as Error).message}`);
    }
  };
  return (
    <NameDialog
      title="A rig of what is picked"
      label="what it is called in the library"
      initial={lead}
      action="make it and build on"
      onName={(name) => void make(name)}
      onClose={() => ask(null)}
    >
      <label className="mt-3 flex items-center gap-2">
        <input type="checkbox" checked={place} onChange={(event) => setPlace(event.target.checked)} />
        it takes their place in the shot (what they were keyed goes; undo brings it back)
      </label>
    </NameDialog>
  );
}

/** Ends when nothing of the shot is on its way to the server any more: others see the rig in it while it is built on. */
const unlessUnderWay = () =>
  new Promise<void>((done) => {
    const isUnderWay = () => useShot.getState().saving.kind === 'saving';
    if (!isUnderWay()) return done();
    const end = useShot.subscribe(() => {
      if (isUnderWay()) return;
      end();
      done();
    });
  });
