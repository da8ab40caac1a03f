import {
  countKeys,
  type Extension,
  extensions,
  joinHandles,
  movedSelection,
  moveKeys,
  setExtension,
  setHandleKind,
  setKeyValue,
} from '@varrup/core';
import { useState } from 'react';
import { commandOf, keysOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useView } from '../view/view-store.ts';
import type { ShownCurve } from './shown-curves.ts';

/** Beside the curves: which they are, the picked key in numbers, its shape, and what happens beyond the keys. */
export function CurveTools({ curves }: { curves: readonly ShownCurve[] }) {
  const keys = useView((v) => v.keys);
  const run = useShot((s) => s.run);
  const set = useView((v) => v.set);
  const count = countKeys(keys);
  const [side, setSide] = useState<'in' | 'both' | 'out'>('both');
  const shown = curves.find((c) => (keys[c.path]?.length ?? 0) > 0);
  const key = shown?.curve.keys.find((k) => k.frame === keys[shown.path][0]);

  return (
    <div className="flex min-h-0 grow flex-col gap-1.5 overflow-y-auto p-2">
      <div className="flex items-start justify-between gap-2">
        <ul className="flex min-h-6 flex-wrap items-center gap-x-3" aria-label="Curves shown">
          {curves.slice(0, MOST_NAMED).map((c) => (
            <li key={c.path} className="flex items-center gap-1.5 text-sm">
              <span className="h-0.5 w-3 rounded" style={{ background: `var(--${c.colour})` }} aria-hidden />
              {c.label}
            </li>
          ))}
          {curves.length > MOST_NAMED ? (
            <li className="text-sm text-graphite">and {curves.length - MOST_NAMED} more</li>
          ) : null}
        </ul>
        <Hint text={commandOf('curves.frame').label} keys={keysOf('curves.frame')} side="top">
          <Button look="pill" className="h-6! px-2! text-sm" onClick={() => commandOf('curves.frame').run()}>
            frame all
          </Button>
        </Hint>
      </div>
      {key && shown ? (
        <div className="grid grid-cols-[auto_3.4rem_auto_1fr] items-center gap-x-1.5 text-sm text-graphite">
          frame
          <NumberField
            label="Frame of the picked key"
            value={key.frame}
            step={1}
            digits={Number.isInteger(key.frame) ? 0 : 2}
            onChange={(frame) => {
              const by = frame - key.frame;
              run(moveKeys, { keys, by });
              set({ keys: movedSelection(keys, by) });
            }}
          />
          value
          <NumberField
            label="Value of the picked key"
            value={key.value * shown.scale}
            unit={shown.unit}
            step={shown.unit === '°' ? 1 : 0.01}
            digits={3}
            onChange={(value) => run(setKeyValue, { keys, value: value / shown.scale })}
          />
        </div>
      ) : (
        <p className="h-6 text-sm text-graphite">{count === 0 ? 'Pick a key to shape it.' : `${count} keys picked`}</p>
      )}
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
              keys={keysOf(joined ? 'shape.join' : 'shape.break')}
              side="top"
            >
              <Button
                look="pill"
                className="h-6! px-2! text-sm"
                disabled={count === 0}
                aria-pressed={key ? key.joined === joined : undefined}
                onClick={() => run(joinHandles, { keys, joined })}
              >
                {joined ? 'join' : 'break'}
              </Button>
            </Hint>
          ))}
        </fieldset>
      </div>
      <fieldset className="flex justify-between" aria-label="Shape of the picked keys">
        {(['smooth', 'flat', 'linear', 'free', 'stepped'] as const).map((kind) => (
          <Hint key={kind} text={commandOf(`shape.${kind}`).label} keys={keysOf(`shape.${kind}`)} side="top">
            <Button
              look="pill"
              className="h-6! px-1.5! text-sm"
              disabled={count === 0 || (side === 'in' && kind === 'stepped')}
              aria-pressed={key ? key[side === 'in' ? 'in' : 'out'].kind === kind : undefined}
              onClick={() => run(setHandleKind, { keys, side, kind })}
            >
              {kind}
            </Button>
          </Hint>
        ))}
      </fieldset>
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
    </div>
  );
}

/** More names than this would push the tools out of sight. */
const MOST_NAMED = 6;

const sideWords = {
  in: 'A shape is for the way into the key',
  both: 'A shape is for both sides of the key',
  out: 'A shape is for the way out of the key',
};

const shared = (curves: readonly ShownCurve[], side: 'before' | 'after'): string => {
  const kinds = new Set(curves.map((c) => c.curve[side]));
  return kinds.size === 1 ? [...kinds][0] : '';
};
