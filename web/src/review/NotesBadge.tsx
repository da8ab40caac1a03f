import { useShot } from '../shot/shot-store.ts';

/** How many notes are open. */
export function NotesBadge() {
  const open = useShot((s) => s.shot?.notes.values().filter((n) => n.state === 'open').length ?? 0);
  if (open === 0) return null;
  return (
    <span className="tabular absolute top-1 right-1.5 grid h-4 min-w-4 place-items-center rounded-full bg-blue px-1 text-xs text-on-solid">
      {open}
      <span className="sr-only"> open</span>
    </span>
  );
}
