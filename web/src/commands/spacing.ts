import {
  animatedPaths,
  channelPath,
  chartOf,
  placeBetween,
  type Shot,
  type Spacing,
  spaceBetween,
  spacings,
  spacingWords,
  turnSpacing,
} from '@varrup/core';
import { toast } from 'sonner';
import { useSelection } from '../view/selection.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasSelection, run, shotNow, withShot } from './now.ts';

/** How far things go from frame to frame: charts and breakdowns. */

/**
 * The channels a chart is of: the picked ones; else the move of the leading member, where it goes anywhere between these two
 * keys; else all its animated channels.
 */
export function chartPaths(shot: Shot, frame: number): string[] {
  const { channels, picked: selection } = useSelection.getState();
  const picked = channels.filter((p) => shot.curves.has(p));
  if (picked.length > 0) return picked;
  const lead = selection.at(-1);
  if (!lead) return [];
  const move = ['x', 'y', 'z'].map((c) => channelPath(lead, `move.${c}`)).filter((p) => shot.curves.has(p));
  const chart = chartOf(shot, move, frame);
  if (!chart) return animatedPaths(shot, [lead]);
  if (chart.length > 1e-9) return move;
  // What goes on between keys that say the same has keys of its own further out.
  return chart.passing.length > 0 ? [...chart.passing] : animatedPaths(shot, [lead]);
}

/** The channels a breakdown is for: the picked ones, else all animated ones of the picked members. */
export function breakdownPaths(shot: Shot): string[] {
  const { channels, picked: selection } = useSelection.getState();
  const picked = channels.filter((p) => shot.curves.has(p));
  return picked.length > 0 ? picked : animatedPaths(shot, selection);
}

export function space(spacing: Spacing): void {
  const shot = shotNow();
  if (!shot) return;
  const paths = chartPaths(shot, frameNow());
  if (chartOf(shot, paths, frameNow())) run(spaceBetween, { paths, frame: frameNow(), spacing });
  else toast('There are no two keys around this frame to go between.');
}

const about: Record<Spacing, string> = {
  even: 'the same way each frame',
  slowOut: 'out of the first key slowly',
  slowIn: 'into the second key slowly',
  slowBoth: 'slowly out of the first key and into the second',
  halves: 'half of what is left at each frame',
  thirds: 'a third of what is left at each frame',
};

export const spacingHint = (spacing: Spacing): string => `${spacingWords[spacing]}: ${about[spacing]}`;

export const spacingCommands: AppCommand[] = [
  ...spacings.map(
    (spacing): AppCommand => ({
      id: `spacing.${spacing}`,
      label: `Spacing between these two keys: ${about[spacing]}`,
      group: 'Spacing',
      run: () => space(spacing),
      enabled: hasSelection,
    }),
  ),
  {
    id: 'spacing.turn',
    label: 'Turn the spacing between these two keys about',
    group: 'Spacing',
    run: withShot((shot) => run(turnSpacing, { paths: chartPaths(shot, frameNow()), frame: frameNow() })),
    enabled: hasSelection,
  },
  {
    id: 'between.half',
    label: 'Breakdown half way between the keys before and after',
    group: 'Spacing',
    shortcut: 'U',
    run: withShot((shot) => run(placeBetween, { paths: breakdownPaths(shot), frame: frameNow(), share: 0.5 })),
    enabled: hasSelection,
  },
];
