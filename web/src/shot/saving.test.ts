import {
  addMember,
  applyEdit,
  type Committed,
  changeChannels,
  type Edit,
  type EditsSince,
  emptyShot,
  newMember,
  perform,
  renameMember,
  type Shot,
} from '@varrup/core';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { api, Conflict, ServerRefusal, Unreachable } from '../api/client.ts';
import type { Journal, JournalRow } from './journal.ts';
import { openShot, Unreadable } from './open.ts';
import { type Choice, type Meeting, type SaveState, Saving, type SavingEvents } from './saving.ts';

vi.mock('./listening.ts', () => ({
  Listening: class {
    close() {}
  },
}));

/** Saving against a server and a journal that the test plays, with the clock in its hands. */

class FakeJournal {
  readonly window = 'w1';
  rows: JournalRow[] = [];
  left: JournalRow[][] = [];
  async add(row: JournalRow) {
    this.rows.push(row);
  }
  async remove(gone: readonly JournalRow[]) {
    this.rows = this.rows.filter((row) => !gone.includes(row));
    this.left = this.left.map((rows) => rows.filter((row) => !gone.includes(row)));
  }
  async leftBehind() {
    return this.left;
  }
}

const start = emptyShot('s1', 'Saved');
const opened = { production: { id: 'p1', name: 'Tests' }, revision: 0, document: start };

/** A shot as the server gives it. */
const given = (document: Shot, revision: number) => ({ ...opened, revision, snapshot: document, document });

/** An edit that brings a box in. */
function box(shot: Shot, id: string): { shot: Shot; edit: Edit } {
  const done = perform(shot, addMember, { member: newMember(shot, { kind: 'box', id }) })!;
  const { inverse: _, ...edit } = done.edit;
  return { shot: done.shot, edit };
}

let journal: FakeJournal;
let states: SaveState['kind'][];
let last: SaveState;
let current: Shot;
let kept: { server: Shot; copy: { name: string } } | null;
let joined: string[];
let met: Meeting | null;
let choice: Choice;

const saving = () => new Saving(opened, journal as unknown as Journal, events());

function events(): SavingEvents {
  return {
    state: (s) => {
      states.push(s.kind);
      last = s;
    },
    joined: (edits) => {
      current = edits.reduce<Shot>(applyEdit, current);
      joined.push(...edits.map((edit) => edit.id));
    },
    choose: async (meeting) => {
      met = meeting;
      return choice;
    },
    chosen: (shot) => {
      current = shot;
    },
    keptBoth: (server, copy) => {
      kept = { server, copy };
    },
    neighbours: () => {},
    present: () => {},
    current: () => current,
  };
}

/** What the server answers where nobody else was there. */
const taken = (revision: number, edits: Committed['edits'] = []): Committed => ({ revision, edits });

