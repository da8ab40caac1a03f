import { useQueryClient } from '@tanstack/react-query';
import { type Build, buildRemarks } from '@varrup/core';
import { FlipHorizontal2, Maximize, Redo2, Undo2 } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { newest, useLibrary } from '../rigs/library.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { BodySection } from './BodySection.tsx';
import { BuildView } from './BuildView.tsx';
import type { BuildScene } from './build-scene.ts';
import {
  closeBuilding,
  keepRig,
  openToBuild,
  type RiggingTool,
  redoBuilding,
  startAgain,
  undoBuilding,
  useBuilding,
} from './build-store.ts';
import { DressSection } from './DressSection.tsx';
import { JointFields } from './JointFields.tsx';
import { JointList } from './JointList.tsx';
import { KeepDialog } from './KeepDialog.tsx';
import { keys, useBuildKeys } from './keys.ts';
import { PaintSection } from './PaintSection.tsx';
import { ShapeSection } from './ShapeSection.tsx';
import { RemarksSection, TrySection } from './TrySection.tsx';

/** Where rigs are built: joints are put into a body, it is weighed and dressed, tried, and kept as a new version. */
export function BuildRoom() {
  const { rig = '', version = '' } = useParams();
  const { state, problem, build } = useBuilding();
  useEffect(() => {
    const { link } = useBuilding.getState();
    // What was just kept from here is here already.
    if (link?.rig === rig && link.version === Number(version)) return;
    void openToBuild({ rig, version: Number(version) });
  }, [rig, version]);
  useEffect(
    () => () => {
      closeBuilding();
      useBuilding.setState({ link: null, build: null, state: 'fetching' });
    },
    [],
  );
  useEffect(() => {
    document.title = build ? `${build.name} – building – Varrup` : 'Building a rig – Varrup';
  }, [build]);
  if (state === 'refused' || !build)
    return (
      <main className="grid h-full place-items-center p-8 text-center">
        {state === 'refused' ? (
          <p role="alert">
            {problem}{' '}
            <Link to="/rigs" className="underline">
              back to the rigs
            </Link>
          </p>
        ) : (
          <p role="status">Fetching the rig…</p>
        )}
      </main>
    );
  return <Room build={build} />;
}

const tools: readonly (readonly [RiggingTool, string, string, string])[] = [
  ['pick', 'pick', 'Pick joints and draw them where they belong; with Shift what they carry comes along', keys.pick],
  ['press', 'press joints', 'Press on the body: a joint lands in its middle and hangs on the picked one', keys.press],
  ['shape', 'shape', 'Take hold of the skin and pull, turn, size or smooth it, softly', keys.shape],
  ['paint', 'paint', 'Paint how the body hangs on the picked joint', keys.paint],
];

