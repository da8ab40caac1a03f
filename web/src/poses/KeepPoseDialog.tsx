import { useQueryClient } from '@tanstack/react-query';
import { poseAt } from '@varrup/core';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { posing } from '../commands/posing.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { poseBookKey, tagsOf } from './PosesPanel.tsx';

/** Keeps the pose of now in the rig's book: of the whole rig, or of the picked controls alone. */
export function KeepPoseDialog() {
  const open = useQuestion((q) => q.open === 'keep-pose');
  const ask = useQuestion((q) => q.ask);
  const queries = useQueryClient();
  const [name, setName] = useState('');
  const [tags, setTags] = useState('');
  const [part, setPart] = useState(false);
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const p = open ? posing() : null;
  if (!p) return null;
  const close = () => {
    ask(null);
    setName('');
    setTags('');
    setFailure(null);
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (name.trim() === '') return;
    setBusy(true);
    const only = part ? p.only : undefined;
    const values = poseAt(p.shot, p.id, usePlayhead.getState().frame, only);
    try {
      await api.addPose(p.rig.id, { name: name.trim(), tags: tagsOf(tags), values });
      await queries.invalidateQueries({ queryKey: poseBookKey(p.rig.id) });
      toast(`“${name.trim()}” is in the pose book of ${p.rig.name}.`);
      usePlaces.setState({ side: 'poses' });
      close();
    } catch (error) {
      setFailure(`It could not be kept. ${(error as Error).message}`);
    } finally {
      setBusy(false);
    }
  };
  const field = 'h-8 w-full rounded-md border border-rule bg-paper px-2';
  return (
    <Dialog
      open
      onClose={close}
      title={`Keep this pose of ${p.rig.name}`}
      about="It goes with the rig: every shot that links it has it."
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <label>
          <span className="text-graphite">Name</span>
          <input
            autoFocus
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
            className={field}
          />
        </label>
        <label>
          <span className="text-graphite">Tags, with commas between</span>
          <input value={tags} maxLength={200} onChange={(event) => setTags(event.target.value)} className={field} />
        </label>
        {p.only ? (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={part}
              onChange={(event) => setPart(event.target.checked)}
              className="accent-blue"
            />
            only the {p.only.size === 1 ? 'picked control' : `${p.only.size} picked controls`}
          </label>
        ) : null}
        {failure ? <p role="alert">{failure}</p> : null}
        <div className="flex justify-end">
          <Button look="solid" type="submit" disabled={busy || name.trim() === ''}>
            keep it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
