import { Popover } from 'radix-ui';
import { type KeyboardEvent, type Ref, useEffect, useId, useRef, useState } from 'react';
import { typingBegins, typingEnds } from './being-typed.ts';
import { dragging } from './number-drag.ts';
import { type NumberRange, outside, rangeWords, readNumber, written } from './number-range.ts';

/**
 * A number to type (plain, reckoned, `+=0.1`), to drag sideways, or to step with the arrow keys. What is no number or out of its range is
 * refused with a sentence, and stays there to be mended.
 */
export interface NumberFieldProps extends NumberRange {
  /** What it is, for those who cannot see where it stands. */
  readonly label: string;
  readonly value: number;
  /** How far one step, or one pixel of a drag, goes. Shift makes it ten times as far, Alt a tenth. */
  readonly step: number;
  readonly digits: number;
  readonly disabled?: boolean;
  readonly tone?: 'plain' | 'loose';
  readonly onChange: (value: number) => void;
  /** While dragging; the drag ends with `onChange`. */
  readonly onPreview?: (value: number) => void;
  readonly onCancel?: () => void;
  readonly inputRef?: Ref<HTMLInputElement>;
}

const units: Record<string, string> = { '°': 'degrees', m: 'metres' };

export function NumberField(props: NumberFieldProps) {
  const { label, value, unit = '', step, digits, min, max, whole } = props;
  const range = { min, max, unit, whole };
  const [typed, setTypedState] = useState<string | null>(null);
  /** The same at once: one key may both take it over and leave the field, and that must not take it over twice. */
  const isTyped = useRef(false);
  const setTyped = (text: string | null) => {
    isTyped.current = text !== null;
    setTypedState(text);
  };
  const [refusal, setRefusal] = useState<string | null>(null);
  const refusalId = useId();
  const input = useRef<HTMLInputElement>(null);
  const drag = useRef(dragging());

  /** Takes over what is typed, or refuses it. */
  const take = (): boolean => {
    const text = input.current?.value ?? '';
    if (!isTyped.current || text === written(value, digits)) return settle();
    const read = readNumber(text, value, range);
    if ('refused' in read) {
      setRefusal(read.refused);
      input.current?.select();
      return false;
    }
    settle();
    props.onChange(read.value);
    return true;
  };
  const settle = () => {
    setTyped(null);
    setRefusal(null);
    return true;
  };
  useEffect(() => {
    if (typed === null) return;
    typingBegins(take);
    return () => typingEnds(take);
  });

  const stepBy = (event: KeyboardEvent) => {
    const by = (event.key === 'ArrowUp' ? 1 : -1) * step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
    // Steps do not add up the dust of floating point.
    const to = value + (whole ? Math.sign(by) * Math.max(1, Math.abs(by)) : by);
    const next = whole ? Math.round(to) : Number(to.toPrecision(12));
    const refused = outside(next, range);
    setRefusal(refused);
    if (refused !== null) return;
    setTyped(null);
    props.onChange(next);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter' && take()) input.current?.blur();
    else if (event.key === 'Escape') {
      settle();
      input.current?.blur();
    } else if (event.key === 'Tab' && !event.altKey && !event.ctrlKey) {
      const next = neighbour(event.currentTarget, event.shiftKey ? -1 : 1);
      if (!take()) event.preventDefault();
      else if (next) {
        event.preventDefault();
        next.focus();
      }
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      stepBy(event);
    }
  };
  /** Somebody has gone elsewhere: what is refused then goes back, and that is said as well. */
  const leave = () => {
    if (!isTyped.current || take()) return;
    setTyped(null);
    window.setTimeout(() => setRefusal(null), REFUSAL_STAYS);
  };

  return (
    <Popover.Root open={refusal !== null}>
      <Popover.Anchor asChild>
        <span
          className={`relative inline-flex h-6 w-full items-center rounded-md border ${
            refusal !== null
              ? 'border-vermilion'
              : props.tone === 'loose'
                ? 'border-graphite hatched italic'
                : 'border-rule bg-paper'
          }`}
        >
          <input
            ref={(element) => {
              input.current = element;
              const { inputRef } = props;
              if (typeof inputRef === 'function') inputRef(element);
              else if (inputRef) inputRef.current = element;
            }}
            aria-label={units[unit] ? `${label}, ${units[unit]}` : label}
            aria-invalid={refusal !== null}
            aria-describedby={refusal === null ? undefined : refusalId}
            title={`${label}: ${rangeWords(range)}. Type it, also as 2*3 or +=0.1; drag it; ↑ and ↓ step (Shift ten times, Alt a tenth)`}
            inputMode="decimal"
            disabled={props.disabled}
            data-number={typed === null ? 'settled' : 'typed'}
            value={typed ?? written(value, digits)}
            onChange={(event) => {
              setTyped(event.target.value);
              setRefusal(null);
            }}
            onFocus={(event) => event.currentTarget.select()}
            onBlur={leave}
            onKeyDown={onKeyDown}
            onPointerDown={(event) => {
              if (!props.disabled && document.activeElement !== event.currentTarget) drag.current.begin(event, value);
            }}
            onPointerMove={(event) => {
              const next = drag.current.to(event, props);
              if (next !== null) props.onPreview?.(next);
            }}
            onPointerUp={(event) => {
              const end = drag.current.end(event, props);
              if (typeof end === 'number') props.onChange(end);
              else if (end === 'pressed') event.currentTarget.focus();
            }}
            onPointerCancel={() => {
              drag.current.drop();
              props.onCancel?.();
            }}
            className={`tabular h-full w-full min-w-0 cursor-ew-resize rounded-md bg-transparent pl-1 text-right text-sm focus:cursor-text ${unit ? 'pr-4' : 'pr-1.5'}`}
          />
          {unit ? <span className="pointer-events-none absolute right-1 text-xs text-graphite">{unit}</span> : null}
        </span>
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          id={refusalId}
          role="alert"
          side="bottom"
          sideOffset={4}
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          className="z-50 max-w-72 rounded-md border border-vermilion bg-card px-2 py-1 text-sm shadow-md"
        >
          {refusal}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A refusal that nobody can mend any more stays to be read, in milliseconds. */
const REFUSAL_STAYS = 6000;

/** The next number of the same panel or card, or the one before. */
function neighbour(field: HTMLInputElement, by: 1 | -1): HTMLInputElement | undefined {
  const around =
    field.closest('section, aside, form, table, [role=dialog], [role=region], [role=tabpanel]') ?? document;
  const fields = [...around.querySelectorAll<HTMLInputElement>('input[data-number]:not(:disabled)')];
  return fields[fields.indexOf(field) + by];
}
