import type { Present, Shot } from '@varrup/core';
import { callSign } from '../shot/call-sign.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';

/** How saving stands, always in sight. */
export function SaveNote() {
  const saving = useShot((s) => s.saving);
  const neighbours = useShot((s) => s.neighbours);
  const others = useShot((s) => s.others);
  const shot = useShot((s) => s.committed);
  const keepCopy = useShot((s) => s.keepCopy);
  return (
    <div
      className="flex items-center gap-2 text-sm"
      role="status"
      aria-live="polite"
      data-testid="save-state"
      data-state={saving.kind}
    >
      {neighbours > 0 ? (
        <span
          className="rounded-full bg-well px-2 py-0.5"
          title="Another window of this browser has this shot open. Edits there appear here."
        >
          open in {neighbours + 1} windows
        </span>
      ) : null}
      {others.length > 0 ? (
        <span
          className="max-w-64 truncate rounded-full bg-blue-wash px-2 py-0.5"
          title={others.map((o) => `${callSign(o.person)} is here as well. ${picksOf(shot, o)}`).join('\n')}
        >
          {others.map((o) => callSign(o.person) + picksInShort(shot, o)).join(', ')}
        </span>
      ) : null}
      {saving.kind === 'saved' ? (
        <Dot tone="bg-moss">{saving.at ? `saved ${saving.at.toTimeString().slice(0, 8)}` : 'saved'}</Dot>
      ) : null}
      {saving.kind === 'saving' ? <Dot tone="bg-graphite">saving…</Dot> : null}
      {saving.kind === 'joining' ? <Dot tone="bg-vermilion">changed by two: whose stays?</Dot> : null}
      {saving.kind === 'waiting' ? (
        <Dot tone="bg-graphite">
          {saving.for === 'room' ? 'no room on the server' : 'no server'}:{' '}
          {saving.edits === 1 ? 'an edit is' : `${saving.edits} edits are`} kept here and will be sent
        </Dot>
      ) : null}
      {saving.kind === 'refused' ? (
        <>
          <Dot tone="bg-vermilion">not saved: {saving.sentence}</Dot>
          <Button look="pill" className="h-6! text-sm" onClick={() => void keepCopy()}>
            keep as another shot
          </Button>
        </>
      ) : null}
    </div>
  );
}

const namesOf = (shot: Shot | null, { picked }: Present) => picked.flatMap((id) => shot?.members.get(id)?.name ?? []);

/** What somebody has picked, in the names of the cast. */
function picksOf(shot: Shot | null, other: Present): string {
  const names = namesOf(shot, other);
  return names.length > 0 ? `Picked there: ${names.join(', ')}` : 'Nothing is picked there';
}

function picksInShort(shot: Shot | null, other: Present): string {
  const names = namesOf(shot, other);
  if (names.length === 0) return '';
  return names.length === 1 ? `: ${names[0]}` : `: ${names[0]} + ${names.length - 1}`;
}

const Dot = ({ tone, children }: { tone: string; children: React.ReactNode }) => (
  <span className="flex items-center gap-1.5 text-graphite">
    <span className={`size-2 rounded-full ${tone}`} aria-hidden />
    {children}
  </span>
);
