import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { typingBegins, typingEnds } from './being-typed.ts';

/** Words over one or several lines. What is typed is taken over as one change when one leaves them; Escape leaves them as they were. */
export function Words({
  label,
  value,
  most,
  lines = 1,
  placeholder,
  className = '',
  onChange,
}: {
  label: string;
  value: string;
  most: number;
  /** How many lines are seen; with one, Enter takes over. */
  lines?: number;
  placeholder?: string;
  className?: string;
  onChange: (value: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const latest = useRef<{ typed: string | null; value: string; onChange: (value: string) => void }>(null!);
  latest.current = { typed, value, onChange };
  const take = useRef((): boolean => {
    const now = latest.current;
    typingEnds(take.current);
    // Said at once: leaving may come twice.
    latest.current = { ...now, typed: null };
    setTyped(null);
    if (now.typed !== null && now.typed !== now.value) now.onChange(now.typed);
    return true;
  });
  useEffect(() => {
    const leave = take.current;
    return () => void leave();
  }, []);
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    if (event.key === 'Escape' && typed !== null) {
      latest.current = { ...latest.current, typed: null };
      setTyped(null);
      event.stopPropagation();
      event.currentTarget.blur();
    }
    if (event.key === 'Enter' && (lines === 1 || event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      event.currentTarget.blur();
    }
  };
  return (
    <textarea
      aria-label={label}
      rows={lines}
      value={typed ?? value}
      maxLength={most}
      placeholder={placeholder}
      onChange={(event) => {
        const text = lines === 1 ? event.target.value.replace(/\n+/g, ' ') : event.target.value;
        if (typed === null) typingBegins(take.current);
        setTyped(text);
      }}
      onBlur={() => take.current()}
      onKeyDown={onKeyDown}
      className={`w-full resize-none rounded-md border border-rule bg-paper px-2 py-1 leading-snug placeholder:text-graphite ${className}`}
    />
  );
}
