import type { ChannelState } from '@varrup/core';

/**
 * A channel's state as a peg, with no hue: a dot is constant, a small hollow peg is keyed elsewhere, a solid one is keyed here, and one
 * that leans is lifted off its hole, changed and not put down.
 */
export function Glyph({ state }: { state: ChannelState }) {
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
      {state === 'keyed' ? <rect x="5" y="1.5" width="6" height="13" rx="3" className="fill-ink" /> : null}
      {state === 'animated' ? (
        <rect
          x="5.6"
          y="3.6"
          width="4.8"
          height="8.8"
          rx="2.4"
          className="fill-none stroke-graphite"
          strokeWidth="1.2"
        />
      ) : null}
      {state === 'loose' ? <LeaningPeg /> : null}
      {state === 'constant' ? <circle cx="8" cy="8" r="1.5" className="fill-graphite" opacity="0.6" /> : null}
    </svg>
  );
}

/** The peg of what is loose, for a picture of 16 by 16. */
export const LeaningPeg = () => (
  <rect
    x="5"
    y="1.5"
    width="6"
    height="12"
    rx="3"
    transform="rotate(28 8 8)"
    className="fill-none stroke-ink"
    strokeWidth="1.6"
  />
);
