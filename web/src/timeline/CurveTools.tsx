import {
  countKeys,
  type Extension,
  extensions,
  FRAMES,
  handleSlope,
  joinHandles,
  type Key,
  keyIndexAt,
  moveKeys,
  planRetiming,
  setExtension,
  setHandleKind,
  setKeyValue,
  type Tuning,
  tuneKeys,
  tuningOf,
} from '@varrup/core';
import { Eye, EyeOff, Focus, Pin } from 'lucide-react';
import { type ComponentType, useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { hide, isolate, pin } from '../commands/shaping.ts';
import type { Preview } from '../shot/previews.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useCurveView } from '../view/curve-view.ts';
import { pickKeys, useSelection } from '../view/selection.ts';
import { useTiming } from '../view/timing.ts';
import { meantKeys } from './meant-keys.ts';
import type { ShownCurve } from './shown-curves.ts';

type Side = 'in' | 'both' | 'out';

/** Beside the curves: which they are, the picked key in numbers, its shape, and what happens beyond the keys. */
export function CurveTools({ listed }: { listed: readonly ShownCurve[] }) {
  const keys = useSelection((s) => s.keys);
  const hidden = useCurveView((s) => s.hidden);
  const curves = listed.filter((c) => !hidden.includes(c.path));
  const [side, setSide] = useState<Side>('both');
  const meant = meantKeys(curves, keys);
  const picked = countKeys(keys);
  const shown = listed.find((c) => (keys[c.path]?.length ?? 0) > 0);
  const at = shown ? keyIndexAt(shown.curve.keys, keys[shown.path][0]) : -1;
  const key = shown && at >= 0 ? shown.curve.keys[at] : undefined;
  return (
    <div className="flex min-h-0 grow flex-col gap-1.5 overflow-y-auto p-2">
      <CurveList listed={listed} />
      {key && shown ? <Numbers shown={shown} key_={key} /> : null}
      <p className="text-xs text-graphite" role="status">
        {picked > 0
          ? `for ${picked === 1 ? 'the picked key' : `${picked} picked keys`}`
          : curves.length > 0
            ? `for all ${countKeys(meant)} keys of ${curves.length === 1 ? 'this curve' : `these ${curves.length} curves`}`
            : 'Key something to have a curve to shape.'}
      </p>
      <Shape side={side} setSide={setSide} meant={meant} single={key} />
      <Tuned meant={meant} shown={shown} index={at} />
      <Beyond curves={curves} />
    </div>
  );
}

/** With more curves than this, the list scrolls. */
const MOST_LISTED = 200;

function CurveList({ listed }: { listed: readonly ShownCurve[] }) {
  const pinned = useCurveView((s) => s.pinned);
  const hidden = useCurveView((s) => s.hidden);
  const isolated = useCurveView((s) => s.isolated);
  return (
    <ul className="max-h-24 min-h-6 shrink-0 overflow-y-auto in-data-large:max-h-[40vh]" aria-label="Curves shown">
      {listed.slice(0, MOST_LISTED).map((c) => {
        const isHidden = hidden.includes(c.path);
        return (
          <li key={c.path} className="group flex h-6 items-center gap-1.5 text-sm">
            <span className="h-0.5 w-3 shrink-0 rounded" style={{ background: `var(--${c.colour})` }} aria-hidden />
            <span className={`min-w-0 grow truncate ${isHidden ? 'text-graphite line-through' : ''}`} title={c.label}>
              {c.label}
            </span>
            <See
              on={isolated.length > 0}
              label={isolated.length > 0 ? 'See all curves again' : `See only ${c.label}`}
              icon={Focus}
              press={() => isolate([c.path])}
            />
            <See
              on={pinned.includes(c.path)}
              label={
                pinned.includes(c.path)
                  ? `Let ${c.label} go with what is picked`
                  : `Keep ${c.label} in view whatever is picked`
              }
              icon={Pin}
              press={() => pin([c.path])}
            />
            <See
              on={isHidden}
              label={isHidden ? `Show ${c.label}` : `Hide ${c.label}`}
              icon={isHidden ? EyeOff : Eye}
              press={() => hide([c.path])}
            />
          </li>
        );
      })}
      {listed.length > MOST_LISTED ? (
        <li className="text-sm text-graphite">and {listed.length - MOST_LISTED} more</li>
      ) : null}
    </ul>
  );
}

function See(props: { on: boolean; label: string; icon: ComponentType<{ size?: number }>; press: () => void }) {
  const Icon = props.icon;
  return (
    <Hint text={props.label} side="right">
      <button
        type="button"
        aria-label={props.label}
        aria-pressed={props.on}
        onClick={props.press}
        className={`grid size-5 shrink-0 place-items-center rounded hover:text-ink ${props.on ? 'text-blue' : 'text-graphite/70'}`}
      >
        <Icon size={12} />
      </button>
    </Hint>
  );
}

/** The picked key in exact numbers. */
function Numbers({ shown, key_: key }: { shown: ShownCurve; key_: Key }) {
  const keys = useSelection((s) => s.keys);
  const run = useShot((s) => s.run);
  return (
    <div className="grid grid-cols-[auto_3.4rem_auto_1fr] items-center gap-x-1.5 text-sm text-graphite">
      frame
      <NumberField
        label="Frame of the picked key"
        value={key.frame}
        step={1}
        digits={Number.isInteger(key.frame) ? 0 : 2}
        min={FRAMES.first}
        max={FRAMES.last}
        onChange={(frame) => {
          const { collision } = useTiming.getState();
          const by = frame - key.frame;
          const plan = planRetiming(useShot.getState().committed!, keys, { kind: 'move', by }, collision);
          run(moveKeys, { keys, by, collision });
          pickKeys(plan.keys);
        }}
      />
      value
      <NumberField
        label="Value of the picked key"
        value={key.value * shown.unitScale}
        unit={shown.unit}
        step={shown.unit === '°' ? 1 : 0.01}
        digits={3}
        min={shown.range.min * shown.unitScale}
        max={shown.range.max * shown.unitScale}
        onChange={(value) => run(setKeyValue, { keys, value: value / shown.unitScale })}
      />
    </div>
  );
}

interface ForKeys {
  readonly meant: Readonly<Record<string, readonly number[]>>;
}

function Shape({ side, setSide, meant, single }: ForKeys & { side: Side; setSide: (s: Side) => void; single?: Key }) {
  const run = useShot((s) => s.run);
  const holdLength = useCurveView((s) => s.holdLength);
  const none = Object.keys(meant).length === 0;
  return (
    <>
      <div className="flex items-center justify-between">
        <fieldset className="flex items-center text-sm text-graphite" aria-label="Which handles a shape is for">
          {(['in', 'both', 'out'] as const).map((which) => (
            <Hint key={which} text={sideWords[which]} side="top">
              <Button className="h-6! px-1.5! text-sm" aria-pressed={side === which} onClick={() => setSide(which)}>
                {which}
              </Button>
            </Hint>
          ))}
        </fieldset>
        <fieldset className="flex gap-1" aria-label="The two handles of the picked keys">
          {([false, true] as const).map((joined) => (
            <Hint
              key={String(joined)}
              text={commandOf(joined ? 'shape.join' : 'shape.break').label}
              keys={shortcutOf(joined ? 'shape.join' : 'shape.break')}
              side="top"
            >
              <Button
                look="pill"
                className="h-6! px-1.5! text-sm"
                disabled={none}
                aria-pressed={single ? single.joined === joined : undefined}
                onClick={() => run(joinHandles, { keys: meant, joined })}
              >
                {joined ? 'join' : 'break'}
              </Button>
            </Hint>
          ))}
          <Hint text="Dragging a handle turns it and leaves its length" side="top">
            <Button
              look="pill"
              className="h-6! px-1.5! text-sm"
              aria-pressed={holdLength}
              onClick={() => useCurveView.setState({ holdLength: !holdLength })}
            >
              length
            </Button>
          </Hint>
        </fieldset>
      </div>
      <fieldset className="flex justify-between" aria-label="Shape of the picked keys">
        {(['smooth', 'flat', 'linear', 'free', 'stepped'] as const).map((kind) => (
          <Hint key={kind} text={commandOf(`shape.${kind}`).label} keys={shortcutOf(`shape.${kind}`)} side="top">
            <Button
              look="pill"
              className="h-6! px-1.5! text-sm"
              disabled={none || (side === 'in' && kind === 'stepped')}
              aria-pressed={single ? single[side === 'in' ? 'in' : 'out'].kind === kind : undefined}
              onClick={() => run(setHandleKind, { keys: meant, side, kind })}
            >
              {kind}
            </Button>
          </Hint>
        ))}
      </fieldset>
    </>
  );
}

const tunings = [
  ['tension', 'Tension: 1 is level, -1 twice as steep'],
  ['continuity', 'Continuity: away from 0 the key is a corner'],
  ['bias', 'Bias: 1 goes by the way before, -1 by the way after'],
] as const;

/** The shape of a key in three numbers. */
function Tuned({ meant, shown, index }: ForKeys & { shown?: ShownCurve; index: number }) {
  const key = shown && index >= 0 ? shown.curve.keys[index] : undefined;
  const said = shown && key ? tuningNow(shown, key, index) : null;
  const base: Tuning = said ?? { tension: 0, continuity: 0, bias: 0 };
  const none = Object.keys(meant).length === 0;
  const preview = usePreview('tuning');
  const exact = key?.in.kind === 'tuned' && key.out.kind === 'tuned';
  const change = (act: Preview['show'], which: keyof Tuning, v: number) => {
    // A level key is one of full tension, and under that a corner or a bias would not show.
    const level = !exact && base.tension === 1 && which !== 'tension';
    act(tuneKeys, { keys: meant, tuning: { ...base, ...(level ? { tension: 0 } : {}), [which]: v } });
  };
  return (
    <fieldset className="grid grid-cols-3 gap-1" aria-label="Tension, continuity and bias">
      {tunings.map(([which, hint]) => (
        <Hint key={which} text={hint} side="top">
          <span className={`block text-xs ${exact ? 'text-blue' : 'text-graphite'}`}>
            {which}
            {key !== undefined && said === null ? (
              <span
                className="tabular block h-6 text-right leading-6"
                title="Its handles are set by hand, or it holds: smooth, flat or linear ones can be said in these"
              >
                –
              </span>
            ) : (
              <NumberField
                label={which}
                value={base[which]}
                step={0.02}
                digits={2}
                min={-5}
                max={5}
                disabled={none}
                onPreview={(v) => change(preview.show, which, v)}
                onChange={(v) => change(preview.make, which, v)}
                onCancel={preview.drop}
              />
            )}
          </span>
        </Hint>
      ))}
    </fieldset>
  );
}

/** What a key's shape is in three numbers; null where it cannot be said so. */
function tuningNow(shown: ShownCurve, key: Key, index: number): Tuning | null {
  if (key.out.kind === 'tuned') {
    const { tension, continuity, bias } = key.out;
    return { tension, continuity, bias };
  }
  // What was set by hand has lengths of its own: three numbers do not say it.
  if (['stepped', 'free'].includes(key.out.kind) || key.in.kind === 'free') return null;
  const last = shown.curve.keys.length - 1;
  const slope = (side: 'in' | 'out') => handleSlope(shown.curve, index, side);
  // At an end there is one handle; the other is taken to go on as it does.
  const [arrive, leave] = [index > 0 ? slope('in') : slope('out'), index < last ? slope('out') : slope('in')];
  return tuningOf(shown.curve, index, arrive, leave);
}

function Beyond({ curves }: { curves: readonly ShownCurve[] }) {
  const run = useShot((s) => s.run);
  return (
    <div className="grid grid-cols-2 gap-1">
      {(['before', 'after'] as const).map((end) => (
        <label key={end} className="text-xs text-graphite">
          {end === 'before' ? 'before the keys' : 'after the keys'}
          <select
            className="mt-0.5 h-6 w-full rounded-md border border-rule bg-paper text-sm text-ink"
            disabled={curves.length === 0}
            value={shared(curves, end)}
            onChange={(event) =>
              run(setExtension, {
                paths: curves.map((c) => c.path),
                side: end,
                extension: event.target.value as Extension,
              })
            }
          >
            <option value="" disabled>
              mixed
            </option>
            {extensions.map((e) => (
              <option key={e} value={e}>
                {e === 'travel' ? 'cycle, travel' : e}
              </option>
            ))}
          </select>
        </label>
      ))}
    </div>
  );
}

const sideWords = {
  in: 'A shape is for the way into the key',
  both: 'A shape is for both sides of the key',
  out: 'A shape is for the way out of the key',
};

const shared = (curves: readonly ShownCurve[], side: 'before' | 'after'): string => {
  const kinds = new Set(curves.map((c) => c.curve[side]));
  return kinds.size === 1 ? [...kinds][0] : '';
};