/** Lets everything that is under way come to rest. */
const settle = () => vi.advanceTimersByTimeAsync(0);

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('addEventListener', () => {});
  vi.stubGlobal('removeEventListener', () => {});
  journal = new FakeJournal();
  states = [];
  current = start;
  kept = null;
  joined = [];
  met = null;
  choice = new Set();
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('saving', () => {
  test('writes to the journal first, and takes an edit out when the server has it', async () => {
    const seen: number[] = [];
    vi.spyOn(api, 'commit').mockImplementation(async (_, { base, edits }) => {
      seen.push(journal.rows.length);
      return taken(base + edits.length);
    });
    const s = saving();
    s.add(box(start, 'a').edit);
    await settle();
    expect(seen).toEqual([1]);
    expect(journal.rows).toEqual([]);
    expect(states.at(-1)).toBe('saved');
    s.close();
  });

  test('sends edits in order, each batch on the revision the last one led to', async () => {
    const bases: [number, number][] = [];
    vi.spyOn(api, 'commit').mockImplementation(async (_, { base, edits }) => {
      bases.push([base, edits.length]);
      return taken(base + edits.length);
    });
    const s = saving();
    let shot = start;
    for (const id of ['a', 'b', 'c']) {
      const done = box(shot, id);
      shot = done.shot;
      s.add(done.edit);
    }
    await settle();
    expect(bases.reduce((n, [, count]) => n + count, 0)).toBe(3);
    bases.forEach(([base], i) => {
      expect(base).toBe(bases.slice(0, i).reduce((n, [, count]) => n + count, 0));
    });
    s.close();
  });

  test('waits while nobody answers, and goes on by itself when somebody does', async () => {
    const commit = vi.spyOn(api, 'commit').mockRejectedValue(new Unreachable('down'));
    const s = saving();
    s.add(box(start, 'a').edit);
    await settle();
    expect(states.at(-1)).toBe('waiting');
    expect(journal.rows).toHaveLength(1);
    commit.mockResolvedValue(taken(1));
    await vi.advanceTimersByTimeAsync(5000);
    expect(states.at(-1)).toBe('saved');
    expect(journal.rows).toEqual([]);
    s.close();
  });

  test('after an outage sends what comes in while it is sending again, at once', async () => {
    const commit = vi.spyOn(api, 'commit').mockRejectedValue(new Unreachable('down'));
    const s = saving();
    s.add(box(start, 'first').edit);
    await settle();
    expect(states.at(-1)).toBe('waiting');
    // The server is back: another edit sends both, and one comes in meanwhile.
    let answer: (revision: number) => void = () => {};
    commit.mockImplementation(() => new Promise((done) => (answer = (revision) => done(taken(revision)))));
    s.add(box(start, 'second').edit);
    await settle();
    expect(commit.mock.lastCall![1].edits).toHaveLength(2);
    s.add(box(start, 'third').edit);
    await settle();
    answer(2);
    await settle();
    expect(commit.mock.lastCall![1].edits).toHaveLength(1);
    answer(3);
    await settle();
    expect(states.at(-1)).toBe('saved');
    expect(journal.rows).toEqual([]);
    s.close();
  });

  /** A box's name as somebody has it. */
  const named = (shot: Shot, name: string): { shot: Shot; edit: Edit } => {
    const done = perform(shot, renameMember, { id: 'b', name })!;
    const { inverse: _, ...edit } = done.edit;
    return { shot: done.shot, edit };
  };
  const logged = (edit: Edit, revision: number) => ({ ...edit, revision });
  const boxed = box(start, 'b');

  test('takes what others did elsewhere in the shot into it, before what is here', async () => {
    const mine = box(start, 'mine');
    const theirs = box(start, 'theirs');
    const more = box(mine.shot, 'more');
    let answer: (done: Committed) => void = () => {};
    const commit = vi.spyOn(api, 'commit').mockImplementation(() => new Promise((done) => (answer = done)));
    const s = saving();
    current = mine.shot;
    s.add(mine.edit);
    await settle();
    // Another is made while the first is on its way.
    current = more.shot;
    s.add(more.edit);
    answer(taken(2, [logged(theirs.edit, 1)]));
    await settle();
    expect(joined).toEqual([theirs.edit.id]);
    expect(current.members.keys().sort()).toEqual(['mine', 'more', 'theirs']);
    expect(commit.mock.lastCall![1]).toMatchObject({ base: 2, edits: [{ id: more.edit.id }] });
    answer(taken(3));
    await settle();
    expect(states.at(-1)).toBe('saved');
    expect(met).toBeNull();
    s.close();
  });

  test('of an answer that was lost knows its own in the log', async () => {
    const mine = box(start, 'mine');
    const theirs = box(start, 'theirs');
    vi.spyOn(api, 'commit').mockResolvedValue(taken(2, [logged(mine.edit, 1), logged(theirs.edit, 2)]));
    const s = saving();
    current = mine.shot;
    s.add(mine.edit);
    await settle();
    expect(joined).toEqual([theirs.edit.id]);
    expect(journal.rows).toEqual([]);
    s.close();
  });

  test.each([
    ['theirs', 'Their box', 0],
    ['mine', 'My box', 1],
  ] as const)('where both changed the same, and %s is chosen, it is %s', async (chosen, name, edits) => {
    choice = new Set(chosen === 'mine' ? ['/members/b/name'] : []);
    const theirs = named(boxed.shot, 'Their box');
    const mine = named(boxed.shot, 'My box');
    const commit = vi
      .spyOn(api, 'commit')
      .mockRejectedValueOnce(
        new Conflict('met', { revision: 2, edits: [logged(boxed.edit, 1), logged(theirs.edit, 2)], more: false }),
      )
      .mockResolvedValue(taken(3));
    const s = saving();
    current = mine.shot;
    s.add(boxed.edit);
    s.add(mine.edit);
    await settle();
    expect(met!.places).toEqual(['/members/b/name']);
    expect([met!.mine.members.at('b').name, met!.theirs.members.at('b').name]).toEqual(['My box', 'Their box']);
    expect(states).toContain('joining');
    expect(current.members.at('b').name).toBe(name);
    expect(commit).toHaveBeenCalledTimes(1 + edits);
    if (edits > 0) expect(commit.mock.lastCall![1]).toMatchObject({ base: 2, edits: [{ command: 'shot.keepMine' }] });
    expect(states.at(-1)).toBe('saved');
    expect(journal.rows).toEqual([]);
    s.close();
  });

  test('where both changed several, it is chosen of each', async () => {
    choice = new Set(['/members/b/values/move.x']);
    const moved = (shot: Shot, x: number, y: number) => {
      const done = perform(shot, changeChannels, {
        frame: 1,
        values: { 'b.move.x': x, 'b.move.y': y },
        autoKey: 'off',
      })!;
      const { inverse: _, ...edit } = done.edit;
      return { shot: done.shot, edit };
    };
    const theirs = moved(boxed.shot, 1, 2);
    const mine = moved(boxed.shot, 3, 4);
    const since = { revision: 1, edits: [logged(theirs.edit, 1)], more: false };
    vi.spyOn(api, 'commit').mockRejectedValueOnce(new Conflict('met', since)).mockResolvedValue(taken(2));
    const s = new Saving({ ...opened, document: boxed.shot }, journal as unknown as Journal, events());
    current = mine.shot;
    s.add(mine.edit);
    await settle();
    expect(met!.places).toEqual(['/members/b/values/move.x', '/members/b/values/move.y']);
    expect(current.members.at('b').values).toMatchObject({ 'move.x': 3, 'move.y': 2 });
    s.close();
  });

  test('where both made the same of it, nothing is asked', async () => {
    const theirs = named(boxed.shot, 'Box on the quay');
    const mine = named(boxed.shot, 'Box on the quay');
    const since = { revision: 1, edits: [logged(theirs.edit, 1)], more: false };
    const commit = vi.spyOn(api, 'commit').mockRejectedValueOnce(new Conflict('met', since));
    const s = new Saving({ ...opened, document: boxed.shot }, journal as unknown as Journal, events());
    current = mine.shot;
    s.add(mine.edit);
    await settle();
    expect(met).toBeNull();
    expect(commit).toHaveBeenCalledTimes(1);
    expect(states.at(-1)).toBe('saved');
    s.close();
  });

  test('where both changed the same, what else was changed stays in any case', async () => {
    const theirs = named(boxed.shot, 'Their box');
    const mine = named(boxed.shot, 'My box');
    const more = box(mine.shot, 'more');
    const commit = vi
      .spyOn(api, 'commit')
      .mockRejectedValueOnce(new Conflict('met', { revision: 1, edits: [logged(theirs.edit, 1)], more: false }))
      .mockResolvedValue(taken(2));
    const s = new Saving({ ...opened, document: boxed.shot }, journal as unknown as Journal, events());
    current = more.shot;
    s.add(mine.edit);
    s.add(more.edit);
    await settle();
    expect(current.members.at('b').name).toBe('Their box');
    expect(current.members.has('more')).toBe(true);
    expect(commit.mock.lastCall![1]).toMatchObject({ base: 1, edits: [{ command: 'member.add' }] });
    s.close();
  });

  test('that is to be kept apart becomes a shot of its own, and the desk goes on with theirs', async () => {
    choice = 'apart';
    const theirs = named(boxed.shot, 'Their box');
    const mine = named(boxed.shot, 'My box');
    const since = { revision: 1, edits: [logged(theirs.edit, 1)], more: false };
    vi.spyOn(api, 'commit').mockRejectedValue(new Conflict('met', since));
    const made = vi.spyOn(api, 'newShot').mockResolvedValue('copy1');
    const s = new Saving({ ...opened, document: boxed.shot }, journal as unknown as Journal, events());
    current = mine.shot;
    s.add(mine.edit);
    await settle();
    expect(made).toHaveBeenCalledWith('p1', expect.stringMatching(/^Saved \(kept \d\d:\d\d\)$/), expect.anything());
    expect(made.mock.calls[0][2]!.members.at('b').name).toBe('My box');
    expect(kept!.server.members.at('b').name).toBe('Their box');
    expect(journal.rows).toEqual([]);
    s.close();
  });

  test('of a meeting whose copy cannot be made keeps the edit in the journal and tries again', async () => {
    choice = 'apart';
    const theirs = named(boxed.shot, 'Their box');
    const since = { revision: 1, edits: [logged(theirs.edit, 1)], more: false };
    vi.spyOn(api, 'commit').mockRejectedValue(new Conflict('met', since));
    vi.spyOn(api, 'newShot').mockRejectedValue(new Unreachable('down'));
    const s = new Saving({ ...opened, document: boxed.shot }, journal as unknown as Journal, events());
    current = boxed.shot;
    s.add(named(boxed.shot, 'My box').edit);
    await settle();
    expect(states.at(-1)).toBe('waiting');
    expect(journal.rows).toHaveLength(1);
    s.close();
  });

  test.each([
    [507, 'room'],
    [500, 'server'],
    [429, 'server'],
  ])('what the server cannot take now (%i) waits, and goes when it can', async (status, what) => {
    const { edit } = box(start, 'b1');
    const commit = vi.spyOn(api, 'commit').mockRejectedValue(new ServerRefusal(status, 'not now'));
    const desk = saving();
    desk.add(edit);
    await settle();
    expect(last).toEqual({ kind: 'waiting', edits: 1, for: what });
    expect(journal.rows).toHaveLength(1);
    commit.mockResolvedValue(taken(1));
    await vi.advanceTimersByTimeAsync(2_000);
    expect(states.at(-1)).toBe('saved');
    expect(journal.rows).toEqual([]);
    desk.close();
  });

  test('stops at what the server refuses, says why, and lets go only when told', async () => {
    const commit = vi.spyOn(api, 'commit').mockRejectedValue(new ServerRefusal(422, 'wrong at /rate'));
    const s = saving();
    s.add(box(start, 'a').edit);
    await settle();
    expect(states.at(-1)).toBe('refused');
    s.add(box(start, 'b').edit);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(commit).toHaveBeenCalledTimes(1);
    expect(states.at(-1)).toBe('refused');
    expect(journal.rows).toHaveLength(2);
    await s.giveUp();
    expect(journal.rows).toEqual([]);
    s.close();
  });

  test('follows what a neighbour commits while nothing of ours is under way', async () => {
    const { shot, edit } = box(start, 'theirs');
    const since: EditsSince = { revision: 1, edits: [{ ...edit, revision: 1 }], more: false };
    vi.spyOn(api, 'editsSince').mockResolvedValue(since);
    const s = saving();
    const neighbour = new BroadcastChannel('varrup-shot-s1');
    neighbour.postMessage({ type: 'committed', from: 'w2', revision: 1 });
    vi.useRealTimers();
    await vi.waitFor(() => expect(current).toEqual(shot));
    neighbour.close();
    s.close();
  });
});

