import { arrayMembers, boundsOf, gridOf, type Shot } from '@varrup/core';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';

/** More members than this in one go are more than anybody means. */
const MOST = 1000;

/** Sets copies of what is picked out in a row or a grid. */
export function CopiesDialog() {
  const open = useQuestion((q) => q.open === 'copies');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.shot);
  const lead = useSelection((s) => s.picked.at(-1));
  if (!open || !shot || !lead) return null;
  return <Copies shot={shot} lead={lead} onClose={() => ask(null)} />;
}

function Copies({ shot, lead, onClose }: { shot: Shot; lead: string; onClose: () => void }) {
  const [counts, setCounts] = useState<[number, number, number]>([4, 1, 1]);
  const [steps, setSteps] = useState(() => sizeOf(shot, lead));
  const { picked: selection } = useSelection.getState();
  const copies = counts[0] * counts[1] * counts[2] - 1;
  const fine = copies > 0 && copies * selection.length <= MOST;
  const set = (list: [number, number, number], i: number, v: number) => list.with(i, v) as [number, number, number];
  return (
    <Dialog
      open
      onClose={onClose}
      title="Copies in a row or a grid"
      about="Each copy has all that hangs on the original and all its keys. The original stands in the first corner."
    >
      <div className="grid grid-cols-[1.5rem_1fr_2fr] items-center gap-x-3 gap-y-1.5">
        <span />
        <span className="text-sm text-graphite">how many</span>
        <span className="text-sm text-graphite">apart, in metres</span>
        {(['x', 'y', 'z'] as const).map((axis, i) => (
          <div key={axis} className="contents">
            <span className={`font-medium text-axis-${axis}`}>{axis}</span>
            <NumberField
              label={`How many along ${axis}`}
              value={counts[i]}
              step={1}
              digits={0}
              min={1}
              max={MOST}
              whole
              onChange={(v) => setCounts(set(counts, i, v))}
            />
            <NumberField
              label={`Apart along ${axis}`}
              value={steps[i]}
              unit="m"
              step={0.01}
              digits={3}
              min={-1000}
              max={1000}
              onChange={(v) => setSteps(set(steps, i, v))}
            />
          </div>
        ))}
      </div>
      <div className="mt-4 flex items-center justify-between">
        <span className="text-sm text-graphite" role="status">
          {copies < 1 ? 'One alone is no row.' : fine ? `${copies} copies` : `At most ${MOST} at a time.`}
        </span>
        <Button
          look="solid"
          disabled={!fine}
          onClick={() => {
            useShot.getState().run(arrayMembers, { ids: selection, copies: gridOf(shot, selection, counts, steps) });
            onClose();
          }}
        >
          set them out
        </Button>
      </div>
    </Dialog>
  );
}

/** Copies begin a quarter of their size apart. */
function sizeOf(shot: Shot, id: string): [number, number, number] {
  const [x0, y0, z0, x1, y1, z1] = boundsOf(shot.members.at(id), shot.rigs);
  const step = (size: number) => Math.round((size > 0 ? size * 1.25 : 0.5) * 100) / 100;
  return [step(x1 - x0), step(y1 - y0), step(z1 - z0)];
}
