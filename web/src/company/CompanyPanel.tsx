import { type Clip, clipsOf, type Manner, type Shot, setManner, spansMoving } from '@varrup/core';
import { ChevronDown, ChevronRight, Play, Square } from 'lucide-react';
import { useEffect, useState } from 'react';
import { run } from '../commands/now.ts';
import { rigMeant } from '../commands/rig-meant.ts';
import { EaseFields, HowChoice, LoopFields, PartFields, TurnField } from '../mix/manner-fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Part, Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';
import { StateMap } from './StateMap.tsx';
import { beginTrial, endTrial, pressInTrial, useTrial } from './trial.ts';

const STANDING = 'standing';

/** The clips of a rig as others will play them: each with how it goes about, what may follow it, and tried with the keyboard. */
export function CompanyPanel({ shot }: { shot: Shot }) {
  const selection = useSelection((s) => s.picked);
  const trying = useTrial((t) => t.company?.rig);
  const rig = trying ?? rigMeant(shot, selection);
  // Whoever goes to another panel leaves the trial.
  useEffect(() => () => endTrial(), []);
  if (!rig)
    return <p className="p-4 text-graphite">Clips belong to rigs: pick one, and try its clips over one another.</p>;
  const clips = clipsOf(shot, rig);
  if (clips.length === 0)
    return <p className="p-4 text-graphite">{shot.members.at(rig).name} has no clips yet. Make one under clips.</p>;
  return (
    <section aria-label="Clips in company" className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <h2 className="truncate pt-2 font-semibold" title={shot.members.at(rig).name}>
        {shot.members.at(rig).name} <span className="font-normal text-graphite">in company</span>
      </h2>
      <Trying shot={shot} rig={rig} clips={clips} />
      <Part title="how each goes about">
        <ul aria-label="Clips and their manners">
          {clips.map((clip) => (
            <MannerRow key={clip.id} shot={shot} clip={clip} />
          ))}
        </ul>
      </Part>
      <Part title="what may follow what">
        <StateMap shot={shot} clips={clips} />
      </Part>
    </section>
  );
}

/** Begins and ends a trial, and says what plays in it. */
function Trying({ shot, rig, clips }: { shot: Shot; rig: string; clips: readonly Clip[] }) {
  const company = useTrial((t) => t.company);
  const [base, setBase] = useState<string>(() => calmest(clips)?.id ?? STANDING);
  const chosen = clips.some((c) => c.id === base) ? base : STANDING;
  if (!company)
    return (
      <div className="mt-1.5 flex items-center gap-1.5">
        <select
          aria-label="Tried over"
          value={chosen}
          onChange={(event) => setBase(event.target.value)}
          className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-1 text-ink"
        >
          <option value={STANDING}>over standing at rest</option>
          {clips.map((clip) => (
            <option key={clip.id} value={clip.id}>
              over {clip.name}
            </option>
          ))}
        </select>
        <Hint
          text="It plays on and on: keys start and stop clips, arrows lead from one to the next, Escape ends it"
          side="left"
        >
          <Button
            look="solid"
            className="flex h-7! items-center gap-1.5 px-3!"
            onClick={() => beginTrial(rig, chosen === STANDING ? null : chosen)}
          >
            <Play size={13} aria-hidden /> try
          </Button>
        </Hint>
      </div>
    );
  const keyed = clips.filter((clip) => clip.manner.key !== null);
  return (
    <div className="mt-1.5 rounded-lg bg-blue-wash px-2.5 py-2">
      <Playing shot={shot} rig={rig} />
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {(['up', 'down', 'left', 'right'] as const).map((by) => (
          <Button
            key={by}
            look="pill"
            className="h-6! px-2!"
            aria-label={`Arrow ${by}`}
            onClick={() => pressInTrial({ arrow: by })}
          >
            {signs[by]}
          </Button>
        ))}
        {keyed.map((clip) => (
          <Button
            key={clip.id}
            look="pill"
            className="h-6! px-2!"
            onClick={() => pressInTrial({ key: clip.manner.key! })}
          >
            {clip.manner.key} <span className="text-graphite">{clip.name}</span>
          </Button>
        ))}
      </div>
      <div className="mt-2 flex gap-1.5">
        <Button look="pill" className="flex items-center gap-1.5" onClick={() => endTrial()}>
          <Square size={11} aria-hidden /> end it
        </Button>
        <Hint text="What was tried, up to now, becomes the tracks of the rig" side="left">
          <Button look="pill" onClick={() => endTrial(true)}>
            keep as tracks
          </Button>
        </Hint>
      </div>
    </div>
  );
}

