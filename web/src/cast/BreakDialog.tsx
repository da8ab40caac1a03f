import {
  type Bounds,
  type Breaking,
  boundsOf,
  breakUp,
  brokenPieces,
  hasForm,
  isLocked,
  MOST_PIECES,
  type Shot,
} from '@varrup/core';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';

/** Breaks the form that was picked last into pieces. */
export function BreakDialog() {
  const open = useQuestion((q) => q.open === 'break');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.shot);
  const lead = useSelection((s) => s.picked.at(-1));
  if (!open || !shot || !lead) return null;
  return <Break shot={shot} id={lead} onClose={() => ask(null)} />;
}

/** Where it was struck: pieces are smaller there. Each is a share of the way from its left, its bottom and its back. */
const struckAt = {
  nowhere: null,
  'its top': [0.5, 1, 0.5],
  'its foot': [0.5, 0, 0.5],
  'its left': [0, 0.5, 0.5],
  'its right': [1, 0.5, 0.5],
  'its front': [0.5, 0.5, 1],
  'its middle': [0.5, 0.5, 0.5],
} as const;
type Struck = keyof typeof struckAt;

function pointOf(struck: Struck, bounds: Bounds): Breaking['struck'] {
  const shares = struckAt[struck];
  if (!shares) return null;
  const at = (c: 0 | 1 | 2) => bounds[c] + shares[c] * (bounds[(c + 3) as 3 | 4 | 5] - bounds[c]);
  return [at(0), at(1), at(2)];
}

function Break({ shot, id, onClose }: { shot: Shot; id: string; onClose: () => void }) {
  const [count, setCount] = useState(24);
  const [seed, setSeed] = useState(1);
  const [struck, setStruck] = useState<Struck>('nowhere');
  const [problem, setProblem] = useState<string | null>(null);
  const member = shot.members.at(id);
  const broken = () => {
    try {
      const pieces = brokenPieces(shot, id, { count, seed, struck: pointOf(struck, boundsOf(member, shot.rigs)) });
      useShot.getState().run(breakUp, { id, pieces });
      onClose();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Break into pieces"
      about={`${member.name} becomes a group that stands and moves as it did, with its pieces in it. They fit each other, and keep its colour and what it is made of.`}
    >
      <div className="flex flex-col gap-1.5">
        <div className="grid grid-cols-[7rem_1fr] items-center gap-x-3 gap-y-1.5">
          <span className="text-graphite">how many</span>
          <NumberField
            label="how many"
            value={count}
            step={1}
            digits={0}
            min={2}
            max={MOST_PIECES}
            whole
            onChange={setCount}
          />
          <span className="text-graphite">seed</span>
          <NumberField label="seed" value={seed} step={1} digits={0} min={0} max={1e6} whole onChange={setSeed} />
        </div>
        <Choice
          label="finer at"
          value={struck}
          options={(Object.keys(struckAt) as Struck[]).map((name) => [name, name])}
          onChange={setStruck}
        />
      </div>
      {problem ? (
        <p role="alert" className="mt-2 text-vermilion-ink">
          {problem} The shot is as it was.
        </p>
      ) : null}
      <div className="mt-4 flex items-center justify-between">
        <span className="text-sm text-graphite">
          {member.deformers.length > 0 ? 'What bends it goes.' : 'One step: Ctrl+Z makes it whole.'}
        </span>
        <Button look="solid" disabled={isLocked(shot, id) || !hasForm(member.kind)} onClick={broken}>
          break it
        </Button>
      </div>
    </Dialog>
  );
}
