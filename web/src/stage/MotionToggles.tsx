import { ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine, MenuWord } from '../ui/Menu.tsx';
import { type ArcLook, type OnionSkin, useHabits } from '../view/habits.ts';
import { useShown } from '../view/shown.ts';

/** What is drawn around the motion in the stage, and how: arcs and onion skin. */

/** A command that is on or off. */
export function Toggle({ id, on, children }: { id: string; on: boolean; children: ReactNode }) {
  return (
    <Hint text={commandOf(id).label} keys={shortcutOf(id)}>
      <Button
        look="pill"
        className="flex h-6! items-center gap-1 px-2! text-sm"
        aria-pressed={on}
        onClick={() => commandOf(id).run()}
      >
        {children}
      </Button>
    </Hint>
  );
}

const More = ({ what, children }: { what: string; children: ReactNode }) => (
  <Menu
    trigger={
      <Button
        look="icon"
        className="size-5! rounded-full! bg-card/90"
        aria-label={`How ${what} are drawn`}
        title={`How ${what} are drawn`}
      >
        <ChevronDown size={12} />
      </Button>
    }
  >
    {children}
  </Menu>
);

const around: [number, string][] = [
  [0, 'all that plays'],
  [6, '6 frames around now'],
  [12, '12 frames around now'],
  [24, '24 frames around now'],
  [48, '48 frames around now'],
];
const points: [ArcLook['point'], string][] = [
  ['origin', 'of what its move moves'],
  ['middle', 'of its middle'],
  ['top', 'of its top'],
  ['foot', 'of its foot'],
];

export function Arcs() {
  const on = useShown((s) => s.arcs);
  const arc = useHabits((h) => h.arc);
  const put = (change: Partial<ArcLook>) => useHabits.getState().set({ arc: { ...arc, ...change } });
  return (
    <span className="flex items-center">
      <Toggle id="view.arcs" on={on}>
        arcs
      </Toggle>
      <More what="arcs">
        {around.map(([frames, word]) => (
          <MenuItem key={frames} checked={arc.around === frames} onPick={() => put({ around: frames })}>
            {word}
          </MenuItem>
        ))}
        <MenuLine />
        {points.map(([point, word]) => (
          <MenuItem key={point} checked={arc.point === point} onPick={() => put({ point })}>
            {word}
          </MenuItem>
        ))}
        <MenuLine />
        <MenuItem checked={arc.space === 'world'} onPick={() => put({ space: 'world' })}>
          in the world
        </MenuItem>
        <MenuItem checked={arc.space === 'camera'} onPick={() => put({ space: 'camera' })}>
          as the shot’s camera sees them
        </MenuItem>
      </More>
    </span>
  );
}

const counts = [0, 1, 2, 4, 6, 12];

export function Onion() {
  const onion = useHabits((h) => h.onion);
  const put = (change: Partial<OnionSkin>) => useHabits.getState().set({ onion: { ...onion, ...change, on: true } });
  return (
    <span className="flex items-center">
      <Toggle id="view.onion" on={onion.on}>
        onion<span className="max-2xl:sr-only"> skin</span>
      </Toggle>
      <More what="neighbouring frames">
        {(['before', 'after'] as const).map((side) => (
          <div key={side}>
            <MenuWord>how many {side}</MenuWord>
            <div className="flex px-1">
              {counts.map((n) => (
                <Button
                  key={n}
                  className="tabular h-6! px-2!"
                  aria-pressed={onion[side] === n}
                  aria-label={`${n} frames ${side}`}
                  onClick={() => put({ [side]: n })}
                >
                  {n}
                </Button>
              ))}
            </div>
          </div>
        ))}
        <MenuLine />
        {([1, 2, 3, 4, 6] as const).map((n) => (
          <MenuItem key={n} checked={onion.every === n} onPick={() => put({ every: n })}>
            {n === 1 ? 'every frame' : `every ${n} frames`}
          </MenuItem>
        ))}
        <MenuItem checked={onion.every === 'keys'} onPick={() => put({ every: 'keys' })}>
          frames with keys only
        </MenuItem>
        <MenuLine />
        <MenuItem checked={onion.look === 'shapes'} onPick={() => put({ look: 'shapes' })}>
          as shapes
        </MenuItem>
        <MenuItem checked={onion.look === 'outlines'} onPick={() => put({ look: 'outlines' })}>
          as outlines
        </MenuItem>
        <MenuLine />
        <MenuItem checked={onion.who === 'picked'} onPick={() => put({ who: 'picked' })}>
          of what is picked
        </MenuItem>
        <MenuItem checked={onion.who === 'moving'} onPick={() => put({ who: 'moving' })}>
          of everybody who moves
        </MenuItem>
      </More>
    </span>
  );
}
