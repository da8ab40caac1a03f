import { splitPath } from '../../document/channels.ts';
import type { Note, NoteState, Suggestion } from '../../document/note.ts';
import { suggested } from '../../review/suggested.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

/** What reviewers say, and the fixes they show. */

const short = (text: string) => (text.length > 40 ? `${text.slice(0, 39).trimEnd()}…` : text);
const stateWords: Record<NoteState, string> = { open: 'open', done: 'done', dropped: 'not to be done' };

/** Makes a note, or puts one in the place of another. */
export const putNote = defineCommand<{ note: Note }>({
  name: 'note.put',
  label: ({ note }) => `note at ${note.first}: ${short(note.text.split('\n')[0]) || 'drawn'}`,
  apply: (shot, { note }) => ({ ...shot, notes: shot.notes.with(note.id, note) }),
});

/** Changes what a note says, where it stands, or how it is with it. */
export const changeNote = defineCommand<{
  id: string;
  change: Partial<Pick<Note, 'text' | 'state' | 'first' | 'last' | 'on'>>;
}>({
  name: 'note.change',
  label: ({ change }) => (change.state ? `a note is ${stateWords[change.state]}` : 'change a note'),
  apply(shot, { id, change }) {
    const note = shot.notes.get(id);
    if (!note) return shot;
    const next = { ...note, ...change };
    if (next.first > next.last) throw new Refused('A note ends on its first frame or after it.');
    return { ...shot, notes: shot.notes.with(id, next) };
  },
});

/** Answers a note. */
export const answerNote = defineCommand<{ id: string; answer: Note['answers'][number] }>({
  name: 'note.answer',
  label: ({ answer }) => `answer a note: ${short(answer.text.split('\n')[0])}`,
  apply(shot, { id, answer }) {
    const note = shot.notes.get(id);
    if (!note) return shot;
    if (note.answers.length >= 200) throw new Refused('A note has 200 answers at most: make another note.');
    return { ...shot, notes: shot.notes.with(id, { ...note, answers: [...note.answers, answer] }) };
  },
});

/** Takes notes away, with what is drawn for them. Suggestions made for them stay, on their own. */
export const removeNotes = defineCommand<{ ids: readonly string[] }>({
  name: 'note.remove',
  label: ({ ids }) => (ids.length === 1 ? 'take a note away' : `take ${ids.length} notes away`),
  apply(shot, { ids }) {
    const gone = new Set(ids);
    if (!ids.some((id) => shot.notes.has(id))) return shot;
    const left = shot.suggestions.values().filter((s) => s.note !== null && gone.has(s.note));
    return {
      ...shot,
      notes: shot.notes.withoutAll([...ids]),
      strokes: shot.strokes.filter((s) => !gone.has(s.on)),
      suggestions: shot.suggestions.withAll(left.map((s) => [s.id, { ...s, note: null }])),
    };
  },
});

/** Shows a fix without making it. */
export const putSuggestion = defineCommand<{ suggestion: Suggestion }>({
  name: 'suggestion.put',
  label: ({ suggestion }) => `suggest: ${suggestion.name}`,
  apply: (shot, { suggestion }) => ({ ...shot, suggestions: shot.suggestions.with(suggestion.id, suggestion) }),
});

/** Takes a suggestion: its curves and values become the shot's, and its note is done. */
export const takeSuggestion = defineCommand<{ id: string }>({
  name: 'suggestion.take',
  label: ({ id }, shot) => `take the suggestion ${shot.suggestions.get(id)?.name ?? ''}`,
  apply(shot, { id }) {
    const suggestion = shot.suggestions.get(id);
    if (!suggestion) return shot;
    const missing = [...Object.keys(suggestion.curves), ...Object.keys(suggestion.values)].find(
      (path) => !shot.members.has(splitPath(path).member),
    );
    if (missing) throw new Refused('It moves somebody who is not in the cast any more.');
    const next = suggested(shot, suggestion);
    const note = suggestion.note === null ? undefined : next.notes.get(suggestion.note);
    return {
      ...next,
      suggestions: next.suggestions.without(id),
      notes: note ? next.notes.with(note.id, { ...note, state: 'done' }) : next.notes,
    };
  },
});

/** Leaves suggestions: they go, and nothing has been done. */
export const removeSuggestions = defineCommand<{ ids: readonly string[] }>({
  name: 'suggestion.leave',
  label: ({ ids }, shot) =>
    ids.length === 1
      ? `leave the suggestion ${shot.suggestions.get(ids[0])?.name ?? ''}`
      : `leave ${ids.length} suggestions`,
  apply: (shot, { ids }) => ({ ...shot, suggestions: shot.suggestions.withoutAll([...ids]) }),
});
