import {
  type Channel,
  type ChannelState,
  type ChannelValue,
  changeChannels,
  channelPath,
  channelState,
  isLocked,
  type Member,
  rangeOf,
  removeCustomChannel,
  removeKeys,
  type Shot,
  setKeys,
  shownChannels,
} from '@varrup/core';
import { Trash2 } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { shortcutOf, stateWord } from '../commands/list.ts';
import { channelHere } from '../menus/here.ts';
import type { Preview } from '../shot/previews.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { unitScale } from '../timeline/shown-curves.ts';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { written } from '../ui/number-range.ts';
import { useAutoKey } from '../view/auto-key.ts';
import { useFormulaOf } from '../view/formula-of.ts';
import { live } from '../view/live.ts';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { pickChannels, useSelection } from '../view/selection.ts';
import { Glyph } from './Glyph.tsx';

/**
 * Changes a channel of everybody picked who has it, as a hand does.
 * @param of whose channel it is: where that one is not picked it is changed alone
 */
export function changeAll(of: string, channelId: string, value: ChannelValue, act: Preview['show']): void {
  const { committed } = useShot.getState();
  const { picked: selection } = useSelection.getState();
  const { mode: autoKey } = useAutoKey.getState();
  if (!committed) return;
  const who = (selection.includes(of) ? selection : [of]).filter(
    (id) =>
      !isLocked(committed, id) &&
      shownChannels(committed.members.at(id), committed.rigs).some((c) => c.id === channelId),
  );
  const values = Object.fromEntries(who.map((id) => [channelPath(id, channelId), value]));
  act(changeChannels, { frame: usePlayhead.getState().frame, values, autoKey });
}

export interface RowProps {
  shot: Shot;
  member: Member;
  disabled: boolean;
}

const steps: Record<string, number> = { move: 0.01, turn: 1, size: 0.01, pivot: 0.01 };

export function ChannelRow({
  shot,
  member,
  channel,
  first,
  disabled,
}: RowProps & { channel: Channel; first: boolean }) {
  const preview = usePreview('channel');
  const path = channelPath(member.id, channel.id);
  const frame = usePlayhead((p) => p.settled);
  const state = channelState(shot, path, frame);
  const scale = unitScale(channel.unit);
  const digits = channel.unit === '°' ? 1 : 3;
  const field = useRef<HTMLInputElement>(null);
  // While playing the number is written straight to the page.
  useEffect(
    () =>
      live.listen((now) => {
        if (!usePlayhead.getState().playing || !field.current || field.current === document.activeElement) return;
        field.current.value = written((now.value(member.id, channel.id) ?? 0) * scale, digits);
      }),
    [member.id, channel.id, scale, digits],
  );
  const value = live.now?.value(member.id, channel.id) ?? 0;
  const range = rangeOf(channel);
  const hasLimits = channel.min !== undefined && channel.max !== undefined;
  const custom = channel.id.startsWith('custom.');
  const isDial =
    channel.id.startsWith('surface.') ||
    member.kind === 'sky' ||
    (member.kind === 'control' && !['move', 'turn', 'size'].includes(channel.group));
  const computed = shot.formulas.has(path) ? shot.formulas.at(path).mode : null;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the menu is of the whole row; Shift+F10 opens it from what has the focus in it
    <div
      data-here
      onContextMenu={(event) => {
        event.preventDefault();
        channelHere(path, event);
      }}
      className={`grid grid-cols-[4.2rem_1.6rem_1fr_1.5rem] items-center gap-x-1 ${first && channel.id !== 'move.x' ? 'mt-1.5' : 'mt-0.5'}`}
    >
      <span className="flex min-w-0 items-center text-graphite">
        <span className="truncate" title={channel.group}>
          {first ? channel.group : ''}
        </span>
        {custom ? (
          <Hint text={`Take the channel ${channel.group} away`}>
            <button
              type="button"
              aria-label={`Take the channel ${channel.group} away`}
              className="ml-1 text-graphite hover:text-vermilion-ink"
              onClick={() =>
                useShot
                  .getState()
                  .run(removeCustomChannel, { id: member.id, channel: channel.id.slice('custom.'.length) })
              }
            >
              <Trash2 size={12} />
            </button>
          </Hint>
        ) : null}
      </span>
      <PickChannel
        path={path}
        word={channel.label || '·'}
        name={`${channel.group} ${channel.label}`.trim()}
        axis={channel.label}
      />
      <NumberField
        label={`${channel.group} ${channel.label}`.trim()}
        value={value * scale}
        unit={channel.unit}
        step={steps[channel.group] ?? (channel.unit === '°' ? 1 : 0.05)}
        digits={digits}
        min={range.min * scale}
        max={range.max * scale}
        disabled={disabled || computed === 'instead'}
        tone={state === 'loose' ? 'loose' : 'plain'}
        inputRef={field}
        onChange={(v) => changeAll(member.id, channel.id, v / scale, preview.make)}
        onPreview={(v) => changeAll(member.id, channel.id, v / scale, preview.show)}
        onCancel={preview.drop}
      />
      {isDial && hasLimits ? (
        <Dial
          of={member.id}
          name={channel.group}
          value={value}
          channel={channel}
          disabled={disabled || computed === 'instead'}
        />
      ) : null}
      {computed === 'instead' ? (
        <ShowFormula path={path} name={`${channel.group} ${channel.label}`.trim()} />
      ) : (
        <KeyGlyph paths={[path]} state={state} name={`${channel.group} ${channel.label}`.trim()} disabled={disabled} />
      )}
    </div>
  );
}

