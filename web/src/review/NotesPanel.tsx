import {
  answerNote,
  changeNote,
  type Note,
  type NoteState,
  removeNotes,
  removeSuggestions,
  type Shot,
  type Suggestion,
  takeSuggestion,
} from '@varrup/core';
import { formatDistanceToNow } from 'date-fns';
import { Check, CircleSlash, Eye, Lightbulb, MessageSquarePlus, Pencil, RotateCcw, Trash2 } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Words } from '../ui/Words.tsx';
import { useHabits } from '../view/habits.ts';
import { compareWith, useCompare } from './compare.ts';
import { keepMilestone } from './milestones.ts';
import { goToNote, me, momentNowText, stateLook, subjectWords, useNotes } from './notes.ts';
import { notesOf } from './notes-of.ts';
import { takeTyped } from './typed-ahead.ts';

/** What reviewers have said: each note with its frame, whom or what it is on, how it is with it, and what was answered. */
export function NotesPanel({ shot }: { shot: Shot }) {
  const { listed, picked } = useNotes();
  const all = notesOf(shot);
  const open = all.filter((n) => n.state === 'open').length;
  const shown = listed === 'all' ? all : all.filter((n) => n.state === 'open' || n.id === picked);
  return (
    <div className="flex min-h-0 grow flex-col">
      <div className="px-4 pt-1.5">
        <h2 className="font-semibold">
          Notes{' '}
          <span className="tabular font-normal text-graphite">
            {open} open of {all.length}
          </span>
        </h2>
        <div className="mt-1 flex flex-wrap items-center gap-1">
          <Act id="note.here" sign={<MessageSquarePlus size={14} />} word="note" />
          <Act id="note.draw" sign={<Pencil size={14} />} word="draw" />
          <Act id="suggestion.begin" sign={<Lightbulb size={14} />} word="show a fix" />
          <Button
            look="pill"
            aria-pressed={listed === 'all'}
            onClick={() => useNotes.setState({ listed: listed === 'all' ? 'open' : 'all' })}
          >
            all
          </Button>
        </div>
        <MyName />
      </div>
      <ul aria-label="Notes" className="min-h-0 grow overflow-y-auto px-3 pb-3">
        {shown.map((note) => (
          <One key={note.id} shot={shot} note={note} number={numberOf(shot, note)} picked={picked === note.id} />
        ))}
        {shown.length === 0 ? (
          <li className="px-1 py-3 text-graphite">
            {all.length === 0
              ? 'Nothing has been said yet. Point at what is wrong: a frame, a body, a curve.'
              : 'Nothing is open.'}
          </li>
        ) : null}
        <Suggestions shot={shot} />
      </ul>
    </div>
  );
}

/** Notes on the stage and on curves are counted among all: their numbers stand there as well. */
const numberOf = (shot: Shot, note: Note): number => {
  const alike = notesOf(shot).filter((n) => (note.on.is === 'stage' ? n.on.is === 'stage' : true));
  return alike.indexOf(note) + 1;
};

function Act({ id, sign, word }: { id: string; sign: ReactNode; word: string }) {
  return (
    <Hint text={commandOf(id).label} keys={shortcutOf(id)}>
      <Button look="pill" disabled={commandOf(id).enabled?.() === false} onClick={() => commandOf(id).run()}>
        <span className="flex items-center gap-1.5">
          {sign} {word}
        </span>
      </Button>
    </Hint>
  );
}

/** What one is called in what one writes. */
function MyName() {
  const name = useHabits((h) => h.name);
  const set = useHabits((h) => h.set);
  return (
    <div className="mt-1 flex items-center gap-2 text-sm text-graphite">
      <span className="shrink-0">you are</span>
      <Words
        label="What you are called in notes"
        value={name}
        most={80}
        placeholder={me().name}
        className="h-7 grow"
        onChange={(next) => set({ name: next.trim() })}
      />
    </div>
  );
}

const states: readonly (readonly [NoteState, string, ReactNode])[] = [
  ['open', 'open again', <RotateCcw key="open" size={13} />],
  ['done', 'done', <Check key="done" size={13} />],
  ['dropped', 'not to be done', <CircleSlash key="dropped" size={13} />],
];

