import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { aboutWords, turnPicked } from '../commands/turning.ts';
import { LargeButton } from '../desk/LargeButton.tsx';
import { HelpMark } from '../help/HelpMark.tsx';
import { PerformToggle } from '../perform/PerformToggle.tsx';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem } from '../ui/Menu.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useHabits } from '../view/habits.ts';
import { useLooking } from '../view/looking.ts';
import { useSelection } from '../view/selection.ts';
import { useShown } from '../view/shown.ts';
import { type Snap, useTool } from '../view/tool.ts';
import { Arcs, Onion, Toggle } from './MotionToggles.tsx';

/** What the stage is worked with, in one row above it: the hand's tools and their axes, what is drawn around the motion, and looking. */
export function ToolRow() {
  return (
    <div
      role="toolbar"
      aria-label="Tools of the stage"
      className="flex min-h-9 shrink-0 items-center gap-x-1 border-b border-rule bg-card px-2 max-xl:flex-wrap xl:overflow-hidden 2xl:gap-x-3"
    >
      <Tools />
      <Axes />
      <span className="h-4 w-px shrink-0 bg-rule" aria-hidden />
      <span className="flex shrink-0 items-center gap-1">
        <Arcs />
        <Onion />
      </span>
      <Looking />
      <PerformToggle />
      <span className="grow" />
      <span className="flex shrink-0 items-center gap-1">
        <HelpMark of="Stage" />
        <LargeButton place="stage" />
      </span>
    </div>
  );
}

function Tools() {
  const tool = useTool((s) => s.tool);
  return (
    <span className="flex shrink-0 rounded-full bg-well p-0.5">
      {(['pick', 'move', 'turn', 'size'] as const).map((name) => (
        <Hint key={name} text={commandOf(`tool.${name}`).label} keys={shortcutOf(`tool.${name}`)}>
          <button
            type="button"
            aria-pressed={tool === name}
            onClick={() => commandOf(`tool.${name}`).run()}
            className="h-6 rounded-full px-2.5 text-sm text-graphite aria-pressed:bg-card aria-pressed:font-medium aria-pressed:text-blue aria-pressed:shadow-sm"
          >
            {name}
          </button>
        </Hint>
      ))}
    </span>
  );
}

const snapWords: Record<Snap, string> = { off: 'free', grid: 'to grid', things: 'to things' };

