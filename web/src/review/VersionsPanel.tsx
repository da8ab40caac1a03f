import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  bringBack,
  type Comparison,
  compareShots,
  newId,
  type Shot,
  splitPath,
  type VersionSummary,
} from '@varrup/core';
import { format } from 'date-fns';
import { GitBranch, History, Trash2 } from 'lucide-react';
import { type FormEvent, type ReactNode, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice, Part, Row } from '../ui/Choice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useHabits } from '../view/habits.ts';
import { usePlayhead } from '../view/playhead.ts';
import { pickChannels, select, useSelection } from '../view/selection.ts';
import { branchOf, type CompareMode, compareModes, compareWith, useCompare, type With, withWords } from './compare.ts';
import { keepMilestone } from './milestones.ts';

const sameWith = (a: With | null, b: With): boolean => JSON.stringify(a) === JSON.stringify(b);

/** So many shots of the production can be looked at beside this one. */
const MOST_OTHERS = 500;

/** Versions of the shot: kept by name, looked at beside it, compared channel by channel, brought back, branched. */
export function VersionsPanel({ shot }: { shot: Shot }) {
  const id = shot.id;
  const queries = useQueryClient();
  const versions = useQuery({ queryKey: ['versions', id], queryFn: () => api.versions(id) });
  const production = useShot((s) => s.production);
  const shots = useQuery({
    queryKey: ['shots', production?.id, 'of the versions'],
    enabled: production !== null,
    queryFn: () => api.shots({ production: production!.id, count: MOST_OTHERS }),
  });
  const chosen = useCompare((c) => c.with);
  const looked = useHabits((h) => h.looked[id]);
  const others = shots.data?.filter((s) => s.id !== id) ?? [];
  const again = () => void queries.invalidateQueries({ queryKey: ['versions', id] });
  const row = (what: With, word: string, about = '', version?: VersionSummary) => (
    <Choose key={word + about} what={what} word={word} about={about} on={sameWith(chosen, what)}>
      {version ? (
        <Button
          look="icon"
          aria-label={`Delete the version ${version.name}`}
          onClick={() =>
            void api
              .removeVersion(id, version.id)
              .then(again)
              .catch((error: Error) => toast.error(error.message))
          }
        >
          <Trash2 size={13} />
        </Button>
      ) : null}
    </Choose>
  );
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <h2 className="pt-1.5 font-semibold">Versions</h2>
      <Keep shot={shot} onKept={again} />
      <ul aria-label="What the shot is looked at beside" className="mt-2 max-h-56 overflow-y-auto">
        {looked === undefined
          ? null
          : row({ is: 'lately', revision: looked }, 'when you last looked', `edit ${looked}`)}
        {row({ is: 'opened' }, 'when the shot was opened')}
        {versions.data?.map((v) =>
          row({ is: 'version', id: v.id, name: v.name }, v.name, format(new Date(v.keptAt), 'd MMM, HH:mm'), v),
        )}
        {others.map((s) => row({ is: 'shot', id: s.id, name: s.name }, s.name, 'another shot'))}
      </ul>
      {versions.isError ? <p role="alert">{versions.error.message}</p> : null}
      <Compared shot={shot} onKept={again} />
    </div>
  );
}

function Choose({
  what,
  word,
  about,
  on,
  children,
}: {
  what: With;
  word: string;
  about: string;
  on: boolean;
  children: ReactNode;
}) {
  return (
    <li className="flex items-center">
      <Button
        className="flex min-w-0 grow items-baseline gap-2 text-left"
        aria-pressed={on}
        title={`Look at the shot beside ${word}`}
        onClick={() => void compareWith(on ? null : what)}
      >
        <span className="truncate">{word}</span>
        <span className="tabular shrink-0 text-xs text-graphite">{about}</span>
      </Button>
      {children}
    </li>
  );
}

function Keep({ shot, onKept }: { shot: Shot; onKept: () => void }) {
  const saved = useShot((s) => s.saving.kind === 'saved');
  const [name, setName] = useState('');
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await api.keepVersion(shot.id, name.trim());
      setName('');
      onKept();
    } catch (error) {
      toast.error(`The version could not be kept. ${(error as Error).message}`);
    }
  };
  return (
    <form onSubmit={(event) => void keep(event)} className="mt-1 flex gap-1">
      <input
        aria-label="Name of the version"
        placeholder="keep it as…"
        value={name}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
        className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-2"
      />
      <Button look="pill" type="submit" disabled={name.trim() === '' || !saved}>
        keep
      </Button>
    </form>
  );
}

const modeWords: Record<CompareMode, string> = {
  pair: 'side by side',
  wipe: 'wipe',
  over: 'one over the other',
  difference: 'what moved otherwise',
};

