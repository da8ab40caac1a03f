import { offFrames } from '@varrup/core';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useQuestion } from '../view/questions.ts';
import type { TakenFile } from './take-in.worker.ts';
import { leaveFiles, takeIn, useTaking } from './taking.ts';

/** What is in a file that came in, what of it stays out, and what of it is wanted. */
export function TakeInDialog() {
  const open = useQuestion((q) => q.open === 'take-in');
  const ask = useQuestion((q) => q.ask);
  const { state, names, taken, problem } = useTaking();
  if (!open) return null;
  const close = () => {
    leaveFiles();
    ask(null);
  };
  return (
    <Dialog open onClose={close} title="Bring in a file" about={names.join(', ')}>
      {state === 'reading' ? (
        <div>
          <progress aria-label="Reading" className="h-2 w-full accent-blue" />
          <p role="status" className="mt-1 text-graphite">
            Reading it…
          </p>
        </div>
      ) : null}
      {problem ? (
        <p role="alert" className="text-vermilion-ink">
          {problem} The shot is as it was.
        </p>
      ) : null}
      {taken && state !== 'refused' ? <Found key={taken.rig.id} taken={taken} keeping={state === 'keeping'} /> : null}
      {state === 'reading' || problem ? (
        <Button look="pill" className="mt-3" onClick={close}>
          {problem ? 'leave it' : 'cancel'}
        </Button>
      ) : null}
    </Dialog>
  );
}

function Found({ taken, keeping }: { taken: TakenFile; keeping: boolean }) {
  const rate = useShot((s) => s.shot?.rate ?? 24);
  const [frames, setFrames] = useState(true);
  const [without, setWithout] = useState<readonly number[]>([]);
  const wanted = taken.motions.map((_, m) => m).filter((m) => !without.includes(m));
  const { name, joints, vertices, motions, left } = taken;
  const between = offFrames(taken);
  return (
    <div className="flex flex-col gap-3">
      <p>
        <span className="font-semibold">{name}</span> becomes a rig of the library: {joints}{' '}
        {joints === 1 ? 'joint' : 'joints'}, each with a control, and {vertices} vertices.
      </p>
      {motions.length > 0 ? (
        <fieldset className="flex max-h-48 flex-col gap-1 overflow-y-auto">
          <legend className="mb-1 text-graphite">its motions, as clips</legend>
          {motions.map((motion, m) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the motions of a file stay in their places, and may be called alike.
            <label key={m} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-blue"
                checked={!without.includes(m)}
                onChange={(event) =>
                  setWithout(event.target.checked ? without.filter((w) => w !== m) : [...without, m])
                }
              />
              <span className="min-w-0 grow truncate">{motion.name}</span>
              <span className="tabular text-sm text-graphite">
                {motion.length} frames · {(motion.length / rate).toFixed(2)} s
              </span>
            </label>
          ))}
        </fieldset>
      ) : (
        <p className="text-graphite">It brings no motions.</p>
      )}
      {between > 0 ? (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-blue"
            checked={frames}
            onChange={(event) => setFrames(event.target.checked)}
          />
          a key at every frame, where {between} curves have keys between frames
        </label>
      ) : null}
      {left.length > 0 ? (
        <section aria-label="What stays out">
          <h3 className="text-graphite">what stays out, or comes in another way</h3>
          <ul className="mt-1 list-disc pl-5 text-sm">
            {left.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </section>
      ) : null}
      <Button look="solid" disabled={keeping} onClick={() => void takeIn(wanted, frames)}>
        bring it in
      </Button>
    </div>
  );
}
