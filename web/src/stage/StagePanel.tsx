import { useEffect, useRef, useState } from 'react';
import { PanelOverStage } from '../board/PanelOverStage.tsx';
import { FootageBesideStage, FootageOverStage } from '../footage/FootageOverStage.tsx';
import { NotesOverStage } from '../review/NotesOverStage.tsx';
import { WipeLine } from '../review/WipeLine.tsx';
import { useShot } from '../shot/shot-store.ts';
import { useThemeChange } from '../ui/theme.ts';
import { useAutoKey } from '../view/auto-key.ts';
import { useLooking } from '../view/looking.ts';
import { usePlayhead } from '../view/playhead.ts';
import { stageRef } from '../view/stage-ref.ts';
import { FindingMarks } from './FindingMarks.tsx';
import { SafeFrame } from './SafeFrame.tsx';
import { Stage } from './stage.ts';
import { ToolRow } from './ToolRow.tsx';
import { ViewWheel } from './views/ViewWheel.tsx';

const recolour = () => stageRef.current?.recolour();

/** The stage with what stands round it: the tools, the view wheel, the sign that auto-key is armed. @param covered whether something lies over all of it */
export function StagePanel({ covered = false }: { covered?: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [draft, setDraft] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const [note, setNote] = useState<{ readonly text: string; readonly at: readonly [number, number] } | null>(null);
  const armed = useAutoKey((s) => s.mode !== 'off');
  const looking = useLooking((s) => s.looking);
  const four = useLooking((s) => s.four);
  const isEmpty = useShot((s) => s.shot !== null && s.shot.members.size === 0);
  useThemeChange(recolour);

  useEffect(() => {
    try {
      const stage = new Stage(canvas.current!, box.current!);
      stage.onDrawn = (isDraft) => {
        setDraft(isDraft);
        canvas.current!.dataset.drawn = 'yes';
      };
      stage.onNote = setNote;
      stageRef.current = stage;
      stage.recolour();
      return () => {
        stageRef.current = null;
        stage.close();
      };
    } catch (error) {
      setFailure(
        `This browser cannot draw in 3D (${(error as Error).message}). Sheet, curves and channels work without it.`,
      );
      return undefined;
    }
  }, []);

  useEffect(() => stageRef.current?.rest(covered), [covered]);

  return (
    <section inert={covered} aria-label="Stage" data-explained="Stage" className="flex h-full flex-col bg-paper">
      <ToolRow />
      <div className="flex min-h-0 grow">
        <FootageBesideStage />
        <div className="relative min-h-0 min-w-0 grow overflow-hidden">
          <canvas
            ref={canvas}
            className="absolute inset-0 size-full touch-none"
            data-testid="stage"
            role="img"
            aria-label="The shot in 3D"
          />
          <div ref={box} className="pointer-events-none absolute hidden border border-blue bg-blue/10" />
          {looking === 'camera' && !four ? <SafeFrame /> : null}
          {four ? <PaneNames /> : null}
          {note ? (
            <span
              data-testid="bead-note"
              className="tabular pointer-events-none absolute z-10 rounded-md bg-ink px-2 py-0.5 text-xs whitespace-nowrap text-on-solid"
              style={{ left: note.at[0] + 12, top: note.at[1] - 24 }}
            >
              {note.text}
            </span>
          ) : null}
          <FootageOverStage />
          <PanelOverStage />
          <NotesOverStage />
          <WipeLine />
          <FindingMarks />
          {armed ? (
            <div className="pointer-events-none absolute inset-0 border-4 border-vermilion" aria-hidden />
          ) : null}
          {armed ? (
            <span className="pointer-events-none absolute top-3 left-1/2 -translate-x-1/2 rounded-full bg-vermilion-ink px-3 py-1 text-sm font-semibold text-on-solid">
              auto key: what you change is keyed
            </span>
          ) : null}
          <ViewWheel />
          <div className="pointer-events-none absolute bottom-3 left-3 flex gap-1.5 text-xs text-graphite *:rounded-full *:bg-card/80 *:px-2 *:py-0.5">
            {draft ? <span>draft picture</span> : null}
            <Dropped />
          </div>
          {failure ? <p className="absolute inset-0 grid place-items-center p-8 text-center">{failure}</p> : null}
          {isEmpty ? (
            <p className="pointer-events-none absolute inset-x-0 top-1/3 text-center text-graphite">
              An empty stage. <b className="font-semibold text-ink">Bring in</b> a ball and a plane from the cast at the
              left.
            </p>
          ) : null}
        </div>
      </div>
    </section>
  );
}

/** How well playing keeps up. It stands on the picture, where it comes and goes without moving anything that a hand is at. */
function Dropped() {
  const dropped = usePlayhead((p) => p.dropped);
  if (dropped === 0) return null;
  return (
    <span className="tabular" data-testid="dropped">
      {dropped} {dropped === 1 ? 'frame' : 'frames'} dropped in a second
    </span>
  );
}

/** What each of the four views looks from. */
function PaneNames() {
  const names = [
    ['top', 'top-1 left-1/2 ml-2'],
    ['front', 'top-1/2 left-2 mt-1'],
    ['side', 'top-1/2 left-1/2 ml-2 mt-1'],
  ] as const;
  return (
    <div className="pointer-events-none absolute inset-0 text-xs text-graphite" aria-hidden>
      <span className="absolute inset-y-0 left-1/2 w-px bg-rule" />
      <span className="absolute inset-x-0 top-1/2 h-px bg-rule" />
      {names.map(([name, place]) => (
        <span key={name} className={`absolute rounded bg-card/80 px-1 ${place}`}>
          {name}
        </span>
      ))}
    </div>
  );
}
