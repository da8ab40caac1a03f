import type { Shot } from '@varrup/core';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { useHabits } from '../view/habits.ts';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { nextStep, STEPS } from './first-shot.ts';
import { firstSteps } from './texts.ts';
import { Words } from './Words.tsx';

/**
 * The first shot: seven steps on one's own shot, one shown at a time, gone on with as soon as it is done. It comes by itself in an
 * empty shot, until it is left or through; it can be taken up again.
 */
export function FirstShot({ shot }: { shot: Shot }) {
  const { firstShot, set } = useHabits();
  const frame = usePlayhead((p) => p.settled);
  const playing = usePlayhead((p) => p.playing);
  const sawChecks = usePlaces((s) => s.side === 'checks');
  const [hasPlayed, setPlayed] = useState(false);
  const comes = firstShot.is === 'new' && shot.members.size === 0;
  const isOpen = firstShot.is === 'open';
  useEffect(() => {
    if (comes) set({ firstShot: { is: 'open', shot: shot.id, step: 0 } });
  }, [comes, set, shot.id]);
  useEffect(() => {
    if (playing) setPlayed(true);
  }, [playing]);
  const taken = firstShot.shot === shot.id ? firstShot.step : 0;
  const step = nextStep(taken, { shot, frame, hasPlayed, sawChecks });
  useEffect(() => {
    if (isOpen && (step !== firstShot.step || firstShot.shot !== shot.id))
      set({ firstShot: { is: 'open', shot: shot.id, step } });
  }, [isOpen, step, firstShot, shot.id, set]);
  if (!isOpen) return null;
  const leave = () => set({ firstShot: { is: 'left', shot: shot.id, step } });
  const now = firstSteps[step];
  return (
    <section aria-label="First shot" className="shrink-0 border-t border-rule bg-paper px-3 py-2 text-sm">
      <div className="flex items-center gap-1.5">
        <ol className="flex grow gap-1" aria-hidden>
          {firstSteps.map(({ title }, i) => (
            <li
              key={title}
              className={`h-1.5 grow rounded-full ${i < step ? 'bg-moss' : i === step ? 'bg-blue' : 'bg-rule'}`}
            />
          ))}
        </ol>
        <Button
          look="icon"
          className="size-5!"
          aria-label="Leave the first shot"
          title="Leave it; / finds it again"
          onClick={leave}
        >
          <X size={12} />
        </Button>
      </div>
      <div role="status">
        {now ? (
          <>
            <h3 className="mt-1 font-semibold">
              {step + 1} of {STEPS}: {now.title}
            </h3>
            <p className="text-graphite">
              <Words text={now.text} />
            </p>
          </>
        ) : (
          <p className="mt-1">
            <Words text="That was your first shot. `Ctrl+M` makes a movie of it, and `F1` explains any panel." />
          </p>
        )}
      </div>
    </section>
  );
}
