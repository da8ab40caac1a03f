import type { VersionSummary } from '@varrup/core';
import { format } from 'date-fns';
import { Trash2 } from 'lucide-react';
import { type FormEvent, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { type AsItWas, useCurveView } from '../view/curve-view.ts';
import { usePlaces } from '../view/places.ts';
import { useQuestion } from '../view/questions.ts';
import { useShot } from './shot-store.ts';

/** Named versions of the shot: keep one, and draw the curves as they were in one behind those of now. */
export function VersionDialog() {
  const open = useQuestion((q) => q.open === 'version');
  const shot = useShot((s) => s.shot?.id);
  return open && shot ? <Versions shot={shot} onClose={() => useQuestion.getState().ask(null)} /> : null;
}

function Versions({ shot, onClose }: { shot: string; onClose: () => void }) {
  const saved = useShot((s) => s.saving.kind === 'saved');
  const asItWas = useCurveView((s) => s.asItWas);
  const [versions, setVersions] = useState<VersionSummary[] | null>(null);
  const [failure, setFailure] = useState('');
  const [name, setName] = useState('');
  const load = () =>
    api
      .versions(shot)
      .then(setVersions)
      .catch((error: Error) => setFailure(`The versions could not be read. ${error.message}`));
  // biome-ignore lint/correctness/useExhaustiveDependencies: read once when the card opens
  useEffect(() => void load(), [shot]);
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await api.keepVersion(shot, name.trim());
      setName('');
      await load();
    } catch (error) {
      toast.error(`The version could not be kept. ${(error as Error).message}`);
    }
  };
  const compare = (next: AsItWas | null) => {
    useCurveView.setState({ asItWas: next });
    usePlaces.setState({ tab: 'curves' });
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title="Versions" about="A version is the whole shot as it is now, under a name.">
      <form onSubmit={keep} className="flex gap-2">
        <input
          aria-label="Name of the version"
          placeholder="before the last bounce went"
          value={name}
          maxLength={80}
          onChange={(event) => setName(event.target.value)}
          className="h-8 min-w-0 grow rounded-md border border-rule bg-paper px-2"
        />
        <Button look="solid" type="submit" disabled={name.trim() === '' || !saved}>
          keep
        </Button>
      </form>
      <h3 className="mt-4 mb-1 text-sm text-graphite">draw the curves behind as they were</h3>
      <ul className="max-h-72 overflow-y-auto">
        <Row
          word="when the shot was opened"
          on={asItWas?.from === 'opened'}
          onPick={() => compare({ from: 'opened' })}
        />
        {versions?.map((v) => (
          <Row
            key={v.id}
            word={v.name}
            about={format(new Date(v.keptAt), 'd MMM, HH:mm')}
            on={asItWas?.from === 'version' && asItWas.id === v.id}
            onPick={() => compare({ from: 'version', id: v.id, name: v.name })}
            onRemove={async () => {
              await api.removeVersion(shot, v.id).catch((error: Error) => toast.error(error.message));
              await load();
            }}
          />
        ))}
      </ul>
      <p className="mt-1 min-h-5 text-sm text-vermilion-ink" role="status">
        {failure}
      </p>
      <Button look="pill" disabled={asItWas === null} onClick={() => compare(null)}>
        draw none
      </Button>
    </Dialog>
  );
}

function Row(props: { word: string; about?: string; on: boolean; onPick: () => void; onRemove?: () => void }) {
  return (
    <li className="flex items-center">
      <Button
        className="flex min-w-0 grow items-baseline gap-2 text-left"
        aria-pressed={props.on}
        onClick={props.onPick}
      >
        <span className="truncate">{props.word}</span>
        <span className="tabular text-sm text-graphite">{props.about}</span>
      </Button>
      {props.onRemove ? (
        <Button look="icon" aria-label={`Delete the version ${props.word}`} onClick={props.onRemove}>
          <Trash2 size={14} />
        </Button>
      ) : null}
    </li>
  );
}
