import { limits, type Span } from '../../document/shot.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

export const renameShot = defineCommand<{ name: string }>({
  name: 'shot.rename',
  label: ({ name }) => `rename the shot to ${name}`,
  apply: (shot, { name }) => (shot.name === name ? shot : { ...shot, name }),
});

/** Sets the shot's first and last frame. The play range is cut to it, or follows where it was the whole. */
export const setRange = defineCommand<{ range: Span }>({
  name: 'shot.range',
  label: ({ range }) => `set the range to ${range.first}–${range.last}`,
  apply(shot, { range }) {
    refuseSpan(range);
    const { first, last } = shot.range;
    if (range.first === first && range.last === last) return shot;
    const whole = shot.play.first === first && shot.play.last === last;
    return { ...shot, range, play: whole ? range : clipped(shot.play, range) };
  },
});

/** Sets the frames that play, within the range. */
export const setPlayRange = defineCommand<{ play: Span }>({
  name: 'shot.play',
  label: ({ play }) => `play ${play.first}–${play.last}`,
  apply(shot, { play }) {
    refuseSpan(play);
    const next = clipped(play, shot.range);
    return next.first === shot.play.first && next.last === shot.play.last ? shot : { ...shot, play: next };
  },
});

/** @throws Refused where it is no run of whole frames that a shot can have */
function refuseSpan({ first, last }: Span): void {
  const inside = (frame: number) => Number.isInteger(frame) && Math.abs(frame) <= limits.frames;
  if (!inside(first) || !inside(last))
    throw new Refused(`The frames of a shot are whole, from −${said(limits.frames)} to ${said(limits.frames)}.`);
  if (last < first) throw new Refused(`The last frame, ${last}, cannot come before the first, ${first}.`);
}

const said = (frames: number) => frames.toLocaleString('en');

function clipped(span: Span, within: Span): Span {
  const first = Math.min(Math.max(span.first, within.first), within.last);
  return { first, last: Math.min(Math.max(span.last, first), within.last) };
}
