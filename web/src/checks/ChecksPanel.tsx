import {
  type Check,
  checks,
  type Finding,
  heedFindings,
  ignoreFinding,
  type Shot,
  setTolerance,
  toleranceOf,
} from '@varrup/core';
import { ChevronDown, ChevronRight, CircleCheck, EyeOff, LoaderCircle, Wrench } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { fix, goToFinding } from '../commands/checking.ts';
import { shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useFindings } from './findings.ts';

/** What the checks have found, check by check: where, how much, why it matters, and how it can be mended. */
export function ChecksPanel({ shot }: { shot: Shot }) {
  const { findings, state, milliseconds } = useFindings();
  const isDraft = useShot((s) => s.draft !== null);
  const groups = checks.map((check) => ({ check, own: findings.filter((f) => f.check === check.id) }));
  return (
    <div className="flex min-h-0 grow flex-col">
      <p className="flex shrink-0 items-center gap-1.5 px-4 pt-2 pb-1 text-sm text-graphite" role="status">
        {state === 'looking' ? <LoaderCircle size={13} className="motion-safe:animate-spin" aria-hidden /> : null}
        {state === 'looking' || state === 'none'
          ? 'Looking the shot through…'
          : state === 'failed'
            ? 'The checks have stopped. Reload the page to start them again.'
            : findings.length === 0
              ? `Nothing found, in ${Math.max(1, Math.round(milliseconds))} ms.`
              : `${findings.length} ${findings.length === 1 ? 'finding' : 'findings'}, in ${Math.max(1, Math.round(milliseconds))} ms.`}
        {isDraft ? ' With the draft that is shown.' : ''}
      </p>
      <div className="min-h-0 grow overflow-y-auto px-2 pb-3">
        {findings.length === 0 && state === 'done' ? (
          <p className="mx-2 my-2 flex items-center gap-2 rounded-lg bg-moss-wash px-3 py-2">
            <CircleCheck size={16} className="shrink-0 text-moss-ink" aria-hidden />
            {checks.length} checks watch every edit. They find nothing now.
          </p>
        ) : null}
        {groups
          .filter((g) => g.own.length > 0)
          .map(({ check, own }) => (
            <Group key={check.id} shot={shot} check={check} findings={own} />
          ))}
        <Tolerances shot={shot} />
        <IgnoredOnes shot={shot} />
      </div>
    </div>
  );
}

