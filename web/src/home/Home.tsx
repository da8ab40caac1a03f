import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { ListOrder } from '@varrup/core';
import { Plus, Search } from 'lucide-react';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api } from '../api/client.ts';
import { RoomNote } from '../desk/RoomNote.tsx';
import { Button } from '../ui/Button.tsx';
import { NameDialog } from '../ui/Dialog.tsx';
import { useHabits } from '../view/habits.ts';
import { HomeActionsProvider, type Naming, useHomeActions } from './actions.ts';
import { BinList } from './BinList.tsx';
import { ProductionList } from './ProductionList.tsx';

const orders: readonly (readonly [ListOrder, string])[] = [
  ['recent', 'last worked on'],
  ['name', 'name'],
];

/** All productions with their shots, and the bin. */
export function Home() {
  const [naming, setNaming] = useState<Naming | null>(null);
  const [search, setSearch] = useState('');
  const order = useHabits((h) => h.homeOrder);
  const query = { search: useDeferredValue(search).trim(), order };
  const home = useQuery({
    queryKey: ['home', query],
    queryFn: () => api.home(query),
    placeholderData: keepPreviousData,
  });
  const actions = useHomeActions(setNaming);
  const scroll = useRef<HTMLElement>(null);
  useEffect(() => {
    document.title = 'Varrup';
  }, []);
  const productions = home.data?.productions ?? [];
  return (
    <HomeActionsProvider value={actions}>
      <div className="flex h-full flex-col">
        <header className="flex h-10 shrink-0 items-center justify-between border-b border-rule bg-card px-4">
          <span className="flex items-center gap-2 font-bold">
            <span className="h-1.5 w-4 rounded-full bg-ink" aria-hidden />
            Varrup
          </span>
          <nav className="ml-6 flex grow gap-4" aria-label="Pages">
            <span className="font-semibold" aria-current="page">
              productions
            </span>
            <Link to="/rigs" className="text-graphite hover:text-ink">
              rigs
            </Link>
          </nav>
          <RoomNote />
          <label className="ml-4 flex items-center gap-1.5 rounded-full border border-rule bg-paper px-3 focus-within:border-blue">
            <Search size={14} className="text-graphite" aria-hidden />
            <input
              type="search"
              aria-label="Search productions and shots"
              placeholder="search"
              value={search}
              maxLength={80}
              onChange={(event) => setSearch(event.target.value)}
              className="h-7 w-44 bg-transparent outline-none!"
            />
          </label>
          <label className="mx-4 flex items-center gap-1.5 text-graphite">
            order
            <select
              value={order}
              onChange={(event) => useHabits.setState({ homeOrder: event.target.value as ListOrder })}
              className="h-7 rounded-md border border-rule bg-paper px-1 text-ink"
            >
              {orders.map(([value, word]) => (
                <option key={value} value={value}>
                  {word}
                </option>
              ))}
            </select>
          </label>
          <Button look="pill" className="flex items-center gap-1.5" onClick={actions.newProduction}>
            <Plus size={14} /> new production
          </Button>
        </header>
        <main ref={scroll} className="min-h-0 grow overflow-y-auto px-8 pt-3 pb-6">
          <h1 className="sr-only">Productions</h1>
          {home.isPending ? (
            <p role="status" className="text-graphite">
              Fetching the productions…
            </p>
          ) : null}
          {home.isError ? (
            <p role="alert">
              {home.error.message} Your work is safe.{' '}
              <Button look="pill" onClick={() => void home.refetch()}>
                try again
              </Button>
            </p>
          ) : null}
          {home.data && productions.length === 0 ? (
            query.search ? (
              <p className="py-20 text-center text-[17px]" role="status">
                No production and no shot has “{query.search}” in its name.
              </p>
            ) : (
              <div className="py-20 text-center">
                <p className="mb-4 text-[17px]">Nothing here yet. A production holds the shots of one piece of work.</p>
                <Button look="solid" onClick={actions.newProduction}>
                  Begin a production
                </Button>
              </div>
            )
          ) : null}
          <ProductionList productions={productions} query={query} scroll={scroll} />
          <BinList />
        </main>
        {naming ? (
          <NameDialog
            {...naming}
            onClose={() => setNaming(null)}
            onName={(name) => actions.act(() => naming.done(name))}
          />
        ) : null}
      </div>
    </HomeActionsProvider>
  );
}