/** How the other one is looked at, and what of it is otherwise. */
function Compared({ shot, onKept }: { shot: Shot; onKept: () => void }) {
  const { with: chosen, other, mode, offset, tolerance } = useCompare();
  const comparison = useMemo(
    () => (other && chosen?.is !== 'shot' ? compareShots(other, shot) : null),
    [other, chosen, shot],
  );
  if (!chosen) return <p className="mt-3 text-graphite">Choose what to look at beside the shot.</p>;
  if (!other)
    return (
      <p className="mt-3 text-graphite" role="status">
        Fetching it…
      </p>
    );
  return (
    <>
      <Part title="looked at">
        <Choice
          label="how"
          value={mode}
          options={compareModes.map((m) => [m, modeWords[m]] as const)}
          onChange={(next) => useCompare.setState({ mode: next })}
        />
        <Row label="ahead">
          <NumberField
            label="How many frames the other one is ahead"
            value={offset}
            step={1}
            digits={0}
            whole
            min={-10_000}
            max={10_000}
            onChange={(next) => useCompare.setState({ offset: next })}
          />
          <NumberField
            label="What moved by more than so many millimetres"
            value={tolerance * 1000}
            step={1}
            digits={1}
            min={0}
            max={10_000}
            onChange={(next) => useCompare.setState({ tolerance: next / 1000 })}
          />
          <span className="text-sm text-graphite">mm</span>
        </Row>
      </Part>
      {comparison ? <Changes shot={shot} comparison={comparison} /> : null}
      {chosen.is === 'shot' ? null : (
        <BringBack shot={shot} other={other} name={withWords(chosen, shot)} onKept={onKept} />
      )}
    </>
  );
}

const most = 200;

function Changes({ shot, comparison: { members, others } }: { shot: Shot; comparison: Comparison }) {
  const digits = (value: number) => value.toFixed(Math.abs(value) >= 100 ? 1 : 3);
  if (members.length === 0 && others.length === 0) return <p className="mt-2 text-graphite">It is the same.</p>;
  return (
    <Part title="what is otherwise now">
      <ul aria-label="Changes" className="flex flex-col gap-1">
        {members.slice(0, most).map((member) => (
          <li key={member.member}>
            <span className="font-medium">
              {parentName(shot, member.member)}
              {member.name}
              <span className="font-normal text-graphite">
                {member.is === 'came'
                  ? ' has come'
                  : member.is === 'went'
                    ? ' has gone'
                    : member.otherwise
                      ? ' · form or place too'
                      : ''}
              </span>
            </span>
            <ul>
              {member.channels.map((channel) => (
                <li key={channel.path}>
                  <button
                    type="button"
                    className="tabular w-full rounded px-1 text-left text-sm hover:bg-well"
                    title={`Frames ${channel.first} to ${channel.last}: go to where it differs most`}
                    onClick={() => {
                      usePlayhead.getState().go(Math.round(channel.frame));
                      select([member.member]);
                      pickChannels([channel.path]);
                    }}
                  >
                    {splitPath(channel.path).channel.replace('.', ' ')}{' '}
                    <span className="text-graphite">
                      {digits(channel.before)} → {digits(channel.after)} at {Math.round(channel.frame)},{' '}
                      {Math.round(channel.first)}–{Math.round(channel.last)}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </li>
        ))}
        {members.length > most ? <li className="text-graphite">and {members.length - most} more</li> : null}
        {others.length > 0 ? <li className="text-graphite">besides: {others.join(', ')}</li> : null}
      </ul>
    </Part>
  );
}

/** The rig that a control belongs to, before its name. */
const parentName = (shot: Shot, id: string): string => {
  const member = shot.members.get(id);
  const parent = member?.kind === 'control' && member.parent ? shot.members.get(member.parent) : undefined;
  return parent ? `${parent.name}: ` : '';
};

function BringBack({ shot, other, name, onKept }: { shot: Shot; other: Shot; name: string; onKept: () => void }) {
  const picked = useSelection((s) => s.picked);
  const production = useShot((s) => s.production);
  const [first, setFirst] = useState(shot.play.first);
  const [last, setLast] = useState(shot.play.last);
  const bring = async (members: readonly string[] | null, frames: { first: number; last: number } | null) => {
    // What is there now is kept: nothing is ever written over.
    await keepMilestone(`before ${name} came back`);
    onKept();
    const { haveAtHand, run } = useShot.getState();
    haveAtHand(other.rigs.list);
    run(bringBack, { version: other, name, members, frames });
  };
  const branch = async () => {
    if (!production) return;
    try {
      const id = newId();
      const title = `${shot.name} · ${name}`.slice(0, 80);
      const made = await api.newShot(production.id, title, branchOf(other, id, title));
      toast(`“${title}” stands beside it.`, {
        action: { label: 'Go there', onClick: () => location.assign(`/shots/${made}`) },
      });
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <Part title="bring back">
      <span className="flex flex-wrap gap-1">
        <Button look="pill" onClick={() => void bring(null, null)}>
          <span className="flex items-center gap-1.5">
            <History size={13} /> all of it
          </span>
        </Button>
        <Button look="pill" disabled={picked.length === 0} onClick={() => void bring(picked, null)}>
          whom is picked
        </Button>
        <Button look="pill" onClick={() => void branch()}>
          <span className="flex items-center gap-1.5">
            <GitBranch size={13} /> as a shot beside it
          </span>
        </Button>
      </span>
      <Row label="frames">
        <NumberField
          label="Bring back from frame"
          value={first}
          step={1}
          digits={0}
          whole
          min={-100_000}
          max={last}
          onChange={setFirst}
        />
        <NumberField
          label="Bring back to frame"
          value={last}
          step={1}
          digits={0}
          whole
          min={first}
          max={1_000_000}
          onChange={setLast}
        />
        <Button look="pill" onClick={() => void bring(picked.length > 0 ? picked : null, { first, last })}>
          these
        </Button>
      </Row>
    </Part>
  );
}
