import {
  addSounds,
  beatFrames,
  bounceTables,
  bouncingPaths,
  newId,
  type PlacedSound,
  removeSounds,
  type Shot,
  type SoundName,
  soundNames,
  splitPath,
} from '@varrup/core';
import { toast } from 'sonner';
import { player } from '../sound/player.ts';
import { useHabits } from '../view/habits.ts';
import { useSelection } from '../view/selection.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasKeys, run, shotNow, withShot } from './now.ts';
import { retime } from './retiming.ts';

/** Sounds at frames. */

/** Places a sound on the current frame, and lets it be heard. */
export function placeSound(sound: SoundName): void {
  const name = sound.charAt(0).toUpperCase() + sound.slice(1);
  run(addSounds, { sounds: [{ id: newId(), name, sound, frame: Math.round(frameNow()), gain: 1 }] });
  if (!useHabits.getState().muted) player.hear({ sound, gain: 1 });
}

/** Channels up and down the stage that bounce: of what is picked, or of everybody where nobody is. */
function falling(shot: Shot): string[] {
  const { picked: selection } = useSelection.getState();
  const members = selection.length > 0 ? selection : shot.members.keys();
  return bouncingPaths(shot, members).filter((path) => splitPath(path).channel === 'move.y');
}

const hasBeats = () => {
  const shot = shotNow();
  return shot !== null && beatFrames(shot).length > 0;
};

/** A knock at each landing, as loud as it is hard. */
function atLandings(shot: Shot): void {
  const rows = bounceTables(shot, falling(shot))
    .flatMap((bounce) => bounce.rows)
    .filter((row) => row.gap !== null && Math.abs(row.gap) < 0.02);
  if (rows.length === 0) {
    toast('It bounces, but nowhere on anything: its landings lie above the ground or in it.');
    return;
  }
  const hardest = Math.max(...rows.map((r) => r.contact.fall.height));
  const sounds = rows.map(
    (row, i): PlacedSound => ({
      id: newId(),
      name: `Landing ${i + 1}`,
      sound: 'knock',
      frame: Math.round(row.contact.frame),
      gain: Math.round(100 * Math.sqrt(row.contact.fall.height / hardest)) / 100,
    }),
  );
  run(addSounds, { sounds });
}

export const soundCommands: AppCommand[] = [
  ...soundNames.map(
    (sound): AppCommand => ({
      id: `sound.${sound}`,
      label: `Place a ${sound} on this frame`,
      group: 'Sounds',
      run: () => placeSound(sound),
    }),
  ),
  {
    id: 'sound.landings',
    label: 'Place a knock at each landing of what is picked, or of everybody',
    group: 'Sounds',
    run: withShot(atLandings),
    enabled: () => {
      const shot = shotNow();
      return shot !== null && falling(shot).length > 0;
    },
  },
  {
    id: 'sound.clear',
    label: 'Take the sounds on this frame away',
    group: 'Sounds',
    run: withShot((shot) => {
      const here = shot.sounds.values().filter((s) => Math.abs(s.frame - frameNow()) < 0.5);
      if (here.length > 0) run(removeSounds, { ids: here.map((s) => s.id) });
      else toast('No sound begins on this frame.');
    }),
    enabled: () => (shotNow()?.sounds.size ?? 0) > 0,
  },
  {
    id: 'sound.ontoBeats',
    label: 'Draw keys that are dragged onto beats, or not',
    group: 'Sounds',
    run: () => useHabits.getState().set({ ontoBeats: !useHabits.getState().ontoBeats }),
    enabled: hasBeats,
  },
  {
    id: 'sound.toBeats',
    label: 'Bring the picked keys onto the nearest beats',
    group: 'Sounds',
    run: withShot((shot) => retime({ kind: 'onto', frames: beatFrames(shot) })),
    enabled: () => hasBeats() && hasKeys(),
  },
  {
    id: 'sound.mute',
    label: 'Hear the sounds, or not',
    group: 'Sounds',
    shortcut: 'Alt+Shift+M',
    run: () => useHabits.getState().set({ muted: !useHabits.getState().muted }),
  },
];
