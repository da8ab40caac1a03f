import { limits, type Span, secondsAt, setPlayRange, setRange, soundNames } from '@varrup/core';
import { ChevronFirst, ChevronLast, Pause, Play, StepBack, StepForward, Volume2, VolumeX } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine, MenuWord } from '../ui/Menu.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useAutoKey } from '../view/auto-key.ts';
import { useHabits } from '../view/habits.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { RetimeCard } from './RetimeCard.tsx';

/** Where in time the desk is, and how it plays. @param children what is chosen at its end */
export function Transport({ children }: { children: ReactNode }) {
  const shot = useShot((s) => s.shot);
  const run = useShot((s) => s.run);
  const playing = usePlayhead((p) => p.playing);
  if (!shot) return null;
  return (
    <div className="flex min-h-10 shrink-0 items-center max-xl:flex-wrap gap-1 border-b border-rule bg-card px-2">
      <Press id="time.first" icon={<ChevronFirst size={17} />} />
      <Press id="time.back" icon={<StepBack size={15} />} />
      <Press
        id="time.play"
        icon={playing ? <Pause size={17} /> : <Play size={17} />}
        label={playing ? 'Stop' : 'Play'}
      />
      <Press id="time.on" icon={<StepForward size={15} />} />
      <Press id="time.last" icon={<ChevronLast size={17} />} />
      <Now rate={shot.rate} />
      <Hint text="Change the frame rate">
        <Button className="tabular text-sm" onClick={() => useQuestion.getState().ask('rate')}>
          {Number(shot.rate.toFixed(3))} fps
        </Button>
      </Hint>
      <Ends word="play" span={shot.play} within={shot.range} onChange={(play) => run(setPlayRange, { play })} />
      <Ends word="of" span={shot.range} within={FRAMES} onChange={(range) => run(setRange, { range })} />
      <HowItPlays />
      <AutoKey />
      <RetimeCard />
      <Sounds />
      <span className="grow" />
      {children}
    </div>
  );
}

function Press({ id, icon, label }: { id: string; icon: ReactNode; label?: string }) {
  const command = commandOf(id);
  return (
    <Hint text={label ?? command.label} keys={shortcutOf(id)}>
      <Button look="icon" aria-label={label ?? command.label} onClick={command.run}>
        {icon}
      </Button>
    </Hint>
  );
}

/** Frame and seconds, written straight to the page while playing. */
function Now({ rate }: { rate: number }) {
  const frameRef = useRef<HTMLOutputElement>(null);
  const secondsRef = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const show = ({ frame }: { frame: number }) => {
      if (frameRef.current) frameRef.current.textContent = String(Math.round(frame * 100) / 100);
      if (secondsRef.current) secondsRef.current.textContent = `${secondsAt(frame, rate).toFixed(2)} s`;
    };
    show(usePlayhead.getState());
    return usePlayhead.subscribe(show);
  }, [rate]);
  return (
    <span className="tabular mx-2 flex items-baseline gap-1.5">
      <output
        ref={frameRef}
        className="inline-block min-w-9 text-right text-[17px] font-medium"
        aria-label="Frame"
        data-testid="frame"
      />
      <span ref={secondsRef} className="inline-block min-w-13 text-sm text-graphite" />
    </span>
  );
}

/** The frames that a shot can have. */
const FRAMES: Span = { first: -limits.frames, last: limits.frames };

function Ends({
  word,
  span,
  within,
  onChange,
}: {
  word: string;
  span: Span;
  within: Span;
  onChange: (span: Span) => void;
}) {
  const what = word === 'play' ? 'that plays' : 'of the shot';
  return (
    <span className="flex items-center gap-1 text-sm text-graphite">
      {word}
      <span className="w-11">
        <NumberField
          label={`First frame ${what}`}
          value={span.first}
          step={1}
          digits={0}
          whole
          min={within.first}
          max={span.last}
          onChange={(first) => onChange({ first, last: span.last })}
        />
      </span>
      –
      <span className="w-11">
        <NumberField
          label={`Last frame ${what}`}
          value={span.last}
          step={1}
          digits={0}
          whole
          min={span.first}
          max={within.last}
          onChange={(last) => onChange({ first: span.first, last })}
        />
      </span>
    </span>
  );
}

const speeds = [
  [0.25, '¼×'],
  [0.5, '½×'],
  [1, '1×'],
  [2, '2×'],
] as const;

