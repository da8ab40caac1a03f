import type { ChannelState } from '@varrup/core';

/** A channel's state as a shape: a solid peg is keyed here, a hollow one animated, a wave loose, a dot constant. */
export function Glyph({ state }: { state: ChannelState }) {
  return (
    <svg width="14" height="16" viewBox="0 0 14 16" aria-hidden>
      {state === 'keyed' ? <rect x="4" y="1.5" width="6" height="13" rx="3" className="fill-moss" /> : null}
      {state === 'animated' ? (
        <rect
          x="4.75"
          y="2.25"
          width="4.5"
          height="11.5"
          rx="2.25"
          className="fill-none stroke-ink"
          strokeWidth="1.5"
        />
      ) : null}
      {state === 'loose' ? (
        <path d="M1 9c2-5 4-5 6-1s4 4 6-1" className="fill-none stroke-ochre" strokeWidth="2" strokeLinecap="round" />
      ) : null}
      {state === 'constant' ? <circle cx="7" cy="8" r="1.6" className="fill-graphite" opacity="0.6" /> : null}
    </svg>
  );
}
