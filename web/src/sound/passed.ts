import type { Shot } from '@varrup/core';

/** Whether the play head has come to or over a frame on its way, round the end of the range too. */
export function isPassed(at: number, last: number, now: number, { play }: Pick<Shot, 'play'>): boolean {
  if (now >= last) return at > last && at <= now;
  return (at > last && at <= play.last) || (at >= play.first && at <= now);
}
