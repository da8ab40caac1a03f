import { type Cut, cutsOf } from '../../document/cut.ts';
import type { Shot } from '../../document/shot.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

const nameOf = (shot: Shot, camera: string) => shot.members.get(camera)?.name ?? 'a camera';

/** Cuts to a camera at a frame; one that stood there goes. */
export const putCut = defineCommand<{ cut: Cut }>({
  name: 'cut.put',
  label: ({ cut }, shot) => `cut to ${nameOf(shot, cut.camera)} at ${cut.frame}`,
  apply(shot, { cut }) {
    if (shot.members.get(cut.camera)?.kind !== 'camera') throw new Refused('A cut goes to a camera of the cast.');
    const others = shot.cuts.values().filter((c) => c.frame === cut.frame && c.id !== cut.id);
    return { ...shot, cuts: shot.cuts.withoutAll(others.map((c) => c.id)).with(cut.id, cut) };
  },
});

/** Moves a cut to a frame, between its neighbours. */
export const moveCut = defineCommand<{ id: string; frame: number }>({
  name: 'cut.move',
  label: ({ frame }) => `move a cut to ${frame}`,
  apply(shot, { id, frame }) {
    const cut = shot.cuts.get(id);
    if (!cut) return shot;
    const order = cutsOf(shot);
    const at = order.findIndex((c) => c.id === id);
    const low = at > 0 ? order[at - 1].frame + 1 : Number.NEGATIVE_INFINITY;
    const high = at + 1 < order.length ? order[at + 1].frame - 1 : Number.POSITIVE_INFINITY;
    const to = Math.min(Math.max(Math.round(frame), low), high);
    return to === cut.frame ? shot : { ...shot, cuts: shot.cuts.with(id, { ...cut, frame: to }) };
  },
});

/** Takes cuts away: what was seen before them goes on. */
export const removeCuts = defineCommand<{ ids: readonly string[] }>({
  name: 'cut.remove',
  label: ({ ids }) => (ids.length === 1 ? 'take a cut away' : `take ${ids.length} cuts away`),
  apply: (shot, { ids }) => ({ ...shot, cuts: shot.cuts.withoutAll(ids) }),
});
