import { changeNote, type Note, type Shot } from '@varrup/core';
import type { KeyboardEvent } from 'react';
import { goToNote, stateLook, useNotes } from '../review/notes.ts';
import { notesOf } from '../review/notes-of.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { useFrameDrag } from './use-frame-drag.ts';
import { useTimeScale } from './use-time-scale.ts';

/** What reviewers have said, on its frames over the sheet. */
export function NoteRow({ shot }: { shot: Shot }) {
  const { setBox, x, perFrame, width } = useTimeScale();
  if (shot.notes.size === 0) return null;
  const notes = notesOf(shot);
  const open = notes.filter((n) => n.state === 'open').length;
  return (
    <section aria-label="Notes on frames" className="flex h-6 shrink-0 border-b border-rule bg-card">
      <span className="w-64 shrink-0 border-r border-rule px-3 text-graphite">
        notes <span className="tabular">{open} open</span>
      </span>
      <div ref={setBox} className="relative min-w-0 grow overflow-hidden">
        {notes.map((note, i) => {
          const [left, right] = [x(note.first - 0.5), x(note.last + 0.5)];
          return right < 0 || left > width ? null : (
            <One key={note.id} note={note} number={i + 1} left={left} wide={right - left} perFrame={perFrame} />
          );
        })}
      </div>
    </section>
  );
}

function One({
  note,
  number,
  left,
  wide,
  perFrame,
}: {
  note: Note;
  number: number;
  left: number;
  wide: number;
  perFrame: number;
}) {
  const preview = usePreview('note');
  const picked = useNotes((n) => n.picked === note.id);
  const moved = (first: number) => ({ first, last: note.last + first - note.first });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!by) return;
    useShot.getState().run(changeNote, { id: note.id, change: moved(note.first + by) });
    event.preventDefault();
    event.stopPropagation();
  };
  const hands = useFrameDrag({
    from: note.first,
    perFrame,
    onDrag: (frame) => preview.show(changeNote, { id: note.id, change: moved(Math.round(frame)) }),
    onKeep: () => preview.keep(),
    onDrop: () => preview.drop(),
    onPress: () => goToNote(note),
  });
  return (
    <button
      type="button"
      aria-label={`Note ${number} at ${note.first}: ${note.text || 'drawn'}. Arrows move it, Enter goes there.`}
      title={note.text || 'a drawing'}
      aria-pressed={picked}
      data-takes="ArrowLeft ArrowRight"
      className={`absolute top-0.5 h-5 touch-none overflow-hidden rounded border text-center text-xs font-semibold outline-none focus-visible:ring-2 focus-visible:ring-blue ${stateLook[note.state]} ${picked ? 'ring-2 ring-blue' : ''}`}
      style={{ left, width: Math.max(18, wide) }}
      onKeyDown={onKeyDown}
      onClick={(event) => event.detail === 0 && goToNote(note)}
      {...hands}
    >
      {number}
    </button>
  );
}
