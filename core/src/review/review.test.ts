import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { NumberCurve } from '../curve/key.ts';
import { valueAt } from '../curve/sample.ts';
import { emptyShot, type Note, type Shot, type Suggestion } from '../document/index.ts';
import * as edit from '../edit/index.ts';
import { castWithRigs } from '../testing/arbitraries.ts';
import { upToChanges } from '../testing/edits.ts';
import { compareShots, suggested, suggestionBetween } from './index.ts';

const ball = (): Shot => {
  const empty = emptyShot('s', 'S');
  let shot = edit.addMember.apply(empty, {
    member: edit.newMember(empty, { kind: 'ball', id: 'ball', name: 'Float' }),
  });
  for (const [frame, value] of [
    [1, 2],
    [13, 0.2],
    [25, 1.5],
    [37, 0.2],
  ]) {
    shot = edit.changeChannels.apply(shot, { frame, values: { 'ball.move.y': value }, autoKey: 'every' });
  }
  return shot;
};
const y = (shot: Shot) => shot.curves.at('ball.move.y') as NumberCurve;
const moved = (shot: Shot, by = 3) => edit.moveKeys.apply(shot, { keys: { 'ball.move.y': [25] }, by, rise: -0.5 });

const author = { id: 'teacher', name: 'Teacher' };
const note: Note = {
  id: 'n',
  author,
  madeAt: '2026-01-05T10:00:00.000Z',
  revision: 1,
  first: 25,
  last: 25,
  on: { is: 'channel', path: 'ball.move.y' },
  text: 'Lower, and earlier.',
  state: 'open',
  answers: [],
};
const suggestion = (shot: Shot, better: Shot): Suggestion => ({
  id: 'b',
  author,
  madeAt: '2026-01-05T10:05:00.000Z',
  name: 'Lower',
  note: 'n',
  ...suggestionBetween(shot, better),
});

describe('two states of a shot compared', () => {
  test('tell by member and channel where they differ most, and on which frames', () => {
    const before = ball();
    const { members, others } = compareShots(before, moved(before, 0));
    expect(members.map((m) => [m.name, m.is])).toEqual([['Float', 'changed']]);
    expect(members[0].channels).toEqual([
      expect.objectContaining({ path: 'ball.move.y', frame: 25, before: 1.5, after: 1, keysBefore: 4, keysAfter: 4 }),
    ]);
    expect(members[0].channels[0].first).toBeGreaterThanOrEqual(14);
    expect(members[0].channels[0].last).toBeLessThanOrEqual(36);
    expect(others).toEqual([]);
  });

  test('tell who came, who went, and what else is another', () => {
    const before = ball();
    const box = edit.addMember.apply(before, {
      member: edit.newMember(before, { kind: 'box', id: 'box', name: 'Crate' }),
    });
    expect(compareShots(before, box).members.map((m) => [m.name, m.is])).toEqual([['Crate', 'came']]);
    expect(compareShots(box, before).members.map((m) => [m.name, m.is])).toEqual([['Crate', 'went']]);
    const range = edit.setRange.apply(before, { range: { first: 1, last: 50 } });
    expect(compareShots(before, range).others).toEqual(['range', 'play']);
    const noted = edit.putNote.apply(before, { note });
    expect(compareShots(before, noted)).toEqual({ members: [], others: [] });
  });

  test('that say the same are the same, however they came to it', () => {
    const shot = ball();
    const again = JSON.parse(JSON.stringify({ ...shot, rigs: undefined }));
    const read = { ...shot, curves: shot.curves.map((c) => JSON.parse(JSON.stringify(c))) };
    expect(again.members.ball.name).toBe('Float');
    expect(compareShots(shot, read)).toEqual({ members: [], others: [] });
  });
});

describe('a suggestion', () => {
  test('is what the reviewer did, and shown it changes nothing', () => {
    const shot = ball();
    const better = moved(shot);
    const shown = suggested(shot, suggestion(shot, better));
    expect(y(shown)).toEqual(y(better));
    expect(y(shot)).toEqual(y(ball()));
  });

  test('is taken in one step, which sets its note done, and can be taken back', () => {
    const shot = edit.putNote.apply(ball(), { note });
    const better = moved(shot);
    const with1 = edit.putSuggestion.apply(shot, { suggestion: suggestion(shot, better) });
    const done = edit.perform(with1, edit.takeSuggestion, { id: 'b' })!;
    expect(y(done.shot)).toEqual(y(better));
    expect([done.shot.notes.at('n').state, done.shot.suggestions.size]).toEqual(['done', 0]);
    const back = edit.applyEdit(done.shot, edit.inverseOf(done.edit, 'undo'));
    expect([y(back), back.notes.at('n').state, back.suggestions.size]).toEqual([y(shot), 'open', 1]);
  });

  test('goes on where the shot has changed elsewhere meanwhile', () => {
    const shot = ball();
    const fix = suggestion(shot, moved(shot));
    const later = edit.changeChannels.apply(shot, { frame: 10, values: { 'ball.move.x': 3 }, autoKey: 'every' });
    const shown = suggested(later, fix);
    expect(shown.curves.has('ball.move.x')).toBe(true);
    expect(y(shown)).toEqual(y(moved(shot)));
  });

  test('for somebody who has gone is refused with a sentence, and left in peace', () => {
    const shot = edit.putSuggestion.apply(ball(), { suggestion: suggestion(ball(), moved(ball())) });
    const gone = edit.removeMembers.apply(shot, { ids: ['ball'] });
    expect(() => edit.takeSuggestion.apply(gone, { id: 'b' })).toThrow(/not in the cast any more/);
    expect(edit.removeSuggestions.apply(gone, { ids: ['b'] }).suggestions.size).toBe(0);
  });
});

describe('what a version had', () => {
  test('comes back wholly, as one edit, and notes that were made since stay', () => {
    fc.assert(
      fc.property(castWithRigs, upToChanges(8), (start, changes) => {
        const now = changes.reduce((shot, change) => change(shot)?.shot ?? shot, start);
        const noted = edit.putNote.apply(now, { note });
        const done = edit.perform(noted, edit.bringBack, {
          version: start,
          name: 'Start',
          members: null,
          frames: null,
        });
        const { members, others } = compareShots(start, done?.shot ?? noted);
        // It keeps the name it has now.
        expect([members, others.filter((o) => o !== 'name')]).toEqual([[], []]);
        expect((done?.shot ?? noted).notes.has('n')).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  test('comes back for a member alone, and for frames alone', () => {
    const version = ball();
    const other = edit.changeChannels.apply(moved(version), {
      frame: 5,
      values: { 'ball.move.x': 1 },
      autoKey: 'every',
    });
    const whole = edit.bringBack.apply(other, { version, name: 'V', members: ['ball'], frames: null });
    expect(y(whole)).toEqual(y(version));
    expect(whole.curves.has('ball.move.x')).toBe(false);
    const part = edit.bringBack.apply(other, { version, name: 'V', members: null, frames: { first: 1, last: 20 } });
    for (const frame of [1, 7.5, 13, 20]) expect(valueAt(y(part), frame)).toBeCloseTo(valueAt(y(version), frame), 9);
    for (const frame of [21, 28, 33, 37]) expect(valueAt(y(part), frame)).toBeCloseTo(valueAt(y(other), frame), 9);
  });
});