function Room({ build }: { build: Build }) {
  const scene = useRef<BuildScene | null>(null);
  const { tool, pairs, picked, trying, drafted, link, kept, past, future, note } = useBuilding();
  const [asking, setAsking] = useState(false);
  const { data: rigs } = useLibrary();
  const queries = useQueryClient();
  const navigate = useNavigate();
  useBuildKeys(scene);
  const entry = rigs?.find((r) => r.id === build.id);
  const next = (entry ? newest(entry) : (link?.version ?? 0)) + 1;
  const joint = build.joints.find((j) => j.id === picked);
  const keep = async (changes: string) => {
    const done = await keepRig(next, changes);
    if (!done) return;
    setAsking(false);
    await queries.invalidateQueries({ queryKey: ['rigs'] });
    toast(`${build.name} is kept as version ${done.version}.`);
    void navigate(`/rigs/${done.rig}/${done.version}/build`, { replace: true });
  };
  const askToKeep = () => {
    const stop = buildRemarks(build).find((r) => r.stops);
    if (stop) toast.error(`It cannot be kept yet. ${stop.text}`);
    else setAsking(true);
  };
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-10 shrink-0 items-center gap-3 border-b border-rule bg-card px-3">
        <Link to="/" className="flex items-center gap-2 font-bold" aria-label="Varrup: all productions">
          <span className="h-1.5 w-4 rounded-full bg-ink" aria-hidden />
          Varrup
        </Link>
        <Link to="/rigs" className="text-graphite hover:text-ink">
          rigs
        </Link>
        <h1 className="min-w-0 truncate font-semibold" title={build.name}>
          {build.name}
        </h1>
        <span className="truncate text-graphite">
          from version {link?.version}
          {build === kept ? '' : drafted && past.length === 0 ? ', gone on from your draft' : ', not kept yet'}
        </span>
        {drafted && build !== kept ? (
          <Button look="plain" onClick={startAgain}>
            start again
          </Button>
        ) : null}
        <span className="grow" />
        <HistoryButton did={past.at(-1)?.did} word="Undo" keys={keys.undo} onClick={undoBuilding}>
          <Undo2 size={16} />
        </HistoryButton>
        <HistoryButton did={future.at(-1)?.did} word="Redo" keys={keys.redo} onClick={redoBuilding}>
          <Redo2 size={16} />
        </HistoryButton>
        <Button look="solid" onClick={askToKeep} disabled={build === kept}>
          keep as a new version…
        </Button>
      </header>
      <main className="flex min-h-0 grow">
        <div className="flex w-60 shrink-0 flex-col border-r border-rule bg-card">
          <JointList build={build} />
          {joint ? <JointFields build={build} joint={joint} /> : null}
        </div>
        <div className="relative min-w-0 grow">
          <BuildView build={build} scene={scene} />
          <div className="absolute top-2 left-2 flex gap-1" role="toolbar" aria-label="Tools">
            {tools.map(([value, word, about, key]) => (
              <Hint key={value} text={about} keys={key}>
                <Button
                  look="pill"
                  aria-pressed={tool === value}
                  onClick={() =>
                    useBuilding.setState({
                      tool: value,
                      trying: null,
                      ...(value === 'paint' ? { tints: 'picked' } : value === 'pick' ? {} : { tints: 'none' }),
                    })
                  }
                >
                  {word}
                </Button>
              </Hint>
            ))}
            <Hint text="Do on the other side what is done on one" keys={keys.pairs}>
              <Button
                look="pill"
                aria-pressed={pairs}
                className="flex items-center gap-1"
                onClick={() => useBuilding.setState({ pairs: !pairs })}
              >
                <FlipHorizontal2 size={14} /> both sides
              </Button>
            </Hint>
            <Hint text="All of it in view" keys={keys.bring}>
              <Button look="pill" aria-label="All of it in view" onClick={() => scene.current?.bring()}>
                <Maximize size={14} />
              </Button>
            </Hint>
          </div>
          <p className="pointer-events-none absolute bottom-2 left-3 text-sm text-graphite">{hintFor(tool, trying)}</p>
        </div>
        <div className="w-72 shrink-0 overflow-y-auto border-l border-rule bg-card">
          <BodySection build={build} />
          {note ? (
            <p role="note" className="border-b border-rule bg-ochre-wash px-3 py-2 text-sm">
              {note}
            </p>
          ) : null}
          <ShapeSection build={build} />
          {tool === 'paint' ? <PaintSection build={build} /> : null}
          <DressSection build={build} />
          <TrySection build={build} />
          <RemarksSection build={build} />
        </div>
      </main>
      {asking ? (
        <KeepDialog
          build={build}
          version={next}
          onKeep={(changes) => void keep(changes)}
          onClose={() => setAsking(false)}
        />
      ) : null}
    </div>
  );
}

function hintFor(tool: RiggingTool, trying: string | null): string {
  if (trying !== null) return `${trying}: press its name again, or Escape, to go on building`;
  if (tool === 'press')
    return 'press on the body to put a joint in its middle · right button turns the view, wheel goes nearer';
  if (tool === 'shape') return 'take hold of the skin and draw · right button turns the view, wheel goes nearer';
  if (tool === 'paint') return 'draw on the body with the left button · right button turns the view, wheel goes nearer';
  return 'draw a joint to move it, with Shift what it carries comes along · right button turns the view';
}

function HistoryButton({
  did,
  word,
  keys: shortcut,
  onClick,
  children,
}: {
  did: string | undefined;
  word: string;
  keys: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <Hint text={did ? `${word}: ${did}` : `Nothing to ${word.toLowerCase()}`} keys={shortcut}>
      <Button
        look="icon"
        aria-label={did ? `${word}: ${did}` : word}
        aria-disabled={!did}
        onClick={onClick}
        className={did ? '' : 'opacity-40'}
      >
        {children}
      </Button>
    </Hint>
  );
}
