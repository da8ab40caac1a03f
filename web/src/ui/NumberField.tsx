import { type KeyboardEvent, type PointerEvent, type Ref, useRef, useState } from 'react';

/** A number to type, to drag sideways, or to step with the arrow keys. What cannot be read is put back as it was. */
export interface NumberFieldProps {
  /** What it is, for those who cannot see where it stands. */
  readonly label: string;
  readonly value: number;
  readonly unit?: string;
  /** How far one step, or one pixel of a drag, goes. */
  readonly step: number;
  readonly digits: number;
  readonly min?: number;
  readonly max?: number;
  readonly disabled?: boolean;
  readonly tone?: 'plain' | 'loose';
  readonly onChange: (value: number) => void;
  /** While dragging; the drag ends with `onChange`. */
  readonly onPreview?: (value: number) => void;
  readonly onCancel?: () => void;
  readonly inputRef?: Ref<HTMLInputElement>;
}

export const written = (value: number, digits: number): string => {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? (0).toFixed(digits) : text.replace('-', '−');
};

/** Undo and redo, where a field that holds no text of its own leaves them to the shot. */
export const isUndoKey = ({ key, ctrlKey, metaKey }: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey'>): boolean =>
  (ctrlKey || metaKey) && ['z', 'y'].includes(key.toLowerCase());

const read = (text: string): number => Number(text.replace('−', '-').replace(',', '.').trim() || 'x');

export function NumberField(props: NumberFieldProps) {
  const {
    label,
    value,
    unit = '',
    step,
    digits,
    min = Number.NEGATIVE_INFINITY,
    max = Number.POSITIVE_INFINITY,
  } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const drag = useRef<{ x: number; value: number; moved: boolean } | null>(null);
  const within = (v: number) => Math.min(max, Math.max(min, v));

  const take = (text: string) => {
    const next = read(text);
    setTyped(null);
    if (Number.isFinite(next) && text !== written(value, digits)) props.onChange(within(next));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    // With nothing typed there is nothing of the field's own to take back: undo is the shot's.
    if (typed === null && isUndoKey(event)) return;
    if (event.key === 'Enter') {
      take(event.currentTarget.value);
      event.currentTarget.select();
    } else if (event.key === 'Escape') {
      setTyped(null);
      event.currentTarget.blur();
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const by = (event.key === 'ArrowUp' ? 1 : -1) * step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
      setTyped(null);
      props.onChange(within(value + by));
    }
    event.stopPropagation();
  };

  const onPointerDown = (event: PointerEvent<HTMLInputElement>) => {
    if (props.disabled || event.button !== 0 || document.activeElement === event.currentTarget) return;
    drag.current = { x: event.clientX, value, moved: false };
    event.currentTarget.setPointerCapture(event.pointerId);
    event.preventDefault();
  };
  const dragged = (event: PointerEvent<HTMLInputElement>) => {
    const by = (event.clientX - drag.current!.x) * step * (event.shiftKey ? 0.1 : 1);
    return within(drag.current!.value + by);
  };
  const onPointerMove = (event: PointerEvent<HTMLInputElement>) => {
    if (!drag.current) return;
    drag.current.moved ||= Math.abs(event.clientX - drag.current.x) > 3;
    if (drag.current.moved) props.onPreview?.(dragged(event));
  };
  const onPointerUp = (event: PointerEvent<HTMLInputElement>) => {
    if (!drag.current) return;
    const { moved } = drag.current;
    if (moved) props.onChange(dragged(event));
    else {
      event.currentTarget.focus();
      event.currentTarget.select();
    }
    drag.current = null;
  };

  return (
    <span
      className={`relative inline-flex h-6 w-full items-center rounded-md border ${
        props.tone === 'loose' ? 'border-ochre bg-ochre-wash' : 'border-rule bg-paper'
      }`}
    >
      <input
        ref={props.inputRef}
        aria-label={unit ? `${label}, ${unit === '°' ? 'degrees' : 'metres'}` : label}
        inputMode="decimal"
        disabled={props.disabled}
        data-settled={typed === null ? '' : undefined}
        value={typed ?? written(value, digits)}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={(event) => typed !== null && take(event.target.value)}
        onKeyDown={onKeyDown}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerCancel={() => {
          drag.current = null;
          props.onCancel?.();
        }}
        className={`tabular h-full w-full min-w-0 cursor-ew-resize rounded-md bg-transparent pl-1 text-right text-sm focus:cursor-text ${unit ? 'pr-4' : 'pr-1.5'}`}
      />
      {unit ? <span className="pointer-events-none absolute right-1 text-xs text-graphite">{unit}</span> : null}
    </span>
  );
}
