import { panelFrameAt } from '../../board/camera.ts';
import { panelRuns, panelsOf, placeBefore } from '../../board/runs.ts';
import type { Marker, Panel, Plan } from '../../document/board.ts';
import { limits, type Shot } from '../../document/shot.ts';
import { newId } from '../../schema/ids.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

/** The plan: idea, board and breakdown list. */

const called = (panel: Panel | undefined, shot: Shot) => {
  const at = panelsOf(shot).findIndex((p) => p.id === panel?.id);
  return panel?.name.trim() ? `the panel ${panel.name.trim()}` : `panel ${at + 1}`;
};

/** The shot with what follows its board: its length, where the board says it, and the markers at the panels' beginnings. */
export function followingBoard(before: Shot, after: Shot): Shot {
  const runs = panelRuns(after);
  const leads = after.plan.leads && runs.length > 0;
  const range = leads ? { first: after.range.first, last: runs.at(-1)!.last } : after.range;
  const same = range.last === after.range.last;
  const whole = before.play.first === before.range.first && before.play.last === before.range.last;
  const last = Math.min(after.play.last, range.last);
  const play = whole ? range : { first: Math.min(after.play.first, last), last };
  const starts = new Map(runs.map((run) => [run.panel.id, run.first]));
  const moved = after.markers.values().flatMap((marker): [string, Marker][] => {
    if (marker.panel === null) return [];
    const frame = starts.get(marker.panel);
    if (frame === undefined) return [[marker.id, { ...marker, panel: null }]];
    return frame === marker.frame ? [] : [[marker.id, { ...marker, frame }]];
  });
  return {
    ...after,
    ...(same ? {} : { range, play }),
    markers: moved.length > 0 ? after.markers.withAll(moved) : after.markers,
  };
}

/** Changes the idea, whom it is for, or whether the board leads the shot's length. */
export const changePlan = defineCommand<{ change: Partial<Plan> }>({
  name: 'plan.change',
  label: ({ change }) => ('leads' in change ? 'let the board say the length, or not' : 'write the idea'),
  apply: (shot, { change }) => followingBoard(shot, { ...shot, plan: { ...shot.plan, ...change } }),
});

/** Puts a panel on the board, before another or at its end. A shot that is animated already keeps its length. */
export const addPanel = defineCommand<{ panel: Omit<Panel, 'place'>; before: string | null }>({
  name: 'panel.add',
  label: () => 'put a panel on the board',
  apply(shot, { panel, before }) {
    const place = placeBefore(panelsOf(shot), before);
    const animated = shot.panels.size === 0 && (shot.curves.size > 0 || shot.members.size > 0);
    const plan = animated ? { ...shot.plan, leads: false } : shot.plan;
    return followingBoard(shot, { ...shot, plan, panels: shot.panels.with(panel.id, { ...panel, place }) });
  },
});

/** Changes a panel: its length, its words, its picture, its camera. */
export const changePanel = defineCommand<{ id: string; change: Partial<Omit<Panel, 'id'>> }>({
  name: 'panel.change',
  label: ({ id, change }, shot) =>
    change.frames === undefined
      ? `change ${called(shot.panels.get(id), shot)}`
      : `let ${called(shot.panels.get(id), shot)} stand ${change.frames} frames`,
  apply(shot, { id, change }) {
    const panel = shot.panels.get(id);
    if (!panel) return shot;
    return followingBoard(shot, { ...shot, panels: shot.panels.with(id, { ...panel, ...change }) });
  },
});

/** Moves a panel before another, or to the end of the board. */
export const movePanel = defineCommand<{ id: string; before: string | null }>({
  name: 'panel.move',
  label: ({ id }, shot) => `move ${called(shot.panels.get(id), shot)}`,
  apply(shot, { id, before }) {
    const panel = shot.panels.get(id);
    if (!panel || before === id) return shot;
    const all = panelsOf(shot);
    const at = all.findIndex((p) => p.id === id);
    if ((all[at + 1]?.id ?? null) === before) return shot;
    const place = placeBefore(
      all.filter((p) => p.id !== id),
      before,
    );
    return followingBoard(shot, { ...shot, panels: shot.panels.with(id, { ...panel, place }) });
  },
});

/** A panel's drawing on another panel. */
function drawingOn(shot: Shot, from: string, to: string): Shot['strokes'] {
  const copies = shot.strokes.values().filter((s) => s.on === from);
  if (shot.strokes.size + copies.length > limits.strokes)
    throw new Refused(`A shot holds ${limits.strokes} drawn lines, and these would be more.`);
  return shot.strokes.withAll(
    copies.map((s) => {
      const id = newId();
      return [id, { ...s, id, on: to }];
    }),
  );
}

/** Puts a copy of a panel after it, with what is drawn on it. */
export const copyPanel = defineCommand<{ id: string; as: string }>({
  name: 'panel.copy',
  label: ({ id }, shot) => `copy ${called(shot.panels.get(id), shot)}`,
  apply(shot, { id, as }) {
    const panel = shot.panels.get(id);
    if (!panel || shot.panels.has(as)) return shot;
    const all = panelsOf(shot);
    const next = all[all.findIndex((p) => p.id === id) + 1]?.id ?? null;
    const copy = { ...panel, id: as, shot: null, place: placeBefore(all, next) };
    return followingBoard(shot, { ...shot, panels: shot.panels.with(as, copy), strokes: drawingOn(shot, id, as) });
  },
});

