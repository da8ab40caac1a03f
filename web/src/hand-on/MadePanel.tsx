import type { Shot } from '@varrup/core';
import { RotateCcw } from 'lucide-react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Made } from './Made.tsx';
import { begin, save, useMade } from './made.ts';

/** What was handed on since the page was opened, how it was made, and the same once more of the shot as it is now. */
export function MadePanel({ shot }: { shot: Shot }) {
  const all = useMade((m) => m.jobs);
  const jobs = all.filter((job) => job.shot === shot.id);
  if (jobs.length === 0)
    return <p className="px-4 py-3 text-graphite">What you hand on is listed here, to be had and made again.</p>;
  return (
    <ul aria-label="Made" className="min-h-0 grow overflow-y-auto px-4 py-2">
      {jobs.map((job) => (
        <li key={job.id} className="border-b border-rule py-2 last:border-0">
          <p className="mb-1 flex items-baseline gap-2 text-sm">
            <span className="tabular text-graphite">{new Date(job.begun).toLocaleTimeString('en-GB')}</span>
            <span className="grow">{job.how}</span>
            {job.state === 'running' ? null : (
              <Hint text="The same of the shot as it is now">
                <Button look="icon" aria-label="Make it again" onClick={() => void again(job.id)}>
                  <RotateCcw size={14} aria-hidden />
                </Button>
              </Hint>
            )}
          </p>
          <Made job={job} />
        </li>
      ))}
    </ul>
  );
}

async function again(id: number): Promise<void> {
  const job = useMade.getState().jobs.find((j) => j.id === id);
  const { committed } = useShot.getState();
  if (!job || committed?.id !== job.shot) return;
  const made = await begin(committed, job.what).ended;
  if (made.files.length > 0) save(made.files[0]);
}
