import { type Aside, channelPath, controlsOf, placeAside, poseChannels, type Shot } from '@varrup/core';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';

/** Chooses the channel that what was put aside is to go on as. */
export function PlaceAsideDialog({ shot, aside, onClose }: { shot: Shot; aside: Aside; onClose: () => void }) {
  const choices = controlsOf(shot, aside.rig).flatMap((control) =>
    poseChannels(control, shot.rigs)
      .filter((c) => !shot.curves.has(channelPath(control.id, c.id)))
      .map((c) => ({
        value: `${control.shape.control}.${c.id}`,
        words: `${control.name} · ${`${c.group} ${c.label}`.trim()}`,
      })),
  );
  const [chosen, setChosen] = useState(choices[0]?.value ?? '');
  const dot = chosen.indexOf('.');
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Bring back ${aside.name}`}
      about={`It was made for version ${aside.version}. Its numbers stay as they are.`}
    >
      <label className="flex items-center gap-2">
        onto
        <select
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
          className="h-7 min-w-0 grow rounded-md border border-rule bg-paper"
        >
          {choices.map(({ value, words }) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <div className="mt-4 flex justify-end">
        <Button
          look="solid"
          disabled={chosen === ''}
          onClick={() => {
            const args = { id: aside.id, control: chosen.slice(0, dot), channel: chosen.slice(dot + 1) };
            useShot.getState().run(placeAside, args);
            onClose();
          }}
        >
          bring back
        </Button>
      </div>
    </Dialog>
  );
}
