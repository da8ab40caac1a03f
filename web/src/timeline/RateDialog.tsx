import { setRate } from '@varrup/core';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useQuestion } from '../view/questions.ts';

const usual = [24, 25, 30, 48, 50, 60];

/** Changes the frame rate, and asks whether frames or seconds stay. */
export function RateDialog() {
  const open = useQuestion((q) => q.open === 'rate');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.shot);
  if (!open || !shot) return null;
  return <Rate rate={shot.rate} onClose={() => ask(null)} />;
}

function Rate({ rate, onClose }: { rate: number; onClose: () => void }) {
  const run = useShot((s) => s.run);
  const [text, setText] = useState(String(rate));
  const wanted = Number(text.replace(',', '.'));
  const fine = text.trim() !== '' && wanted >= 1 && wanted <= 240;
  const change = (keep: 'frames' | 'seconds') => {
    run(setRate, { rate: wanted, keep });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title="Frame rate" about={`The shot plays ${rate} frames a second.`}>
      <div className="flex flex-wrap gap-1.5">
        {usual.map((r) => (
          <Button
            key={r}
            look="pill"
            className="tabular"
            aria-pressed={wanted === r}
            onClick={() => setText(String(r))}
          >
            {r}
          </Button>
        ))}
        <input
          aria-label="Frames a second"
          inputMode="decimal"
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="tabular h-7 w-20 rounded-md border border-rule bg-paper px-2 text-right"
        />
      </div>
      <p className="mt-2 h-5 text-sm text-vermilion-ink" role="status">
        {fine ? '' : 'Give a rate from 1 to 240.'}
      </p>
      <div className="mt-2 flex gap-2">
        <Button look="pill" className="grow" disabled={!fine || wanted === rate} onClick={() => change('frames')}>
          keep frames: plays {wanted > rate ? 'faster' : 'slower'}
        </Button>
        <Button look="solid" className="grow" disabled={!fine || wanted === rate} onClick={() => change('seconds')}>
          keep seconds: keys move
        </Button>
      </div>
    </Dialog>
  );
}
