import { type KeyboardEvent, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useHabits } from '../view/habits.ts';
import { useQuestion } from '../view/questions.ts';
import { type AppCommand, pressed } from './command.ts';
import { commands } from './list.ts';

/** All shortcuts on one sheet. Pressing one lets it be changed. */
export function ShortcutSheet() {
  const open = useQuestion((q) => q.open === 'shortcuts');
  const ask = useQuestion((q) => q.ask);
  const own = useHabits((h) => h.shortcuts);
  const setHabits = useHabits((h) => h.set);
  const [changing, setChanging] = useState<string | null>(null);
  const keys = (c: AppCommand) => own[c.id] ?? c.shortcut;
  const listed = commands.filter((c) => keys(c) !== undefined);

  const take = (command: AppCommand, event: KeyboardEvent) => {
    event.preventDefault();
    event.stopPropagation();
    if (['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return;
    const wanted = pressed(event.nativeEvent);
    const changed = { ...own, [command.id]: wanted };
    // A shortcut means one thing: whoever had it before goes without.
    for (const other of commands) if (other.id !== command.id && keys(other) === wanted) changed[other.id] = '';
    setHabits({ shortcuts: changed });
    setChanging(null);
  };

  return (
    <Dialog
      open={open}
      onClose={() => ask(null)}
      title="Shortcuts"
      about="Press one to change it: then press the new keys."
      wide
    >
      <div className="columns-2 gap-6 text-sm">
        {[...new Set(listed.map((c) => c.group))].map((group) => (
          <section key={group} className="mb-3 break-inside-avoid">
            <h3 className="mb-1 text-xs font-semibold text-graphite">{group}</h3>
            <ul>
              {listed
                .filter((c) => c.group === group)
                .map((c) => (
                  <li
                    key={c.id}
                    data-command={c.id}
                    data-keys={keys(c)}
                    className="flex items-center justify-between gap-2 py-px"
                  >
                    <span>{c.label}</span>
                    <button
                      type="button"
                      aria-label={`Change the shortcut of: ${c.label}`}
                      onClick={() => setChanging(c.id)}
                      onBlur={() => setChanging(null)}
                      onKeyDown={(event) => changing === c.id && take(c, event)}
                      className={`tabular min-w-12 shrink-0 rounded border px-1.5 ${changing === c.id ? 'border-blue bg-blue-wash' : 'border-rule bg-paper'}`}
                    >
                      {changing === c.id ? 'press…' : keys(c) || 'none'}
                    </button>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
      <section className="mt-2 border-t border-rule pt-2 text-sm text-graphite">
        On the stage: drag with the right button goes round, with the middle button along, the wheel nearer and further.
        In the sheet and the curves: Ctrl and wheel zooms time, Alt and wheel goes along it, Shift and wheel zooms
        values. While keys are dragged: Alt copies them, Ctrl leaves the whole frames, R replaces keys in the way, P
        pushes them along, S stops before them. The ribbon of what is picked slides its spacing; a bead on an arc slides
        along it.
      </section>
      <Button look="pill" className="mt-3" onClick={() => setHabits({ shortcuts: {} })}>
        all as they were
      </Button>
    </Dialog>
  );
}
