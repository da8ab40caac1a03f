import { useShot } from '../shot/shot-store.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { useQuestion } from '../view/questions.ts';
import { Pictures } from './Pictures.tsx';

/** Makes a movie or pictures of the shot from any desk. */
export function MovieDialog() {
  const open = useQuestion((q) => q.open === 'movie');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.committed);
  if (!open || !shot) return null;
  const length = shot.play.last - shot.play.first + 1;
  const about = `${length} frames play, ${shot.play.first} to ${shot.play.last}, at ${shot.rate} a second: ${(length / shot.rate).toFixed(2)} s`;
  return (
    <Dialog open onClose={() => ask(null)} title="Movie, picture, contact sheet" about={about} wide>
      <Pictures shot={shot} />
    </Dialog>
  );
}