const signs = { up: '↑', down: '↓', left: '←', right: '→', end: 'its end' } as const;

/** Of the clips that repeat, the slowest. */
const calmest = (clips: readonly Clip[]): Clip | undefined =>
  clips.filter((c) => c.cycles).sort((a, b) => Math.abs(a.travel / a.length) - Math.abs(b.travel / b.length))[0];

/** What plays in the trial, as it changes. */
function Playing({ shot, rig }: { shot: Shot; rig: string }) {
  // Said in words twice a second at most: who listens is not talked down.
  const words = usePlayhead((p) => spansMoving(shot, rig, p.frame - (p.frame % 6)));
  return (
    <p role="status" className="min-h-5">
      {words ?? 'Standing at rest.'}
    </p>
  );
}

function MannerRow({ shot, clip }: { shot: Shot; clip: Clip }) {
  const [isOpen, setOpen] = useState(false);
  const { manner } = clip;
  const set = (change: Partial<Manner>) => run(setManner, { id: clip.id, change });
  return (
    <li className="mt-1 rounded-lg bg-well px-2 py-1">
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-expanded={isOpen}
          className="flex min-w-0 grow items-center gap-1 text-left"
          onClick={() => setOpen(!isOpen)}
        >
          {isOpen ? <ChevronDown size={13} aria-hidden /> : <ChevronRight size={13} aria-hidden />}
          <span className="max-w-24 shrink-0 truncate">{clip.name}</span>
          <span className="ml-auto min-w-0 truncate text-sm text-graphite">{inShort(manner)}</span>
        </button>
        <Hint text="The key that starts and stops it in a trial: a letter or a figure" side="left">
          <input
            aria-label={`Key of ${clip.name}`}
            value={manner.key ?? ''}
            maxLength={1}
            placeholder="–"
            className="h-6 w-7 rounded-md border border-rule bg-paper text-center"
            onChange={(event) => {
              const key = event.target.value.toLowerCase();
              if (key === '' || /^[a-z0-9]$/.test(key)) set({ key: key === '' ? null : key });
            }}
          />
        </Hint>
      </div>
      {isOpen ? (
        <div className="mt-1 flex flex-col gap-1">
          <EaseFields of={clip.name} value={manner} rate={shot.rate} onChange={set} />
          <Row label="rank">
            <span className="w-16">
              <NumberField
                label={`rank of ${clip.name}`}
                value={manner.rank}
                min={-100}
                max={100}
                step={1}
                digits={0}
                whole
                onChange={(rank) => set({ rank })}
              />
            </span>
            <span className="text-sm text-graphite">over the lower</span>
          </Row>
          <HowChoice how={manner.how} onChange={(how) => set({ how })} />
          {clip.cycles ? null : <TurnField of={clip.name} turn={manner.turn} onChange={(turn) => set({ turn })} />}
          <PartFields shot={shot} rig={clip.rig} controls={manner.controls} edge={manner.edge} onChange={set} />
          <LoopFields clip={clip} loop={manner.loop} onChange={(loop) => set({ loop })} />
        </div>
      ) : null}
    </li>
  );
}

/** The manner of a clip at a glance. */
const inShort = ({ how, controls, loop }: Manner): string =>
  [how === 'onTop' ? 'on top' : '', controls ? 'part' : '', loop ? 'repeats' : '']
    .filter((word) => word !== '')
    .join(' · ');