/** Along which axes the hand goes, which it leaves alone, and what it turns about. */
function Axes() {
  const tool = useTool((s) => s.tool);
  const axes = useTool((s) => s.axes);
  const locks = useTool((s) => s.locks);
  const snap = useTool((s) => s.snap);
  const pivot = useTool((s) => s.pivot);
  if (tool === 'pick') return null;
  return (
    <span className="flex shrink-0 items-center gap-1">
      <Hint text="Along which axes: world, parent, own" keys={shortcutOf('axes.next')}>
        <Button look="pill" className="h-6! px-2! text-sm" onClick={() => commandOf('axes.next').run()}>
          {tool === 'size' ? 'own' : axes} axes
        </Button>
      </Hint>
      {(['x', 'y', 'z'] as const).map((axis) => (
        <Hint key={axis} text={commandOf(`lock.${axis}`).label} keys={shortcutOf(`lock.${axis}`)}>
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
      <Hint
        text="What the hand goes to: anywhere, the grid (0.1 m, 15°), or the ground and other things. Ctrl holds it off"
        keys={shortcutOf('snap.next')}
      >
        <Button
          look="pill"
          className="h-6! px-2! text-sm"
          aria-pressed={snap !== 'off'}
          onClick={() => commandOf('snap.next').run()}
        >
          {snapWords[snap]}
        </Button>
      </Hint>
      {tool === 'move' ? (
        <Hint text={commandOf('pivot.move').label} keys={shortcutOf('pivot.move')}>
          <Button
            look="pill"
            className="h-6! px-2! text-sm"
            aria-pressed={pivot}
            onClick={() => commandOf('pivot.move').run()}
          >
            pivot
          </Button>
        </Hint>
      ) : null}
      {tool === 'turn' ? <TurnTogether /> : null}
    </span>
  );
}

/** What is seldom changed of how the stage is looked at, behind one press. */
function Looking() {
  const hasRigs = useShot((s) => s.shot?.members.values().some((m) => m.kind === 'rig') ?? false);
  const follow = useLooking((s) => s.follow);
  const four = useLooking((s) => s.four);
  const flat = useLooking((s) => s.flat);
  const controls = useShown((s) => s.controls);
  const xray = useShown((s) => s.xray);
  const balance = useShown((s) => s.balance);
  const { footprints, bodyArcs } = useHabits();
  const rows = [
    ['view.follow', follow, true],
    ['view.four', four, true],
    ['view.flat', flat, true],
    ['view.controls', controls, hasRigs],
    ['view.xray', xray, hasRigs],
    ['view.balance', balance, hasRigs],
    ['view.footprints', footprints, hasRigs],
    ['view.bodyArcs', bodyArcs, hasRigs],
  ] as const;
  const unusual = follow || four || flat || !controls || xray || balance;
  return (
    <span className="flex shrink-0 items-center gap-1">
      {follow ? (
        <Toggle id="view.follow" on>
          follow
        </Toggle>
      ) : null}
      <Menu
        trigger={
          <Button
            look="pill"
            className={`flex h-6! items-center gap-1 px-2! text-sm ${unusual ? 'text-blue' : ''}`}
            title="How the stage is looked at"
          >
            looking <ChevronDown size={12} aria-hidden />
          </Button>
        }
      >
        {rows.map(([id, on, offered]) =>
          offered ? (
            <MenuItem key={id} checked={on} onPick={() => commandOf(id).run()}>
              <span className="flex w-72 items-baseline justify-between gap-3">
                {commandOf(id).label}
                <kbd className="tabular text-sm text-graphite">{shortcutOf(id)}</kbd>
              </span>
            </MenuItem>
          ) : null,
        )}
      </Menu>
    </span>
  );
}

/** The same in as few words as the row has room for. */
const ABOUT_SHORT: typeof aboutWords = {
  own: 'own pivot',
  middle: 'middle of all',
  lead: "last one's pivot",
  stage: 'the stage',
};

/** Turns what is picked by an angle, together and keyed: about what, by how much, in how many frames. */
function TurnTogether() {
  const about = useTool((s) => s.about);
  const frames = useHabits((h) => h.turnFrames);
  const [degrees, setDegrees] = useState(90);
  const none = useSelection((s) => s.picked.length === 0);
  return (
    <Popover.Root>
      <Hint text="About what it turns; turns by an angle, keyed">
        <Popover.Trigger asChild>
          <Button
            look="pill"
            aria-label={aboutWords[about]}
            className="flex h-6! shrink-0 items-center gap-1 px-2! text-sm"
          >
            {ABOUT_SHORT[about]} <ChevronDown size={12} aria-hidden />
          </Button>
        </Popover.Trigger>
      </Hint>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Turning together"
          // The desk goes on being worked with beside it.
          data-beside
          data-takes="Escape"
          className="z-30 w-64 rounded-xl border border-rule bg-card p-2.5 text-sm shadow-lg"
        >
          <fieldset aria-label="What turning goes about">
            {(Object.keys(aboutWords) as (typeof about)[]).map((name) => (
              <label key={name} className="flex h-6 items-center gap-2">
                <input
                  type="radio"
                  name="about"
                  checked={about === name}
                  onChange={() => useTool.setState({ about: name })}
                  className="accent-blue"
                />
                {aboutWords[name]}
              </label>
            ))}
          </fieldset>
          <div className="mt-1.5 flex items-center gap-1 border-t border-rule pt-2">
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
                keys={shortcutOf(`turn.${axis}`)}
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
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
