import { type Author, type Note, type NoteSubject, newId, putNote, type Shot, splitPath } from '@varrup/core';
import { create } from 'zustand';
import { callSign } from '../shot/call-sign.ts';
import { person } from '../shot/person.ts';
import { useShot } from '../shot/shot-store.ts';
import { useHabits } from '../view/habits.ts';
import { usePlayhead } from '../view/playhead.ts';
import { pickChannels, select, useSelection } from '../view/selection.ts';
import { stageRef } from '../view/stage-ref.ts';

/** Notes as they are looked at: which is picked, whether one draws for it, and which are listed. */
export interface NotesView {
  readonly picked: string | null;
  readonly drawing: boolean;
  /** One that was just begun: the hand goes into its words as soon as they are there. */
  readonly begun: string | null;
  readonly listed: 'open' | 'all';
}

export const useNotes = create<NotesView>(() => ({ picked: null, drawing: false, begun: null, listed: 'open' }));

/** Who writes here. */
export const me = (): Author => {
  const id = person();
  return { id, name: useHabits.getState().name.trim() || callSign(id) };
};

export const momentNowText = (): string => new Date().toISOString();

/** What a note made now is on: the picked channel, else what the stage shows. @param pin what it is pinned to there */
export function subjectNow(pin: { member: string; at: [number, number, number] } | null = null): NoteSubject {
  const { channels } = useSelection.getState();
  const [path] = channels;
  if (path && !pin) return { is: 'channel', path };
  const view = stageRef.current?.view;
  return view ? { is: 'stage', view, pin } : { is: 'sheet', member: null };
}

/** Makes a note at the current frame, and picks it. @returns its id */
export function makeNote(on: NoteSubject, text = '', drawing = false): string {
  const id = newId();
  const frame = Math.round(usePlayhead.getState().frame);
  const { run, revision } = useShot.getState();
  const note: Note = {
    id,
    author: me(),
    madeAt: momentNowText(),
    revision: revision(),
    first: frame,
    last: frame,
    on,
    text,
    state: 'open',
    answers: [],
  };
  run(putNote, { note });
  useNotes.setState({ picked: id, drawing });
  return id;
}

/** Goes to where a note is: its frame, the view it was made in, the channel it is on. */
export function goToNote(note: Note): void {
  useNotes.setState({ picked: note.id, drawing: false });
  usePlayhead.getState().go(note.first);
  const { on } = note;
  if (on.is === 'stage') stageRef.current?.lookAs(on.view);
  const path = on.is === 'curve' || on.is === 'channel' ? on.path : null;
  const member = path !== null ? splitPath(path).member : 'member' in on ? on.member : null;
  if (member !== null && useShot.getState().shot?.members.has(member)) select([member]);
  if (path !== null) pickChannels([path]);
}

/** What a note is on, in words. */
export function subjectWords({ on }: Note, shot: Shot): string {
  const named = (id: string) => shot.members.get(id)?.name ?? 'somebody gone';
  const channel = (path: string) => {
    const { member, channel: name } = splitPath(path);
    return `${named(member)} ${name.replace('.', ' ')}`;
  };
  switch (on.is) {
    case 'stage':
      return on.pin ? `on ${named(on.pin.member)}` : on.view.camera ? 'on the picture' : 'on the stage';
    case 'curve':
      return `on the curve ${channel(on.path)}`;
    case 'channel':
      return `on ${channel(on.path)}`;
    case 'sheet':
      return on.member ? `on ${named(on.member)} in the sheet` : 'on the shot';
    case 'finding':
      return `on the finding ${on.check}`;
  }
}

/** The next of things in the order of their frames: after the one given, else after the current frame; or the one before. Round at the ends. */
export function stepAmong<T extends { readonly first: number }>(
  list: readonly T[],
  by: 1 | -1,
  at: T | null,
): T | null {
  if (list.length === 0) return null;
  const here = at ? list.indexOf(at) : -1;
  const { frame } = usePlayhead.getState();
  // How many lie before the current frame, or on it.
  const before = list.filter((item) => item.first < frame).length;
  const next = here >= 0 ? here + by : by === 1 ? before : before - 1;
  return list[(next + list.length) % list.length];
}

/** How the sign of a note looks, by how it is with it. */
export const stateLook: Record<Note['state'], string> = {
  open: 'border-vermilion bg-card text-vermilion-ink',
  done: 'border-moss bg-moss-wash text-moss-ink',
  dropped: 'border-rule bg-well text-graphite line-through',
};