function One({ shot, note, number, picked }: { shot: Shot; note: Note; number: number; picked: boolean }) {
  const { run } = useShot.getState();
  const item = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (!picked) return;
    item.current?.scrollIntoView({ block: 'nearest' });
    if (useNotes.getState().begun !== note.id) return;
    useNotes.setState({ begun: null });
    const field = item.current?.querySelector('textarea');
    if (field) takeTyped(field);
  }, [picked, note.id]);
  const span = note.first === note.last ? String(note.first) : `${note.first}–${note.last}`;
  const when = formatDistanceToNow(new Date(note.madeAt), { addSuffix: true });
  return (
    <li
      ref={item}
      aria-current={picked}
      className={`mt-1.5 rounded-lg border p-2 ${picked ? 'border-blue bg-blue-wash/40' : 'border-rule'}`}
    >
      <button type="button" onClick={() => goToNote(note)} className="flex w-full items-start gap-2 text-left">
        <span
          className={`grid size-5 shrink-0 place-items-center rounded-full rounded-bl-none border-2 text-xs font-semibold ${stateLook[note.state]}`}
        >
          {number}
        </span>
        <span className="min-w-0 grow">
          <span className="tabular block text-sm text-graphite">
            {span} · {subjectWords(note, shot)}
          </span>
          {picked ? null : <span className="line-clamp-2 block">{note.text || '(drawn)'}</span>}
        </span>
      </button>
      {picked ? (
        <div className="mt-1.5 flex flex-col gap-1.5">
          <Words
            label="What the note says"
            value={note.text}
            most={4_000}
            lines={3}
            placeholder="What is wrong, and why"
            onChange={(text) => run(changeNote, { id: note.id, change: { text } })}
          />
          <span className="flex items-center gap-1 text-sm text-graphite">
            <span className="w-16">
              <NumberField
                label="First frame of the note"
                value={note.first}
                step={1}
                digits={0}
                whole
                min={-100_000}
                max={note.last}
                onChange={(first) => run(changeNote, { id: note.id, change: { first } })}
              />
            </span>
            to
            <span className="w-16">
              <NumberField
                label="Last frame of the note"
                value={note.last}
                step={1}
                digits={0}
                whole
                min={note.first}
                max={1_000_000}
                onChange={(last) => run(changeNote, { id: note.id, change: { last } })}
              />
            </span>
            {note.on.is === 'stage' || note.on.is === 'curve' ? (
              <Button
                look="pill"
                onClick={() => {
                  goToNote(note);
                  useNotes.setState({ drawing: true });
                }}
              >
                draw
              </Button>
            ) : null}
          </span>
          {note.answers.map((answer) => (
            <p key={`${answer.madeAt} ${answer.author.id}`} className="border-l-2 border-rule pl-2 text-sm">
              <span className="text-graphite">{answer.author.name}: </span>
              <span className="whitespace-pre-line">{answer.text}</span>
            </p>
          ))}
          <Answer note={note} />
          <span className="flex flex-wrap items-center gap-1">
            {states
              .filter(([state]) => state !== note.state)
              .map(([state, word, sign]) => (
                <Button
                  key={state}
                  look="pill"
                  className="h-6! text-sm"
                  onClick={() => run(changeNote, { id: note.id, change: { state } })}
                >
                  <span className="flex items-center gap-1">
                    {sign} {word}
                  </span>
                </Button>
              ))}
            <Button look="icon" aria-label="Take the note away" onClick={() => run(removeNotes, { ids: [note.id] })}>
              <Trash2 size={13} />
            </Button>
          </span>
        </div>
      ) : null}
      <p className="mt-1 text-xs text-graphite">
        {note.author.name}, {when}, on edit {note.revision}
        {note.answers.length > 0 && !picked ? ` · ${note.answers.length} answers` : ''}
      </p>
    </li>
  );
}

function Answer({ note }: { note: Note }) {
  const [text, setText] = useState('');
  const say = () => {
    if (text.trim() === '') return;
    const answer = { author: me(), madeAt: momentNowText(), text: text.trim() };
    useShot.getState().run(answerNote, { id: note.id, answer });
    setText('');
  };
  return (
    <form
      className="flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        say();
      }}
    >
      <input
        aria-label="Answer the note"
        placeholder="answer"
        value={text}
        maxLength={4_000}
        onChange={(event) => setText(event.target.value)}
        className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-2"
      />
      <Button look="pill" type="submit" disabled={text.trim() === ''}>
        say
      </Button>
    </form>
  );
}

/** Fixes that are shown and not made: each is looked at over the shot, and taken or left. */
function Suggestions({ shot }: { shot: Shot }) {
  const shown = useCompare((c) => (c.with?.is === 'suggestion' ? c.with.id : null));
  const { run } = useShot.getState();
  if (shot.suggestions.size === 0) return null;
  return (
    <li className="mt-3">
      <h3 className="text-sm text-graphite">suggestions</h3>
      <ul aria-label="Suggestions">
        {shot.suggestions.values().map((suggestion) => {
          const channels = Object.keys(suggestion.curves).length + Object.keys(suggestion.values).length;
          return (
            <li
              key={suggestion.id}
              className="mt-1 rounded-lg border-2 border-dashed border-ochre bg-ochre-wash/50 p-2"
            >
              <p className="font-medium">{suggestion.name}</p>
              <p className="text-xs text-graphite">
                {suggestion.author.name} · {channels} {channels === 1 ? 'channel' : 'channels'}
              </p>
              <span className="mt-1 flex gap-1">
                <Button
                  look="pill"
                  aria-pressed={shown === suggestion.id}
                  onClick={() =>
                    void compareWith(shown === suggestion.id ? null : { is: 'suggestion', id: suggestion.id })
                  }
                >
                  <span className="flex items-center gap-1.5">
                    <Eye size={13} /> see it
                  </span>
                </Button>
                <Button look="solid" className="h-7!" onClick={() => void taken(suggestion)}>
                  take
                </Button>
                <Button look="pill" onClick={() => run(removeSuggestions, { ids: [suggestion.id] })}>
                  leave
                </Button>
              </span>
            </li>
          );
        })}
      </ul>
    </li>
  );
}

/** Takes a suggestion; what was there stays to be had as a version. */
async function taken({ id, name }: Suggestion): Promise<void> {
  await keepMilestone(`before ${name} was taken`);
  useShot.getState().run(takeSuggestion, { id });
}
