import type { Build } from '@varrup/core';
import { type FormEvent, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useBuilding } from './build-store.ts';

const LONGEST = 2_000;

/** Asks what is new in a version before it is kept. */
export function KeepDialog({
  build,
  version,
  onKeep,
  onClose,
}: {
  build: Build;
  version: number;
  onKeep: (changes: string) => void;
  onClose: () => void;
}) {
  const [changes, setChanges] = useState('');
  const keeping = useBuilding((b) => b.keeping);
  const text = changes.trim();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text !== '' && text.length <= LONGEST) onKeep(text);
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Keep ${build.name} as version ${version}`}
      about="A version never changes. Shots that link an older one go on doing so until they take this one."
    >
      <form onSubmit={submit}>
        <label className="block text-graphite">
          what is new in it
          <textarea
            autoFocus
            rows={3}
            value={changes}
            onChange={(event) => setChanges(event.target.value)}
            className="mt-1 block w-full rounded-md border border-rule bg-paper px-3 py-2 text-ink"
          />
        </label>
        <div className="mt-4 flex items-center justify-end gap-3">
          <span role="status" className="text-sm text-graphite">
            {keeping ? 'Keeping it…' : text.length > LONGEST ? `Keep it to ${LONGEST} characters.` : ''}
          </span>
          <Button look="solid" type="submit" disabled={text === '' || text.length > LONGEST || keeping}>
            keep
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