/** A dial of a control as a slider from one end of its range to the other, under its number. */
function Dial({
  of,
  name,
  value,
  channel,
  disabled,
}: {
  of: string;
  name: string;
  value: number;
  channel: Channel;
  disabled: boolean;
}) {
  const { min = 0, max = 1 } = channel;
  const preview = usePreview('dial');
  return (
    <input
      type="range"
      aria-label={`Slide ${name}`}
      min={min}
      max={max}
      step={(max - min) / 200}
      value={Math.min(max, Math.max(min, value))}
      disabled={disabled}
      onChange={(event) => changeAll(of, channel.id, Number(event.target.value), preview.show)}
      onPointerUp={preview.keep}
      onKeyUp={preview.keep}
      onBlur={preview.keep}
      className="col-start-3 row-start-2 h-2.5 w-full accent-blue"
    />
  );
}

/** Stands where a computed channel's key would be. */
function ShowFormula({ path, name }: { path: string; name: string }) {
  return (
    <Hint text="Computed: show its formula" keys={shortcutOf('view.formula')} side="left">
      <button
        type="button"
        aria-label={`${name} is computed; show its formula`}
        onClick={() => {
          usePlaces.setState({ tab: 'formula' });
          useFormulaOf.setState({ path });
          pickChannels([]);
        }}
        className="tabular grid size-6 place-items-center rounded-md font-semibold text-blue hover:bg-well"
      >
        =
      </button>
    </Hint>
  );
}

/** The colours its curve has. */
const TINTS: Readonly<Record<string, string>> = { x: 'text-axis-x', y: 'text-axis-y', z: 'text-axis-z' };
const TURN_TINTS: Readonly<Record<string, string>> = { x: 'text-turn-x', y: 'text-turn-y', z: 'text-turn-z' };

/** The name of a channel; pressing it picks the channel, for keying it alone and for seeing its curve alone. */
function PickChannel({ path, word, name, axis }: { path: string; word: string; name: string; axis: string }) {
  const picked = useSelection((s) => s.channels.includes(path));
  const tint = (path.includes('.turn.') ? TURN_TINTS : TINTS)[axis] ?? 'text-graphite';
  return (
    <Hint text={`Pick ${name}: key it alone, see its curve alone`} side="left">
      <button
        type="button"
        aria-pressed={picked}
        aria-label={`Pick ${name}`}
        onClick={(event) => {
          const { channels } = useSelection.getState();
          const others = channels.filter((p) => p !== path);
          pickChannels(picked ? others : event.shiftKey || event.ctrlKey ? [...others, path] : [path]);
        }}
        className={`h-6 rounded-md text-center font-medium hover:bg-well aria-pressed:bg-blue-wash aria-pressed:text-blue ${tint}`}
      >
        {word}
      </button>
    </Hint>
  );
}

/** How channels stand on this frame; pressing keys them, or takes the key that is here away. */
export function KeyGlyph({
  paths,
  state,
  name,
  disabled,
}: {
  paths: readonly string[];
  state: ChannelState;
  name: string;
  disabled: boolean;
}) {
  const press = () => {
    const frame = usePlayhead.getState().frame;
    const { run } = useShot.getState();
    if (state === 'keyed') run(removeKeys, { keys: Object.fromEntries(paths.map((p) => [p, [frame]])) });
    else run(setKeys, { frame, paths });
  };
  const does = state === 'keyed' ? `take the key of ${name} away` : `key ${name} here`;
  return (
    <Hint text={`${stateWord[state]}: ${does}`} side="left">
      <button
        type="button"
        aria-label={`${name} is ${stateWord[state]}; ${does}`}
        data-state={state}
        disabled={disabled}
        onClick={press}
        className="grid size-6 place-items-center rounded-md hover:bg-well disabled:opacity-40"
      >
        <Glyph state={state} />
      </button>
    </Hint>
  );
}

/** Several channels as one: what needs to be seen first wins. */
export function together(shot: Shot, paths: readonly string[], frame: number): ChannelState {
  const states = paths.map((p) => channelState(shot, p, frame));
  return (['loose', 'keyed', 'animated'] as const).find((s) => states.includes(s)) ?? 'constant';
}
