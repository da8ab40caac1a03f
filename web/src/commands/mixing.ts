import { clipAtWork, keyAsTracks, layByClip, layDown, liftOut, newId, type Shot, tracksOf } from '@varrup/core';
import { toast } from 'sonner';
import { usePlayhead } from '../view/playhead.ts';
import type { AppCommand } from './command.ts';
import { pickedNow, run, shotNow } from './now.ts';
import { rigMeant } from './rig-meant.ts';

/** Clips on tracks, as a whole: heard, turned into keys, made of keys. */

/** How much laying down may move anything: half a millimetre, a tenth of a degree. */
const WITHIN = { metres: 5e-4, radians: Math.PI / 1800 };

const rigNow = () => {
  const shot = shotNow();
  return shot && rigMeant(shot, pickedNow());
};

/** The controls of a rig that are picked: of those alone tracks are laid down. None where the rig itself is. */
export const controlsPicked = (shot: Shot, rig: string, picked: readonly string[]): string[] =>
  picked.includes(rig) ? [] : picked.filter((id) => shot.members.get(id)?.parent === rig);

/** Turns what the tracks of a rig give into keys, and says into how many. */
export function layTracksDown(rig: string): void {
  const before = shotNow();
  const only = before ? controlsPicked(before, rig, pickedNow()) : [];
  run(layDown, { rig, within: WITHIN, ...(only.length > 0 ? { only } : {}) });
  const shot = shotNow();
  if (!shot || shot === before) return;
  const fresh = shot.curves.entries().filter(([path]) => !before?.curves.has(path));
  const keys = fresh.reduce((sum, [, curve]) => sum + curve.keys.length, 0);
  toast(
    `${keys} keys on ${fresh.length} channels. ${only.length > 0 ? 'The tracks go on.' : 'The tracks are silent.'}`,
  );
}

/** Makes a clip of the rig's own keys along the frames that play. */
export function liftClipOut(rig: string): void {
  const shot = shotNow();
  if (!shot) return;
  run(liftOut, { rig, id: newId(), name: 'Clip', from: shot.play.first, to: shot.play.last });
}

export const mixCommands: AppCommand[] = [
  {
    id: 'mix.layBy',
    label: 'Lay the clip at work by: the tracks of its rig play',
    group: 'Clips',
    run: () => {
      const [shot, rig] = [shotNow(), rigNow()];
      const clip = shot && rig ? clipAtWork(shot, rig) : null;
      if (clip) run(layByClip, { id: clip.id });
    },
    enabled: () => {
      const [shot, rig] = [shotNow(), rigNow()];
      return shot !== null && rig !== null && clipAtWork(shot, rig) !== null;
    },
  },
  {
    id: 'mix.layDown',
    label: 'Lay the tracks of the rig down as keys',
    group: 'Clips',
    run: () => {
      const rig = rigNow();
      if (rig) layTracksDown(rig);
    },
    enabled: () => {
      const [shot, rig] = [shotNow(), rigNow()];
      return shot !== null && rig !== null && tracksOf(shot, rig).length > 0;
    },
  },
  {
    id: 'mix.asTracks',
    label: 'Key it here as the tracks have it: a correction ends, or has not begun',
    group: 'Clips',
    shortcut: 'Alt+Shift+5',
    run: () => run(keyAsTracks, { ids: pickedNow(), frame: usePlayhead.getState().frame }),
    enabled: () => pickedNow().length > 0 && (shotNow()?.tracks.size ?? 0) > 0,
  },
  {
    id: 'mix.liftOut',
    label: 'Lift a clip out of the rig’s own keys, along the frames that play',
    group: 'Clips',
    run: () => {
      const rig = rigNow();
      if (rig) liftClipOut(rig);
    },
    enabled: () => rigNow() !== null,
  },
];
