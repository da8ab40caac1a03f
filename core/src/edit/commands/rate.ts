import { panelRuns } from '../../board/runs.ts';
import type { Curve, Key } from '../../curve/key.ts';
import type { Shot, Span } from '../../document/shot.ts';
import { defineCommand } from '../edit.ts';
import { followingBoard } from './board.ts';

/**
 * Changes the frame rate. Keeping frames, the motion plays faster or slower; keeping seconds, every key moves to the
 * frame that shows at its old time, and all that is heard, filmed, planned, marked and said goes along. Clips and what is laid of them on
 * tracks are counted in whole frames, and keep theirs.
 */
export const setRate = defineCommand<{ rate: number; keep: 'frames' | 'seconds' }>({
  name: 'shot.rate',
  label: ({ rate, keep }) => `${rate} frames a second, keeping ${keep}`,
  apply(shot, { rate, keep }) {
    if (rate === shot.rate) return shot;
    if (keep === 'frames') return { ...shot, rate };
    const factor = rate / shot.rate;
    const at = (frame: number) => 1 + (frame - 1) * factor;
    const span = (s: Span): Span => ({ first: Math.round(at(s.first)), last: Math.round(at(s.last)) });
    const curves = shot.curves.map((c) => stretched(c, at, factor));
    const loose = shot.loose.map((list) => list.map((change) => ({ ...change, frame: at(change.frame) })));
    const members = shot.members.map((m) =>
      m.holds.length === 0 ? m : { ...m, holds: m.holds.map((hold) => ({ ...hold, frame: at(hold.frame) })) },
    );
    const timed = { ...shot, rate, range: span(shot.range), play: span(shot.play), members, curves, loose };
    return followingBoard(shot, { ...timed, ...besides(shot, at, factor) });
  },
});

/** What stands on frames beside keys: what is heard, filmed, planned, marked and said. What needs whole frames takes the nearest. */
function besides(shot: Shot, at: (frame: number) => number, factor: number) {
  const whole = (frame: number) => Math.round(at(frame));
  const begin = shot.range.first;
  const lengths = new Map(
    // From the ends of panels, so that what is rounded does not add up.
    panelRuns(shot).map(({ panel, first, last }) => {
      const [from, to] = [Math.round((first - begin) * factor), Math.round((last + 1 - begin) * factor)];
      return [panel.id, Math.max(1, to - from)] as const;
    }),
  );
  return {
    sounds: shot.sounds.map((sound) => ({ ...sound, frame: at(sound.frame) })),
    footage: shot.footage.map((footage) => ({ ...footage, frame: at(footage.frame) })),
    cuts: shot.cuts.map((cut) => ({ ...cut, frame: whole(cut.frame) })),
    markers: shot.markers.map((marker) => ({ ...marker, frame: whole(marker.frame) })),
    notes: shot.notes.map((note) => ({ ...note, first: whole(note.first), last: whole(note.last) })),
    panels: shot.panels.map((panel) => ({ ...panel, frames: lengths.get(panel.id)! })),
    suggestions: shot.suggestions.map((suggestion) => ({
      ...suggestion,
      curves: Object.fromEntries(
        Object.entries(suggestion.curves).map(([path, curve]) => [path, curve && stretched(curve, at, factor)]),
      ),
    })),
  };
}

function stretched(curve: Curve, at: (frame: number) => number, factor: number): Curve {
  if (curve.type === 'orientation') {
    return { ...curve, keys: curve.keys.map((k) => ({ ...k, frame: at(k.frame) })) };
  }
  const handle = <H extends Key['in'] | Key['out']>(h: H): H =>
    h.kind === 'free' ? { ...h, frames: h.frames * factor } : h;
  return {
    ...curve,
    keys: curve.keys.map((k) => ({ ...k, frame: at(k.frame), in: handle(k.in), out: handle(k.out) })),
  };
}
