import { useEffect } from 'react';
import { api } from '../api/client.ts';
import { cardPicture } from '../pictures/pictures.ts';
import { useShot } from '../shot/shot-store.ts';
import { useHabits } from '../view/habits.ts';

const QUIET_MS = 4000;

/** Takes a new picture for the shot's card when saving has been quiet for a moment after an edit. */
export function useCardPicture(): void {
  const savedAt = useShot((s) => (s.saving.kind === 'saved' ? s.saving.at : null));
  useEffect(() => {
    if (!savedAt || useHabits.getState().sketch) return;
    const wait = setTimeout(async () => {
      const { committed } = useShot.getState();
      if (!committed) return;
      // Without a picture the card shows the last one; nothing is lost, so a failure here is not worth a word.
      await cardPicture(committed)
        .then((picture) => api.putPicture(committed.id, picture))
        .catch(() => undefined);
    }, QUIET_MS);
    return () => clearTimeout(wait);
  }, [savedAt]);
}
