import { limits } from '../../document/shot.ts';
import type { Stroke } from '../../document/stroke.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

/** What is drawn, on panels and for notes. */

/** Draws a line over those that are there. */
export const drawStroke = defineCommand<{ stroke: Stroke }>({
  name: 'drawing.draw',
  label: ({ stroke }) => ({ pencil: 'draw a line', rubber: 'rub something out', tone: 'lay a tone' })[stroke.tool],
  apply(shot, { stroke }) {
    if (shot.strokes.size >= limits.strokes)
      throw new Refused(`A shot holds ${limits.strokes} drawn lines: take a panel's drawing away first.`);
    return { ...shot, strokes: shot.strokes.with(stroke.id, stroke) };
  },
});

/** Takes all that is drawn on something away, or what is drawn on one of its sheets. */
export const clearDrawing = defineCommand<{ on: string; sheet: number | null }>({
  name: 'drawing.clear',
  label: ({ sheet }) => (sheet === null ? 'take the drawing away' : `clear sheet ${sheet + 1} of the drawing`),
  apply(shot, { on, sheet }) {
    const strokes = shot.strokes.filter((s) => s.on !== on || (sheet !== null && s.sheet !== sheet));
    return strokes.size === shot.strokes.size ? shot : { ...shot, strokes };
  },
});
