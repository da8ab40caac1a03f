import type { PlacedSound } from '../../document/sound.ts';
import { FRAMES } from '../../schema/numbers.ts';
import { defineCommand } from '../edit.ts';

/** Places sounds. */
export const addSounds = defineCommand<{ sounds: readonly PlacedSound[] }>({
  name: 'sound.add',
  label: ({ sounds }) =>
    sounds.length === 1 ? `place ${sounds[0].name} at ${sounds[0].frame}` : `place ${sounds.length} sounds`,
  apply: (shot, { sounds }) => ({
    ...shot,
    sounds: shot.sounds.withAll(sounds.map((s) => [s.id, s])),
  }),
});

/** Changes a placed sound: its frame, how loud it is, which it is, its name. */
export const changeSound = defineCommand<{ id: string; change: Partial<Omit<PlacedSound, 'id'>> }>({
  name: 'sound.change',
  label: ({ id }, shot) => `change the sound ${shot.sounds.get(id)?.name ?? id}`,
  apply(shot, { id, change }) {
    const sound = shot.sounds.get(id);
    if (!sound) return shot;
    const next = { ...sound, ...change };
    const frame = Math.min(Math.max(next.frame, FRAMES.first), FRAMES.last);
    return { ...shot, sounds: shot.sounds.with(id, { ...next, frame }) };
  },
});

export const removeSounds = defineCommand<{ ids: readonly string[] }>({
  name: 'sound.remove',
  label: ({ ids }, shot) =>
    ids.length === 1 ? `take the sound ${shot.sounds.get(ids[0])?.name ?? ''} away` : `take ${ids.length} sounds away`,
  apply: (shot, { ids }) => ({
    ...shot,
    sounds: shot.sounds.withoutAll(ids),
  }),
});