describe('opening a shot after a window has died', () => {
  const row = (edit: Edit, seq: number): JournalRow => ({ shot: 's1', window: 'dead', seq, base: 0, edit });

  test('brings back what it had not sent, and forgets what the server has', async () => {
    const first = box(start, 'sent');
    const second = box(first.shot, 'unsent');
    journal.left = [[row(first.edit, 0), row(second.edit, 1)]];
    vi.spyOn(api, 'openShot').mockResolvedValue(given(first.shot, 1));
    vi.spyOn(api, 'editsSince').mockResolvedValue({
      revision: 1,
      edits: [{ ...first.edit, revision: 1 }],
      more: false,
    });
    const { shot, unsent, copies } = await openShot('s1', journal as unknown as Journal);
    expect(shot).toEqual(second.shot);
    expect(unsent.map((r) => r.edit.id)).toEqual([second.edit.id]);
    expect(copies).toEqual([]);
    expect(journal.left[0].map((r) => r.edit.id)).toEqual([second.edit.id]);
  });

  test('says where, when the edits since its snapshot have left it so that it does not read', async () => {
    const wrong = { ...start, rate: 0 };
    vi.spyOn(api, 'openShot').mockResolvedValue({ ...given(start, 1), document: wrong });
    await expect(openShot('s1', journal as unknown as Journal)).rejects.toEqual(new Unreadable('/rate'));
  });

  test('keeps it beside where others have changed the shot since', async () => {
    const mine = box(start, 'mine');
    const theirs = box(start, 'theirs');
    journal.left = [[row(mine.edit, 0)]];
    vi.spyOn(api, 'openShot').mockResolvedValue(given(theirs.shot, 1));
    vi.spyOn(api, 'editsSince').mockResolvedValue({
      revision: 1,
      edits: [{ ...theirs.edit, revision: 1 }],
      more: false,
    });
    const made = vi.spyOn(api, 'newShot').mockResolvedValue('copy1');
    const { shot, unsent, copies } = await openShot('s1', journal as unknown as Journal);
    expect(shot).toEqual(theirs.shot);
    expect(unsent).toEqual([]);
    expect(copies).toHaveLength(1);
    expect(made.mock.calls[0][2]!.members.keys().sort()).toEqual(['mine', 'theirs']);
    expect(journal.left[0]).toEqual([]);
  });

  test('keeps what fits of edits that no longer all do', async () => {
    const fits = box(start, 'mine');
    const lost: Edit = { ...fits.edit, id: 'lost1', patches: [{ op: 'remove', path: '/members/gone' }] };
    journal.left = [[row(lost, 0), row(fits.edit, 1)]];
    vi.spyOn(api, 'openShot').mockResolvedValue(given(start, 0));
    vi.spyOn(api, 'editsSince').mockResolvedValue({ revision: 0, edits: [], more: false });
    const made = vi.spyOn(api, 'newShot').mockResolvedValue('copy1');
    await openShot('s1', journal as unknown as Journal);
    expect(made.mock.calls[0][2]!.members).toEqual(applyEdit(start, fits.edit).members);
  });
});