function HowItPlays() {
  const { speed, ending, pace, set } = usePlayhead();
  const speedWord = speeds.find(([s]) => s === speed)?.[1] ?? `${speed}×`;
  return (
    <Menu
      trigger={
        <Button
          className="text-sm"
          aria-label={`How it plays: ${ending}, ${speedWord}`}
          title="How it plays: loop, speed, pace"
        >
          {ending} {speedWord}
          {pace === 'every' ? ' every' : ''}
        </Button>
      }
    >
      <MenuWord>at the end</MenuWord>
      {(['loop', 'once', 'swing'] as const).map((e) => (
        <MenuItem key={e} checked={ending === e} onPick={() => set({ ending: e })}>
          {e}
        </MenuItem>
      ))}
      <MenuLine />
      <MenuWord>speed</MenuWord>
      {speeds.map(([s, word]) => (
        <MenuItem key={s} checked={speed === s} onPick={() => set({ speed: s })}>
          {word}
        </MenuItem>
      ))}
      <MenuLine />
      <MenuWord>pace</MenuWord>
      <MenuItem checked={pace === 'real'} onPick={() => set({ pace: 'real' })}>
        real time, dropping frames where it must
      </MenuItem>
      <MenuItem checked={pace === 'every'} onPick={() => set({ pace: 'every' })}>
        every frame, however long it takes
      </MenuItem>
    </Menu>
  );
}

/** Armed it is a filled vermilion pill, and the stage has a vermilion edge. */
function AutoKey() {
  const autoKey = useAutoKey((s) => s.mode);
  const armed = autoKey !== 'off';
  const word = { off: 'auto key off', every: 'auto key: every change', animated: 'auto key: where keyed' }[autoKey];
  return (
    <Menu
      trigger={
        <Button
          look="pill"
          aria-label={word}
          title={`Auto key: keys what a hand changes (${shortcutOf('autokey.toggle')})`}
          className={`ml-1 flex items-center gap-1.5 text-sm ${armed ? 'border-vermilion-ink! bg-vermilion-ink! font-semibold text-on-solid' : ''}`}
        >
          <span
            className={`size-2.5 rounded-full border-2 ${armed ? 'border-on-solid bg-on-solid' : 'border-vermilion'}`}
            aria-hidden
          />
          {word}
        </Button>
      }
    >
      <MenuItem checked={autoKey === 'off'} onPick={() => useAutoKey.setState({ mode: 'off' })}>
        off: changes stay loose until they are keyed
      </MenuItem>
      <MenuItem
        checked={autoKey === 'every'}
        keys={shortcutOf('autokey.toggle')}
        onPick={() => useAutoKey.setState({ mode: 'every' })}
      >
        every change is keyed
      </MenuItem>
      <MenuItem
        checked={autoKey === 'animated'}
        keys={shortcutOf('autokey.animated')}
        onPick={() => useAutoKey.setState({ mode: 'animated' })}
      >
        only channels that have keys already
      </MenuItem>
    </Menu>
  );
}

/** Places sounds on this frame, and lets them be heard or not. */
function Sounds() {
  const muted = useHabits((h) => h.muted);
  const ontoBeats = useHabits((h) => h.ontoBeats);
  return (
    <Menu
      trigger={
        <Button look="icon" aria-label={muted ? 'Sounds, not heard' : 'Sounds'} title="Sounds: place them, hear them">
          {muted ? <VolumeX size={15} /> : <Volume2 size={15} />}
        </Button>
      }
    >
      {soundNames.map((name) => (
        <CommandItem key={name} id={`sound.${name}`} />
      ))}
      <MenuLine />
      <CommandItem id="sound.landings" />
      <CommandItem id="sound.clear" />
      <MenuLine />
      <CommandItem id="sound.toBeats" />
      <CommandItem id="sound.ontoBeats" checked={ontoBeats} word="dragged keys go onto beats" />
      <MenuLine />
      <MenuItem checked={!muted} keys={shortcutOf('sound.mute')} onPick={() => commandOf('sound.mute').run()}>
        hear them
      </MenuItem>
    </Menu>
  );
}

/** A command in a menu. Only when the menu is open is it asked whether it can be given. */
function CommandItem({ id, checked, word }: { id: string; checked?: boolean; word?: string }) {
  const command = commandOf(id);
  return (
    <MenuItem
      checked={checked}
      keys={shortcutOf(id)}
      disabled={command.enabled?.() === false}
      onPick={() => command.run()}
    >
      {word ?? command.label}
    </MenuItem>
  );
}
