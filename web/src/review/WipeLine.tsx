import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { useCompare, withWords } from './compare.ts';

/** What stands over the stage while it is looked at beside something: what is what, and the line at which the picture changes over. */
export function WipeLine() {
  const { other, with: chosen, mode, wipe } = useCompare();
  const shot = useShot((s) => s.shot);
  const line = useRef<HTMLDivElement>(null);
  if (!other || !chosen) return null;
  const word = withWords(chosen, shot);
  const move = (event: PointerEvent) => {
    if (event.buttons === 0) return;
    const box = line.current!.parentElement!.getBoundingClientRect();
    useCompare.setState({ wipe: Math.min(0.98, Math.max(0.02, (event.clientX - box.left) / box.width)) });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -0.02, ArrowRight: 0.02 }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    useCompare.setState({ wipe: Math.min(0.98, Math.max(0.02, wipe + by)) });
  };
  const name = 'pointer-events-none absolute top-2 rounded-full bg-card/85 px-2 py-0.5 text-xs';
  const isSplit = mode === 'pair' || mode === 'wipe';
  return (
    <>
      <span className={`${name} left-2`}>{isSplit ? 'now' : `now, and ${word}`}</span>
      {isSplit ? <span className={`${name} right-2 text-ochre-ink`}>{word}</span> : null}
      {mode === 'pair' ? (
        <span className="pointer-events-none absolute inset-y-0 left-1/2 w-px bg-rule" aria-hidden />
      ) : null}
      {mode === 'wipe' ? (
        <div
          ref={line}
          role="slider"
          tabIndex={0}
          aria-label="Where the picture changes over"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(wipe * 100)}
          className="absolute inset-y-0 z-10 w-3 -translate-x-1/2 cursor-col-resize touch-none after:absolute after:inset-y-0 after:left-1/2 after:w-0.5 after:-translate-x-1/2 after:bg-ochre"
          style={{ left: `${wipe * 100}%` }}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={move}
          onKeyDown={onKeyDown}
        />
      ) : null}
    </>
  );
}
