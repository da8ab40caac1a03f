import { useQuery } from '@tanstack/react-query';
import type { ShotSummary } from '@varrup/core';
import { formatDistanceToNow } from 'date-fns';
import { type ReactNode, useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api } from '../api/client.ts';
import { useHabits } from '../view/habits.ts';

/** A shot as a card: a picture made from it, its name, how long it is and when it was changed. */
export function ShotCard({ shot, menu }: { shot: ShotSummary; menu: ReactNode }) {
  const seconds = shot.frames / shot.rate;
  return (
    <article className="group h-full overflow-hidden rounded-xl border border-rule bg-card">
      <Link to={`/shots/${shot.id}`} aria-label={`Open ${shot.name}`} className="block bg-well">
        <Picture shot={shot} />
      </Link>
      <div className="flex items-start gap-1 py-2 pr-1 pl-3">
        <div className="min-w-0 grow">
          <h3 className="truncate font-medium" title={shot.name}>
            {shot.name}
          </h3>
          <p className="text-sm text-graphite">
            {shot.frames} frames · {seconds.toFixed(2)} s ·{' '}
            {formatDistanceToNow(new Date(shot.changedAt), { addSuffix: true })}
          </p>
        </div>
        {menu}
      </div>
    </article>
  );
}

/** The kept picture; where there is none yet, one is made from the shot when its card comes into sight, and kept. */
function Picture({ shot }: { shot: ShotSummary }) {
  const [place, setPlace] = useState<HTMLElement | null>(null);
  const [isSeen, setSeen] = useState(false);
  useEffect(() => {
    if (!place) return;
    const watch = new IntersectionObserver(([entry]) => entry.isIntersecting && setSeen(true), { rootMargin: '150px' });
    watch.observe(place);
    return () => watch.disconnect();
  }, [place]);
  const sketch = useHabits((h) => h.sketch);
  const made = useQuery({
    queryKey: ['picture', shot.id, shot.revision],
    enabled: shot.picturedAt === null && isSeen && !sketch,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => {
      // What draws is fetched when something is to be drawn.
      const [{ cardPicture }, { linked }] = await Promise.all([
        import('../pictures/pictures.ts'),
        import('../shot/linked.ts'),
      ]);
      const { document } = await api.openShot(shot.id);
      const picture = await cardPicture(await linked(document));
      await api.putPicture(shot.id, picture);
      return URL.createObjectURL(picture);
    },
  });
  const source = shot.picturedAt === null ? made.data : api.pictureAddress(shot.id, shot.picturedAt);
  if (source) return <img src={source} alt="" className="aspect-video w-full object-cover" />;
  return (
    <div ref={setPlace} className="grid aspect-video place-items-center text-sm text-graphite">
      {made.isError || sketch ? 'no picture' : 'drawing…'}
    </div>
  );
}
