import { changeValues, type KeySelection, type ValueChange } from '@varrup/core';
import { type ReactNode, useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { useCompare, withWords } from '../review/compare.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine, MenuWord } from '../ui/Menu.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useCurveView } from '../view/curve-view.ts';
import { useSelection } from '../view/selection.ts';
import { meantKeys } from './meant-keys.ts';
import type { ShownCurve } from './shown-curves.ts';

/** Above the curves: what is seen of them, and what is done with many values at once. */
export function CurveBar({ curves }: { curves: readonly ShownCurve[] }) {
  const keys = useSelection((s) => s.keys);
  const normal = useCurveView((s) => s.normal);
  const speed = useCurveView((s) => s.speed);
  const behind = useCurveView((s) => s.behind);
  const beside = useCompare((c) =>
    c.with && c.with.is !== 'shot' ? withWords(c.with, useShot.getState().shot) : null,
  );
  const meant = meantKeys(curves, keys);
  const none = Object.keys(meant).length === 0;
  return (
    <div className="flex h-8 shrink-0 items-center gap-1 overflow-x-auto overflow-y-hidden border-b border-rule bg-card px-2 text-sm">
      <Toggle id="curves.frame">frame all</Toggle>
      <Toggle id="curves.frameKeys" disabled={Object.keys(keys).length === 0}>
        picked
      </Toggle>
      <Rule />
      <Toggle id="curves.normal" on={normal}>
        one height
      </Toggle>
      <Toggle id="curves.speed" on={speed}>
        speed
      </Toggle>
      <Menu
        trigger={
          <Button
            className="h-6! px-1.5! text-sm"
            aria-pressed={behind === 'opened' || (behind === 'beside' && beside !== null)}
            title={`Draw the curves as they were behind those of now (${shortcutOf('curves.asOpened')})`}
          >
            {behind === 'opened' ? 'as opened' : behind === 'beside' && beside !== null ? `as ${beside}` : 'as it was'}
          </Button>
        }
      >
        <MenuWord>draw the curves behind</MenuWord>
        <MenuItem checked={behind === 'nothing'} onPick={() => useCurveView.setState({ behind: 'nothing' })}>
          not at all
        </MenuItem>
        <MenuItem checked={behind === 'opened'} onPick={() => useCurveView.setState({ behind: 'opened' })}>
          as they were when the shot was opened
        </MenuItem>
        <MenuItem checked={behind === 'beside'} onPick={() => useCurveView.setState({ behind: 'beside' })}>
          as in what the shot is looked at beside{beside === null ? '' : `: ${beside}`}
        </MenuItem>
        <MenuLine />
        <MenuItem
          onPick={() => {
            useCurveView.setState({ behind: 'beside' });
            commandOf('view.versions').run();
          }}
        >
          choose a version, or keep one…
        </MenuItem>
      </Menu>
      <Rule />
      <Values meant={meant} curves={curves} />
      <Rule />
      <Toggle id="shape.copy" disabled={Object.keys(keys).length === 0}>
        copy shape
      </Toggle>
      <Toggle id="shape.give" disabled={Object.keys(keys).length === 0}>
        give shape
      </Toggle>
      <Rule />
      <Toggle id="curves.thin" disabled={none}>
        thin…
      </Toggle>
      <Toggle id="curves.removeStill" disabled={none}>
        drop still ones
      </Toggle>
    </div>
  );
}

const Rule = () => <span className="mx-1 h-4 w-px shrink-0 bg-rule" aria-hidden />;

function Toggle({ id, on, disabled, children }: { id: string; on?: boolean; disabled?: boolean; children: ReactNode }) {
  const command = commandOf(id);
  return (
    <Hint text={command.label} keys={shortcutOf(id)} side="top">
      <Button
        className="h-6! shrink-0 px-1.5! text-sm"
        aria-pressed={on}
        disabled={disabled}
        onClick={() => command.run()}
      >
        {children}
      </Button>
    </Hint>
  );
}

const pivots = ['mean', 'first', 'last', 'zero'] as const;
type PivotName = (typeof pivots)[number];
const pivotWords: Record<PivotName, string> = {
  mean: 'the mean of the keys of each curve',
  first: 'the first key of each curve',
  last: 'the last key of each curve',
  zero: 'zero',
};

/** Scales, offsets, flattens and smooths the values of the keys that are meant, dragged live or typed. */
function Values({ meant, curves }: { meant: KeySelection; curves: readonly ShownCurve[] }) {
  const [pivot, setPivot] = useState<PivotName>('mean');
  const preview = usePreview('values');
  const about = pivot === 'zero' ? 0 : pivot;
  const none = Object.keys(meant).length === 0;
  const units = new Set(curves.filter((c) => meant[c.path]).map((c) => c.unit));
  const [unit] = units;
  const oneUnit = units.size === 1;
  const scale = curves.find((c) => meant[c.path])?.unitScale ?? 1;
  const field = (
    label: string,
    rest: number,
    most: number,
    digits: number,
    step: number,
    how: (v: number) => ValueChange,
    mark = '',
    fits = true,
  ) => (
    <span className="w-14 shrink-0">
      <NumberField
        label={label}
        value={rest}
        unit={mark}
        step={step}
        digits={digits}
        min={-most}
        max={most}
        disabled={none || !fits}
        onPreview={(v) => preview.show(changeValues, { keys: meant, how: how(v) })}
        onChange={(v) => preview.make(changeValues, { keys: meant, how: how(v) })}
        onCancel={preview.drop}
      />
    </span>
  );
  return (
    <>
      <span className="shrink-0 text-graphite">values ×</span>
      {field('Scale values by percent', 100, 100_000, 0, 1, (v) => ({ kind: 'scale', factor: v / 100, about }))}
      <Menu
        trigger={
          <Button className="h-6! shrink-0 px-1! text-sm" title={`Scaled and flattened about ${pivotWords[pivot]}`}>
            % of {pivot}
          </Button>
        }
      >
        {pivots.map((p) => (
          <MenuItem key={p} checked={pivot === p} onPick={() => setPivot(p)}>
            about {pivotWords[p]}
          </MenuItem>
        ))}
      </Menu>
      <span className="shrink-0 text-graphite">+</span>
      {field(
        'Offset values',
        0,
        unit === '°' ? 360_000 : 10_000,
        3,
        unit === '°' ? 1 : 0.01,
        (v) => ({ kind: 'offset', by: v / scale }),
        unit,
        oneUnit,
      )}
      {(
        [
          ['flatten', 'All to one value', { kind: 'flatten', to: about }],
          ['smooth', 'Each half way towards the straight line between its neighbours', { kind: 'smooth', share: 0.5 }],
        ] as const
      ).map(([word, hint, how]) => (
        <Hint key={word} text={hint} side="top">
          <Button
            className="h-6! shrink-0 px-1.5! text-sm"
            disabled={none}
            aria-label={`${word} the values`}
            onClick={() => useShot.getState().run(changeValues, { keys: meant, how })}
          >
            {word}
          </Button>
        </Hint>
      ))}
    </>
  );
}
