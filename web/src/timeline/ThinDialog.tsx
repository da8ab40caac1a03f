import { countKeys, type ThinReport, thinKeys, thinningOf } from '@varrup/core';
import { useEffect, useState } from 'react';
import { timingKeys } from '../commands/retiming.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useQuestion } from '../view/questions.ts';
import { pickKeys } from '../view/selection.ts';

/** Takes away keys the motion can do without, and says beforehand what that comes to. */
export function ThinDialog() {
  const open = useQuestion((q) => q.open === 'thin');
  return open ? <Thin onClose={() => useQuestion.getState().ask(null)} /> : null;
}

/** How long one slice of looking takes, in milliseconds: less than a refresh of the screen. */
const SLICE_MS = 12;

const DEGREE = Math.PI / 180;

function Thin({ onClose }: { onClose: () => void }) {
  const committed = useShot((s) => s.committed);
  const [metres, setMetres] = useState(0.001);
  const [degrees, setDegrees] = useState(0.1);
  const [report, setReport] = useState<ThinReport | null>(null);
  const [done, setDone] = useState(0);
  const keys = committed ? timingKeys(committed) : {};
  const tolerances = { m: metres, '°': degrees * DEGREE, '': metres };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the keys meant cannot change while the card is open
  useEffect(() => {
    if (!committed) return;
    setReport(null);
    setDone(0);
    // A long shot takes a second or two: it is looked through in slices, and the card stays alive between them.
    const steps = thinningOf(committed, keys, tolerances);
    let wait = 0;
    const slice = () => {
      const end = performance.now() + SLICE_MS;
      while (performance.now() < end) {
        const step = steps.next();
        if (step.done) {
          setReport(step.value);
          return;
        }
        setDone(step.value);
      }
      wait = window.setTimeout(slice);
    };
    wait = window.setTimeout(slice, 30);
    return () => clearTimeout(wait);
  }, [committed, metres, degrees]);
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Thin ${countKeys(keys)} keys`}
      about="Keys go that the motion can do without: no frame, and nothing between frames, moves by more than this. Orientations are left alone."
    >
      <div className="grid grid-cols-[1fr_7rem] items-center gap-2">
        <span>moves, sizes and others</span>
        <NumberField
          label="Tolerance of moves"
          value={metres}
          unit="m"
          step={0.0005}
          digits={4}
          min={0.0001}
          max={10}
          onChange={setMetres}
        />
        <span>turns</span>
        <NumberField
          label="Tolerance of turns"
          value={degrees}
          unit="°"
          step={0.05}
          digits={2}
          min={0.01}
          max={90}
          onChange={setDegrees}
        />
      </div>
      <p className="tabular mt-3 min-h-10 text-sm" role="status">
        {report
          ? report.removed === 0
            ? 'Every key is needed.'
            : `${report.removed} of ${report.of} keys go. The largest change is ${changes(report)}.`
          : `Looking through the curves… ${Math.round(done * 100)} %`}
      </p>
      <div className="mt-2 flex justify-end">
        <Button
          look="solid"
          disabled={!report || report.removed === 0}
          onClick={() => {
            useShot.getState().run(thinKeys, { keys, tolerances, report: report ?? undefined });
            pickKeys({});
            onClose();
          }}
        >
          thin
        </Button>
      </div>
    </Dialog>
  );
}

function changes({ largest }: ThinReport): string {
  const parts: string[] = [];
  if (largest.m > 0) parts.push(`${(largest.m * 1000).toFixed(2)} mm`);
  if (largest['°'] > 0) parts.push(`${(largest['°'] / DEGREE).toFixed(3)}°`);
  if (largest[''] > 0) parts.push(`${largest[''].toFixed(4)} of a channel without a unit`);
  return parts.join(', ') || 'nothing at all';
}
