import { useEffect, useRef, useState } from 'react';
import { commandOf, keysOf } from '../commands/list.ts';
import { aboutWords, turnPicked } from '../commands/turning.ts';
import { HelpMark } from '../help/HelpMark.tsx';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem } from '../ui/Menu.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useThemeChange } from '../ui/theme.ts';
import { stageRef } from '../view/stage-ref.ts';
import { useHabits, useView } from '../view/view-store.ts';
import { FindingMarks } from './FindingMarks.tsx';
import { Arcs, Onion, Toggle } from './looks.tsx';
import { Stage } from './stage.ts';
import { ViewWheel } from './views/ViewWheel.tsx';

const recolour = () => stageRef.current?.recolour();

/** The stage with what stands round it: the tools, the view wheel, the sign that auto-key is armed. */
export function StagePanel() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [draft, setDraft] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const [bead, setBead] = useState<{ readonly text: string; readonly at: readonly [number, number] } | null>(null);
  const armed = useView((v) => v.autoKey !== 'off');
  const looking = useView((v) => v.looking);
  const four = useView((v) => v.four);
  const isEmpty = useShot((s) => s.shot !== null && s.shot.members.size === 0);
  useThemeChange(recolour);

  useEffect(() => {
    try {
      const stage = new Stage(canvas.current!, box.current!);
      stage.onDrawn = (isDraft) => {
        setDraft(isDraft);
        canvas.current!.dataset.drawn = 'yes';
      };
      stage.onNote = setBead;
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

  return (
    <section aria-label="Stage" data-explained="Stage" className="relative h-full overflow-hidden bg-paper">
      <canvas
        ref={canvas}
        className="absolute inset-0 size-full touch-none"
        data-testid="stage"
        role="img"
        aria-label="The shot in 3D"
      />
      <div ref={box} className="pointer-events-none absolute hidden border border-blue bg-blue/10" />
      {looking === 'camera' && !four ? <FilmGuide /> : null}
      {four ? <PaneNames /> : null}
      {bead ? (
        <span
          data-testid="bead-note"
          className="tabular pointer-events-none absolute z-10 rounded-md bg-ink px-2 py-0.5 text-xs whitespace-nowrap text-on-solid"
          style={{ left: bead.at[0] + 12, top: bead.at[1] - 24 }}
        >
          {bead.text}
        </span>
      ) : null}
      <FindingMarks />
      <Tools />
      {armed ? <div className="pointer-events-none absolute inset-0 border-4 border-vermilion" aria-hidden /> : null}
      {armed ? (
        <span className="pointer-events-none absolute top-3 left-1/2 -translate-x-1/2 rounded-full bg-vermilion-ink px-3 py-1 text-sm font-semibold text-on-solid">
          auto key: what you change is keyed
        </span>
      ) : null}
      <ViewWheel />
      <HelpMark of="Stage" className="absolute top-3 right-3" />
      {draft ? (
        <span className="pointer-events-none absolute bottom-3 left-3 rounded-full bg-card/80 px-2 py-0.5 text-xs text-graphite">
          draft picture
        </span>
      ) : null}
      {failure ? <p className="absolute inset-0 grid place-items-center p-8 text-center">{failure}</p> : null}
      {isEmpty ? (
        <p className="pointer-events-none absolute inset-x-0 top-1/3 text-center text-graphite">
          An empty stage. <b className="font-semibold text-ink">Bring in</b> a ball and a plane from the cast at the
          left.
        </p>
      ) : null}
    </section>
  );
}

function Tools() {
  const { tool, axes, locks, follow, four, controls, xray, balance } = useView();
  const hasRigs = useShot((s) => s.shot?.members.values().some((m) => m.kind === 'rig'));
  return (
    <div
      className="absolute top-3 left-3 flex flex-col gap-1.5"
      role="toolbar"
      aria-label="Tools of the stage"
      aria-orientation="vertical"
    >
      <div className="flex rounded-full border border-rule bg-card/90 p-0.5 shadow-sm">
        {(['pick', 'move', 'turn', 'size'] as const).map((name) => (
          <Hint key={name} text={commandOf(`tool.${name}`).label} keys={keysOf(`tool.${name}`)}>
            <Button
              className="h-6! rounded-full! px-2.5! text-sm"
              aria-pressed={tool === name}
              onClick={() => commandOf(`tool.${name}`).run()}
            >
              {name}
            </Button>
          </Hint>
        ))}
      </div>
      {tool === 'pick' ? null : (
        <div className="flex items-center gap-1">
          <Hint text="Along which axes: world, parent, own" keys={keysOf('axes.next')}>
            <Button look="pill" className="h-6! px-2! text-sm" onClick={() => commandOf('axes.next').run()}>
              {tool === 'size' ? 'own' : axes} axes
            </Button>
          </Hint>
          {(['x', 'y', 'z'] as const).map((axis) => (
            <Hint key={axis} text={commandOf(`lock.${axis}`).label} keys={keysOf(`lock.${axis}`)}>
              <button
                type="button"
                aria-pressed={locks[axis]}
                aria-label={`Lock the ${axis} axis`}
                onClick={() => commandOf(`lock.${axis}`).run()}
                className={`size-6 rounded-full border border-rule bg-card text-sm font-medium ${locks[axis] ? 'text-graphite line-through' : `text-axis-${axis}`}`}
              >
                {axis}
              </button>
            </Hint>
          ))}
        </div>
      )}
      {tool === 'turn' ? <TurnTogether /> : null}
      <div className="flex items-center gap-1">
        <Arcs />
        <Onion />
      </div>
      <div className="flex items-center gap-1">
        {(['view.follow', 'view.four'] as const).map((id) => (
          <Toggle key={id} id={id} on={{ 'view.follow': follow, 'view.four': four }[id]}>
            {{ 'view.follow': 'follow', 'view.four': 'four views' }[id]}
          </Toggle>
        ))}
      </div>
      {hasRigs ? (
        <div className="flex items-center gap-1">
          {(['view.controls', 'view.xray', 'view.balance'] as const).map((id) => (
            <Toggle key={id} id={id} on={{ 'view.controls': controls, 'view.xray': xray, 'view.balance': balance }[id]}>
              {{ 'view.controls': 'controls', 'view.xray': 'see through', 'view.balance': 'balance' }[id]}
            </Toggle>
          ))}
        </div>
      ) : null}
    </div>
  );
}

/** Turns what is picked by an angle, together and keyed: about what, by how much, in how many frames. */
function TurnTogether() {
  const about = useView((v) => v.about);
  const frames = useHabits((h) => h.turnFrames);
  const [degrees, setDegrees] = useState(90);
  const none = useView((v) => v.selection.length === 0);
  return (
    <div className="w-60 rounded-xl border border-rule bg-card/95 p-2 text-sm shadow-sm">
      <Menu
        trigger={
          <Button look="pill" className="h-6! w-full px-2! text-sm" title="What turning goes about">
            {aboutWords[about]}
          </Button>
        }
      >
        {(Object.keys(aboutWords) as (typeof about)[]).map((name) => (
          <MenuItem key={name} checked={about === name} onPick={() => useView.getState().set({ about: name })}>
            {aboutWords[name]}
          </MenuItem>
        ))}
      </Menu>
      <div className="mt-1.5 flex items-center gap-1">
        <span className="w-14">
          <NumberField
            label="Turn by"
            value={degrees}
            unit="°"
            step={5}
            digits={0}
            min={-36_000}
            max={36_000}
            onChange={setDegrees}
          />
        </span>
        in
        <span className="w-10">
          <NumberField
            label="Frames a turn takes"
            value={frames}
            step={1}
            digits={0}
            min={1}
            max={1000}
            whole
            onChange={(turnFrames) => useHabits.getState().set({ turnFrames })}
          />
        </span>
        frames
      </div>
      <div className="mt-1.5 flex items-center gap-1">
        <span className="text-graphite">key it about</span>
        {(['x', 'y', 'z'] as const).map((axis) => (
          <Hint
            key={axis}
            text={`Turn about ${axis} from this frame on, keyed, and go to its end`}
            keys={keysOf(`turn.${axis}`)}
          >
            <Button
              look="pill"
              className={`h-6! px-2! text-sm font-medium text-axis-${axis}`}
              disabled={none}
              aria-label={`Key a turn about ${axis}`}
              onClick={() => turnPicked(axis, degrees)}
            >
              {axis}
            </Button>
          </Hint>
        ))}
      </div>
    </div>
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

/** The edges of the film as the shot's camera sees it. */
function FilmGuide() {
  return (
    <div className="pointer-events-none absolute inset-0 grid place-items-center [container-type:size]" aria-hidden>
      <div className="aspect-video w-[min(100cqw,100cqh*16/9)] border border-ink/40" />
    </div>
  );
}
