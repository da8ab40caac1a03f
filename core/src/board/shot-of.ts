import { emptyShot, type Shot } from '../document/shot.ts';
import { newId } from '../schema/ids.ts';
import { Table } from '../table/table.ts';
import type { PanelRun } from './runs.ts';

/** The name a shot gets that is made of a panel: its number on the board, and what the panel is called. */
export const shotNameOf = ({ panel, index }: PanelRun): string =>
  `${String(index + 1).padStart(2, '0')} ${panel.name.trim() || panel.happens.trim().split(/[.\n]/)[0] || 'Panel'}`.slice(
    0,
    80,
  );

/**
 * A shot for a panel: as long as it, with the panel as its board, so that it can be seen over the stage, and with what is heard of the
 * board's sounds meanwhile.
 */
export function shotOfPanel(board: Shot, run: PanelRun): Shot {
  const { panel, first, last } = run;
  const empty = emptyShot(newId(), shotNameOf(run), board.rigs);
  const range = { first: 1, last: panel.frames };
  const kept = { ...panel, id: newId(), place: 0, shot: null };
  const strokes = board.strokes
    .values()
    .filter((s) => s.on === panel.id)
    .map((s) => ({ ...s, id: newId(), on: kept.id }));
  const by = 1 - first;
  const sounds = board.sounds
    .values()
    .filter((s) => s.frame <= last && s.frame + lastsAtMost(s, board.rate) > first)
    .map((s) => ({ ...s, id: newId(), frame: s.frame + by }));
  const markers = board.markers
    .values()
    .filter((m) => m.frame >= first && m.frame <= last)
    .map((m) => ({ ...m, id: newId(), frame: m.frame + by, panel: m.panel === panel.id ? kept.id : null }));
  return {
    ...empty,
    rate: board.rate,
    range,
    play: range,
    plan: { ...board.plan, from: { shot: board.id, panel: panel.id } },
    panels: Table.of([[kept.id, kept]]),
    strokes: Table.of(strokes.map((s) => [s.id, s])),
    sounds: Table.of(sounds.map((s) => [s.id, s])),
    markers: Table.of(markers.map((m) => [m.id, m])),
  };
}

/** Frames a sound can be heard at most. The sounds that come with Varrup are short. */
const lastsAtMost = ({ sound, part }: Shot['sounds'] extends Table<infer S> ? S : never, rate: number): number =>
  (typeof sound === 'string' ? 2 : Math.min(sound.seconds, part?.until ?? sound.seconds) - (part?.from ?? 0)) * rate;