function Group({ shot, check, findings }: { shot: Shot; check: Check; findings: readonly Finding[] }) {
  const [why, setWhy] = useState(false);
  const mendable = findings.filter((f) => f.fixable);
  return (
    <section aria-label={check.name} className="mt-1.5">
      <header className="flex items-center gap-1 px-2">
        <Hint text="Why it matters" side="left">
          <button
            type="button"
            aria-expanded={why}
            onClick={() => setWhy(!why)}
            className="flex min-w-0 grow items-center gap-1 rounded text-left font-semibold"
          >
            {why ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
            <span className="truncate">{check.name}</span>
            <span
              className={`tabular rounded-full px-1.5 text-xs ${check.weight === 'fault' ? 'bg-vermilion-ink text-on-solid' : 'bg-well'}`}
            >
              {findings.length}
            </span>
          </button>
        </Hint>
        {mendable.length > 1 && check.fix ? (
          <Hint text={`${check.fix.words}, all ${mendable.length} of them: shown first, then kept or left`}>
            <Button look="pill" className="h-6! px-2! text-sm" onClick={() => fix(mendable)}>
              fix all
            </Button>
          </Hint>
        ) : null}
      </header>
      {why ? (
        <div className="mx-2 my-1 rounded-lg bg-well px-2.5 py-2 text-sm">
          <p>{check.why}</p>
          <Tolerance shot={shot} check={check} />
        </div>
      ) : null}
      <ul>
        {findings.map((finding) => (
          <One key={finding.id} check={check} finding={finding} />
        ))}
      </ul>
    </section>
  );
}

function One({ check, finding }: { check: Check; finding: Finding }) {
  const here = useFindings((f) => f.at === finding.id);
  return (
    <li className={`mt-0.5 rounded-lg px-2 py-1 ${here ? 'bg-blue-wash' : 'hover:bg-well'}`}>
      <Hint text="Go there" keys={shortcutOf('check.next')} side="left">
        <button
          type="button"
          onClick={() => goToFinding(finding)}
          className="flex w-full gap-2 rounded text-left text-sm"
        >
          <span className="tabular w-8 shrink-0 text-right font-semibold">
            {finding.frame === null ? '·' : Math.round(finding.frame * 100) / 100}
          </span>
          <span className="min-w-0 grow">{finding.text}</span>
        </button>
      </Hint>
      <div className="mt-0.5 ml-10 flex gap-1">
        {finding.fixable && check.fix ? (
          <Hint
            text="Shows what it would change; then keep it or leave it"
            keys={here ? shortcutOf('check.fix') : undefined}
          >
            <Button look="pill" className="h-6! px-2! text-sm" onClick={() => fix([finding])}>
              <Wrench size={12} className="mr-1 -mt-0.5 inline" aria-hidden />
              {check.fix.words}
            </Button>
          </Hint>
        ) : null}
        <Hint text="Leave this one alone from now on">
          <Button
            className="h-6! px-1.5! text-sm text-graphite"
            onClick={() => useShot.getState().run(ignoreFinding, { finding })}
          >
            ignore here
          </Button>
        </Hint>
      </div>
    </li>
  );
}

/** What a check takes for all right in this shot. */
function Tolerance({ shot, check }: { shot: Shot; check: Check }) {
  const run = useShot((s) => s.run);
  if (check.tolerance === null) return null;
  const own = Object.hasOwn(shot.watch.tolerances, check.id);
  return (
    <div className="mt-1.5 flex items-center gap-1.5">
      <span className="text-graphite">tolerance</span>
      <span className="w-16">
        <NumberField
          label={`Tolerance of ${check.name}`}
          value={toleranceOf(shot, check)}
          step={check.step ?? 1}
          digits={(check.step ?? 1) < 1 ? 1 : 0}
          min={0}
          max={check.most ?? 1000}
          onChange={(tolerance) => run(setTolerance, { check: check.id, tolerance })}
        />
      </span>
      <span className="text-graphite">{check.unit}</span>
      {own ? (
        <Button
          className="h-6! px-1.5! text-sm text-graphite"
          onClick={() => run(setTolerance, { check: check.id, tolerance: null })}
        >
          usual
        </Button>
      ) : null}
    </div>
  );
}

function Fold({ word, children }: { word: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <section className="mx-2 mt-3 border-t border-rule pt-1.5 text-sm">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex items-center gap-1 rounded text-graphite"
      >
        {open ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
        {word}
      </button>
      {open ? children : null}
    </section>
  );
}

/** Every check with its tolerance, found something or not. */
function Tolerances({ shot }: { shot: Shot }) {
  const changed = Object.keys(shot.watch.tolerances).length;
  return (
    <Fold
      word={`what is watched: ${checks.length} checks${changed > 0 ? `, ${changed} with a tolerance of this shot` : ''}`}
    >
      <ul>
        {checks.map((check) => (
          <li key={check.id} className="mt-1.5 ml-4">
            <b className="font-medium">{check.name}</b>
            <p className="text-graphite">{check.why}</p>
            <Tolerance shot={shot} check={check} />
          </li>
        ))}
      </ul>
    </Fold>
  );
}

function IgnoredOnes({ shot }: { shot: Shot }) {
  const run = useShot((s) => s.run);
  const { ignored } = shot.watch;
  if (ignored.length === 0) return null;
  return (
    <Fold word={`${ignored.length} ignored`}>
      <ul>
        {ignored.map((i) => (
          <li key={`${i.check} ${i.member} ${i.frame}`} className="mt-1 ml-4 flex items-center gap-1">
            <EyeOff size={12} className="shrink-0 text-graphite" aria-hidden />
            <span className="min-w-0 grow truncate">
              {checks.find((c) => c.id === i.check)?.name ?? i.check},{' '}
              {shot.members.get(i.member)?.name ?? 'someone gone'}
              {i.frame === null ? '' : ` at ${Math.round(i.frame)}`}
            </span>
            <Button className="h-6! px-1.5! text-sm" onClick={() => run(heedFindings, { ignored: [i] })}>
              watch again
            </Button>
          </li>
        ))}
      </ul>
    </Fold>
  );
}
