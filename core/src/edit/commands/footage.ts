import type { Marker } from '../../document/board.ts';
import type { Footage, PicturePoint, Trace } from '../../document/footage.ts';
import type { Shot } from '../../document/shot.ts';
import { withDot } from '../../footage/traced.ts';
import { FRAMES } from '../../schema/numbers.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

/** Footage pinned to a shot, and what is marked on it. */

const called = (shot: Shot, id: string) => shot.footage.get(id)?.name ?? 'footage';

/** Pins footage to the shot. */
export const pinFootage = defineCommand<{ footage: Footage }>({
  name: 'footage.pin',
  label: ({ footage }) => `pin ${footage.name} at ${footage.frame}`,
  apply: (shot, { footage }) => ({ ...shot, footage: shot.footage.with(footage.id, footage) }),
});

/** Changes how footage goes with the shot, or where it is shown. @throws Refused where it would end before it begins */
export const changeFootage = defineCommand<{ id: string; change: Partial<Omit<Footage, 'id'>> }>({
  name: 'footage.change',
  label: ({ id }, shot) => `change ${called(shot, id)}`,
  apply(shot, { id, change }) {
    const footage = shot.footage.get(id);
    if (!footage) return shot;
    const next = { ...footage, ...change };
    if (next.until - next.from < 1 / next.rate - 1e-9)
      throw new Refused('The part that is seen must have at least one picture.');
    const frame = Math.min(Math.max(next.frame, FRAMES.first), FRAMES.last);
    return { ...shot, footage: shot.footage.with(id, { ...next, frame }) };
  },
});

/** Takes footage off the shot, with what is marked on it. */
export const unpinFootage = defineCommand<{ id: string }>({
  name: 'footage.unpin',
  label: ({ id }, shot) => `take ${called(shot, id)} off`,
  apply: (shot, { id }) => ({
    ...shot,
    footage: shot.footage.without(id),
    traces: shot.traces.filter((t) => t.footage !== id),
  }),
});

/** Begins to follow a point, or changes what it is called. */
export const putTrace = defineCommand<{ trace: Trace }>({
  name: 'trace.put',
  label: ({ trace }) => `follow ${trace.name}`,
  apply: (shot, { trace }) => ({ ...shot, traces: shot.traces.with(trace.id, trace) }),
});

/** Sets the dot of a followed point on a picture, or takes it away. */
export const dotTrace = defineCommand<{ id: string; picture: number; at: PicturePoint | null }>({
  name: 'trace.dot',
  label: ({ id, picture, at }, shot) =>
    `${at ? 'mark' : 'unmark'} ${shot.traces.get(id)?.name ?? 'a point'} on picture ${picture + 1}`,
  apply(shot, { id, picture, at }) {
    const trace = shot.traces.get(id);
    return trace ? { ...shot, traces: shot.traces.with(id, withDot(trace, picture, at)) } : shot;
  },
});

export const removeTraces = defineCommand<{ ids: readonly string[] }>({
  name: 'trace.remove',
  label: ({ ids }, shot) =>
    ids.length === 1
      ? `follow ${shot.traces.get(ids[0])?.name ?? 'it'} no more`
      : `follow ${ids.length} points no more`,
  apply: (shot, { ids }) => ({ ...shot, traces: shot.traces.withoutAll([...ids]) }),
});

/** The marker that is set at a key moment of footage. */
export const momentOf = (footage: Footage, frame: number, id: string, name: string): Marker => ({
  id,
  frame: Math.round(frame),
  name,
  what: `As in ${footage.name}.`,
  sound: '',
  effort: '',
  panel: null,
});