/** Splits a panel in two: the first has so many frames, the second the rest; the camera's move goes on through both. */
export const splitPanel = defineCommand<{ id: string; frames: number; as: string }>({
  name: 'panel.split',
  label: ({ id }, shot) => `split ${called(shot.panels.get(id), shot)}`,
  apply(shot, { id, frames, as }) {
    const panel = shot.panels.get(id);
    if (!panel || shot.panels.has(as)) return shot;
    if (frames < 1 || frames >= panel.frames)
      throw new Refused(`It has ${panel.frames} frames: it can be split after the first to the last but one of them.`);
    const all = panelsOf(shot);
    const next = all[all.findIndex((p) => p.id === id) + 1]?.id ?? null;
    const middle = panelFrameAt(panel, frames / panel.frames);
    const moves = panel.camera?.to;
    const first = { ...panel, frames, camera: moves ? { from: panel.camera!.from, to: middle } : panel.camera };
    const second: Panel = {
      ...panel,
      id: as,
      frames: panel.frames - frames,
      place: placeBefore(all, next),
      says: '',
      shot: null,
      camera: moves ? { from: middle, to: moves } : panel.camera,
    };
    const panels = shot.panels.withAll([
      [id, first],
      [as, second],
    ]);
    return followingBoard(shot, { ...shot, panels, strokes: drawingOn(shot, id, as) });
  },
});

/** Takes panels off the board, with what is drawn on them. */
export const removePanels = defineCommand<{ ids: readonly string[] }>({
  name: 'panel.remove',
  label: ({ ids }, shot) =>
    ids.length === 1 ? `take ${called(shot.panels.get(ids[0]), shot)} away` : `take ${ids.length} panels away`,
  apply(shot, { ids }) {
    const gone = new Set(ids);
    const strokes = shot.strokes.filter((s) => !gone.has(s.on));
    return followingBoard(shot, { ...shot, panels: shot.panels.withoutAll([...ids]), strokes });
  },
});

/** Says which shots panels have become; they are as long as their panels from then on. */
export const linkPanels = defineCommand<{ shots: Readonly<Record<string, string>> }>({
  name: 'panel.link',
  label: ({ shots }) => {
    const count = Object.keys(shots).length;
    return count === 1 ? 'let a panel become a shot' : `let ${count} panels become shots`;
  },
  apply(shot, { shots }) {
    const linked = Object.entries(shots).flatMap(([id, made]): [string, Panel][] => {
      const panel = shot.panels.get(id);
      return panel ? [[id, { ...panel, shot: { id: made, follows: true } }]] : [];
    });
    return linked.length > 0 ? { ...shot, panels: shot.panels.withAll(linked) } : shot;
  },
});

/** Writes a line of the breakdown list, or changes one. */
export const putMarker = defineCommand<{ marker: Marker }>({
  name: 'marker.put',
  label: ({ marker }) => `mark frame ${marker.frame}${marker.name ? `: ${marker.name}` : ''}`,
  apply: (shot, { marker }) => ({ ...shot, markers: shot.markers.with(marker.id, marker) }),
});

/** Writes several lines of the breakdown list at once. */
export const putMarkers = defineCommand<{ markers: readonly Marker[] }>({
  name: 'marker.putAll',
  label: ({ markers }) => `mark ${markers.length} frames`,
  apply: (shot, { markers }) => ({ ...shot, markers: shot.markers.withAll(markers.map((m) => [m.id, m])) }),
});

export const removeMarkers = defineCommand<{ ids: readonly string[] }>({
  name: 'marker.remove',
  label: ({ ids }) => (ids.length === 1 ? 'take a marker away' : `take ${ids.length} markers away`),
  apply: (shot, { ids }) => ({ ...shot, markers: shot.markers.withoutAll([...ids]) }),
});

/** Sets a marker at the beginning of each panel that has none; it goes where the panel goes. */
export const markPanels = defineCommand<{ ids: readonly string[] }>({
  name: 'panel.mark',
  label: ({ ids }) => (ids.length === 1 ? 'mark a panel in the sheet' : `mark ${ids.length} panels in the sheet`),
  apply(shot, { ids }) {
    const marked = new Set(shot.markers.values().map((m) => m.panel));
    const fresh = panelRuns(shot)
      .filter(({ panel }) => ids.includes(panel.id) && !marked.has(panel.id))
      .map(({ panel, first, index }): [string, Marker] => {
        const id = newId();
        const name = panel.name.trim() || `panel ${index + 1}`;
        return [
          id,
          { id, frame: first, name, what: panel.happens.slice(0, 1_000), sound: '', effort: '', panel: panel.id },
        ];
      });
    return fresh.length > 0 ? { ...shot, markers: shot.markers.withAll(fresh) } : shot;
  },
});
