import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
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
  if (!shot) return null;
  const make = async (name: string) => {
    try {
      const link = await rigOfCast(shot, picked, name);
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
    />
  );
}
