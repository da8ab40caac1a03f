import { newId, putSuggestion } from '@varrup/core';
import { Lightbulb } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { compareWith } from './compare.ts';
import { me, momentNowText, useNotes } from './notes.ts';

/** While a fix is shown and not made: what is done on the desk is the fix. It is kept as a suggestion, or left. */
export function FixBar() {
  const fixing = useShot((s) => s.fixing);
  const [name, setName] = useState('');
  if (!fixing) return null;
  const end = (keep: boolean) => {
    const { endFix, run } = useShot.getState();
    const fix = endFix();
    if (!keep || !fix) return;
    if (Object.keys(fix.curves).length + Object.keys(fix.values).length === 0) {
      toast('Nothing moves otherwise: there is nothing to suggest.');
      return;
    }
    const id = newId();
    const { picked } = useNotes.getState();
    const note = picked && useShot.getState().shot?.notes.has(picked) ? picked : null;
    const suggestion = { id, author: me(), madeAt: momentNowText(), name: name.trim() || 'A fix', note, ...fix };
    run(putSuggestion, { suggestion });
    setName('');
    void compareWith({ is: 'suggestion', id });
  };
  return (
    <section
      aria-label="A fix, shown and not made"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t-2 border-dashed border-ochre bg-ochre-wash px-3 py-1.5 text-sm"
    >
      <Lightbulb size={15} className="shrink-0 text-ochre-ink" aria-hidden />
      <p className="min-w-40 grow basis-0" role="status">
        <b className="font-semibold">You are showing a fix.</b> Whatever you do is seen and not made, until the animator
        takes it.
      </p>
      <input
        aria-label="What the fix is"
        placeholder="what it is"
        value={name}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
        className="h-7 w-44 rounded-md border border-rule bg-paper px-2"
      />
      <Button look="solid" className="h-7!" onClick={() => end(true)}>
        suggest it
      </Button>
      <Button look="pill" onClick={() => end(false)}>
        leave
      </Button>
    </section>
  );
}
