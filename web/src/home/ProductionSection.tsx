import { useQueries } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { ListQuery, Production, ShotSummary } from '@varrup/core';
import { Plus } from 'lucide-react';
import type { RefObject } from 'react';
import { api } from '../api/client.ts';
import { useActions } from './actions.ts';
import { ItemMenu } from './ItemMenu.tsx';
import { type CardLayout, HEADING, linesOf, productionHeight } from './layout.ts';
import { ShotCard } from './ShotCard.tsx';

/** Shots are asked for so many lines at a time. */
const LINES_A_PAGE = 12;

/**
 * A production: its heading, and those lines of its shots that are in sight.
 * @param twins how many of the same name stand before it @param top where it begins in what is scrolled
 */
export function ProductionSection({
  production,
  twins,
  query,
  layout,
  top,
  scroll,
}: {
  production: Production;
  twins: number;
  query: ListQuery;
  layout: CardLayout;
  top: number;
  scroll: RefObject<HTMLElement | null>;
}) {
  const actions = useActions();
  const lines = useVirtualizer({
    count: linesOf(production.shots, layout),
    getScrollElement: () => scroll.current,
    estimateSize: () => layout.line,
    scrollMargin: top + HEADING,
    // One that comes into sight leaves what is scrolled where it is.
    initialOffset: () => scroll.current?.scrollTop ?? 0,
    overscan: 2,
  }).getVirtualItems();
  const shots = useShots(production, query, layout, lines);
  return (
    // Two of one name are told apart by whoever hears them read out.
    <section
      className="absolute inset-x-0"
      style={{ top, height: productionHeight(production.shots, layout) }}
      aria-label={twins > 0 ? `${production.name}, ${twins + 1}` : production.name}
    >
      <div className="flex items-center gap-2" style={{ height: HEADING }}>
        <h2 className="truncate text-[17px] font-semibold">{production.name}</h2>
        <span className="shrink-0 text-graphite">
          {production.shots === 1 ? 'one shot' : `${production.shots} shots`}
        </span>
        <ItemMenu kind="productions" item={production} onArchive={() => actions.openArchive(production)} />
      </div>
      <ul aria-label={`Shots of ${production.name}`}>
        {lines.flatMap((line) =>
          Array.from({ length: layout.columns }, (_, column) => {
            const at = line.index * layout.columns + column;
            if (at > production.shots) return null;
            // The place for a new one comes first: it is at hand however many there are.
            const shot = shots(at - 1);
            const place = {
              top: HEADING + line.index * layout.line,
              height: layout.line - 16,
              left: `calc((100% + 16px) / ${layout.columns} * ${column})`,
              width: `calc((100% + 16px) / ${layout.columns} - 16px)`,
            };
            return (
              <li key={at} className="absolute" style={place}>
                {at === 0 ? (
                  <NewShot onPress={() => actions.newShot(production)} />
                ) : shot ? (
                  <ShotCard shot={shot} menu={<ItemMenu kind="shots" item={shot} />} />
                ) : (
                  <div className="h-full rounded-xl border border-rule bg-card" />
                )}
              </li>
            );
          }),
        )}
      </ul>
    </section>
  );
}

/** The shots of the lines in sight: by their place, as far as they are there. */
function useShots(
  production: Production,
  query: ListQuery,
  layout: CardLayout,
  lines: readonly { readonly index: number }[],
): (at: number) => ShotSummary | undefined {
  const count = layout.columns * LINES_A_PAGE;
  // Before the first shot there is the place for a new one.
  const ends = lines.flatMap(({ index }) => [index * layout.columns - 1, (index + 1) * layout.columns - 2]);
  const inSight = ends.map((at) => Math.min(Math.max(at, 0), production.shots - 1)).filter((at) => at >= 0);
  const pages = [...new Set(inSight.map((at) => Math.floor(at / count)))];
  const answers = useQueries({
    queries: pages.map((page) => ({
      queryKey: ['shots', production.id, query, count, page],
      queryFn: () => api.shots({ ...query, production: production.id, from: page * count, count }),
    })),
  });
  return (at) => answers[pages.indexOf(Math.floor(at / count))]?.data?.[at % count];
}

const NewShot = ({ onPress }: { onPress: () => void }) => (
  <button
    type="button"
    onClick={onPress}
    className="grid aspect-video w-full place-items-center rounded-xl border-2 border-dashed border-rule text-graphite hover:border-graphite hover:text-ink"
  >
    <span className="flex items-center gap-1.5">
      <Plus size={15} /> new shot
    </span>
  </button>
);
