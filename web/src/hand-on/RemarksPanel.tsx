import { type Remark, renameMember, type Shot, takeUpClip } from '@varrup/core';
import { CircleAlert, CircleCheck, Info } from 'lucide-react';
import { fix, goToFinding } from '../commands/checking.ts';
import { commandOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { select } from '../view/selection.ts';
import { useLookedThrough, useRemarks } from './remarks.ts';

/** What is to be known before what is wanted is handed on: where it is, and what mends it. It never hinders. */
export function RemarksPanel({ shot }: { shot: Shot }) {
  useLookedThrough(shot);
  const remarks = useRemarks((r) => r.remarks);
  if (remarks === null)
    return (
      <p className="px-4 py-3 text-graphite" role="status">
        Looking it through…
      </p>
    );
  return (
    <div className="min-h-0 grow overflow-y-auto px-2 py-2">
      {remarks.length === 0 ? (
        <p className="m-2 flex items-center gap-2 rounded-lg bg-moss-wash px-3 py-2">
          <CircleCheck size={16} className="shrink-0 text-moss-ink" aria-hidden />
          Loops close, nothing is loose, names are plain, and the checks find nothing.
        </p>
      ) : (
        <ul aria-label="Remarks">
          {remarks.map((remark) => (
            <One key={`${remark.clip} ${remark.finding?.id ?? remark.text}`} shot={shot} remark={remark} />
          ))}
        </ul>
      )}
    </div>
  );
}

function One({ shot, remark }: { shot: Shot; remark: Remark }) {
  const Sign = remark.weight === 'fault' ? CircleAlert : Info;
  const clip = remark.clip ? shot.clips.get(remark.clip) : undefined;
  return (
    <li className="mt-0.5 flex gap-2 rounded-lg px-2 py-1.5 text-sm hover:bg-well">
      <Sign
        size={15}
        className={`mt-0.5 shrink-0 ${remark.weight === 'fault' ? 'text-vermilion-ink' : 'text-graphite'}`}
        aria-label={remark.weight === 'fault' ? 'Fault' : 'Note'}
      />
      <div className="min-w-0 grow">
        <p>
          {clip && remark.about === 'check' ? <span className="text-graphite">{clip.name}: </span> : null}
          {remark.text}
        </p>
        <div className="mt-0.5 flex flex-wrap gap-1">
          {remark.member !== null || remark.frame !== null ? (
            <Button look="pill" className="h-6! px-2!" onClick={() => goTo(shot, remark)}>
              go there
            </Button>
          ) : null}
          {remark.finding?.fixable && !remark.clip ? (
            <Button look="pill" className="h-6! px-2!" onClick={() => remark.finding && fix([remark.finding])}>
              mend it
            </Button>
          ) : null}
          {remark.member !== null && remark.plainName !== null ? (
            <Button look="pill" className="h-6! px-2!" onClick={() => rename(remark)}>
              call it {remark.plainName}
            </Button>
          ) : null}
          {remark.about === 'loose' ? (
            <>
              <Button look="pill" className="h-6! px-2!" onClick={() => commandOf('key.loose').run()}>
                key them
              </Button>
              <Button look="pill" className="h-6! px-2!" onClick={() => commandOf('loose.drop').run()}>
                drop them
              </Button>
            </>
          ) : null}
        </div>
      </div>
    </li>
  );
}

function rename({ member, plainName }: Remark): void {
  if (member !== null && plainName !== null) useShot.getState().run(renameMember, { id: member, name: plainName });
}

/** Goes to where something was remarked; a clip that is laid by is taken up for it. */
function goTo(shot: Shot, remark: Remark): void {
  if (remark.clip && shot.clips.get(remark.clip)?.kept) useShot.getState().run(takeUpClip, { id: remark.clip });
  if (remark.finding) {
    goToFinding(remark.finding);
    return;
  }
  if (remark.member !== null) select([remark.member]);
  if (remark.frame !== null) usePlayhead.getState().go(remark.frame);
}
