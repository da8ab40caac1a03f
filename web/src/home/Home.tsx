import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Bin, Production, ShotSummary } from '@varrup/core';
import { MoreHorizontal, Plus, Trash2, Undo2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { NameDialog } from '../ui/Dialog.tsx';
import { Menu, MenuItem, MenuLine } from '../ui/Menu.tsx';
import { chooseArchive, openArchive } from './open-archive.ts';
import { ShotCard } from './ShotCard.tsx';

/** What a shot is called that nobody gives a name: the next number, as the others are numbered. */
function nextName({ shots }: Production): string {
  const numbers = shots.map((s) => Number(/^(\d+)\b/.exec(s.name)?.[1] ?? 0));
  return `${String(Math.max(0, ...numbers) + 1).padStart(2, '0')} Untitled`;
}

/** What is being named, and what happens with the name. */
interface Naming {
  readonly title: string;
  readonly label: string;
  readonly initial?: string;
  readonly action: string;
  readonly done: (name: string) => Promise<unknown>;
}

/** All productions with their shots, and the bin. */
export function Home() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const home = useQuery({ queryKey: ['home'], queryFn: api.home });
  const bin = useQuery({ queryKey: ['bin'], queryFn: api.bin });
  const [naming, setNaming] = useState<Naming | null>(null);
  const act = useMutation({
    mutationFn: (what: () => Promise<unknown>) => what(),
    onError: (error) => toast.error(error.message),
    onSettled: () => {
      void queries.invalidateQueries({ queryKey: ['home'] });
      void queries.invalidateQueries({ queryKey: ['bin'] });
    },
  });
  useEffect(() => {
    document.title = 'Varrup';
  }, []);

  const toBin = (kind: 'productions' | 'shots', item: { id: string; name: string }) =>
    act.mutate(async () => {
      await api.toBin(kind, item.id);
      toast(`“${item.name}” is in the bin.`, {
        action: { label: 'Bring it back', onClick: () => act.mutate(() => api.bringBack(kind, item.id)) },
      });
    });
  const rename = (kind: 'productions' | 'shots', item: { id: string; name: string }) =>
    setNaming({
      title: 'Rename',
      label: 'Name',
      initial: item.name,
      action: 'Rename',
      done: (name) => api.rename(kind, item.id, name),
    });
  const newShot = (production: Production) =>
    setNaming({
      title: `A new shot in ${production.name}`,
      label: 'What is it called?',
      initial: nextName(production),
      action: 'Begin',
      done: async (name) => navigate(`/shots/${await api.newShot(production.id, name)}`),
    });
  /** A file is chosen within the press that asks for it. */
  const fromArchive = async (production: Production) => {
    const file = await chooseArchive();
    if (file) act.mutate(async () => navigate(`/shots/${await openArchive(production.id, file)}`));
  };
  const newProduction = () =>
    setNaming({
      title: 'A new production',
      label: 'What is it called?',
      action: 'Make it',
      done: (name) => api.newProduction(name),
    });

  return (
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
        <Button look="pill" className="flex items-center gap-1.5" onClick={newProduction}>
          <Plus size={14} /> new production
        </Button>
      </header>
      <main className="min-h-0 grow overflow-y-auto px-8 py-6">
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
        {home.data?.productions.length === 0 ? (
          <div className="py-20 text-center">
            <p className="mb-4 text-[17px]">Nothing here yet. A production holds the shots of one piece of work.</p>
            <Button look="solid" onClick={newProduction}>
              Begin a production
            </Button>
          </div>
        ) : null}
        {home.data?.productions.map((production, i, all) => (
          <ProductionRow
            key={production.id}
            twins={all.slice(0, i).filter((p) => p.name === production.name).length}
            production={production}
            onNewShot={() => newShot(production)}
            onRename={() => rename('productions', production)}
            onDuplicate={() => act.mutate(() => api.duplicate('productions', production.id))}
            onArchive={() => void fromArchive(production)}
            onBin={() => toBin('productions', production)}
            shotMenu={(shot) => ({
              onRename: () => rename('shots', shot),
              onDuplicate: () => act.mutate(() => api.duplicate('shots', shot.id)),
              onBin: () => toBin('shots', shot),
            })}
          />
        ))}
        <BinList bin={bin.data} onBringBack={(kind, id) => act.mutate(() => api.bringBack(kind, id))} />
      </main>
      {naming ? (
        <NameDialog
          {...naming}
          onClose={() => setNaming(null)}
          onName={(name) => act.mutate(() => naming.done(name))}
        />
      ) : null}
    </div>
  );
}

interface ItemActions {
  readonly onRename: () => void;
  readonly onDuplicate: () => void;
  readonly onBin: () => void;
  /** Opens a shot out of an archive; a shot itself cannot. */
  readonly onArchive?: () => void;
}

/** @param twins how many of the same name stand before it */
function ProductionRow({
  production,
  twins,
  onNewShot,
  shotMenu,
  ...actions
}: {
  production: Production;
  twins: number;
  onNewShot: () => void;
  shotMenu: (shot: ShotSummary) => ItemActions;
} & ItemActions) {
  return (
    // Two of one name are told apart by whoever hears them read out.
    <section className="mb-8" aria-label={twins > 0 ? `${production.name}, ${twins + 1}` : production.name}>
      <div className="mb-3 flex items-center gap-2">
        <h2 className="truncate text-[17px] font-semibold">{production.name}</h2>
        <span className="text-graphite">
          {production.shots.length === 1 ? 'one shot' : `${production.shots.length} shots`}
        </span>
        <ItemMenu of={production.name} {...actions} />
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-4">
        {production.shots.map((shot) => (
          <li key={shot.id}>
            <ShotCard shot={shot} menu={<ItemMenu of={shot.name} {...shotMenu(shot)} />} />
          </li>
        ))}
        <li>
          <button
            type="button"
            onClick={onNewShot}
            className="grid aspect-video w-full place-items-center rounded-xl border-2 border-dashed border-rule text-graphite hover:border-graphite hover:text-ink"
          >
            <span className="flex items-center gap-1.5">
              <Plus size={15} /> new shot
            </span>
          </button>
        </li>
      </ul>
    </section>
  );
}

function ItemMenu({ of, onRename, onDuplicate, onBin, onArchive }: { of: string } & ItemActions) {
  return (
    <Menu
      align="end"
      trigger={
        <Button look="icon" aria-label={`More about ${of}`} title="Rename, duplicate, bin">
          <MoreHorizontal size={16} />
        </Button>
      }
    >
      {onArchive ? <MenuItem onPick={onArchive}>open an archive…</MenuItem> : null}
      <MenuItem onPick={onRename}>rename…</MenuItem>
      <MenuItem onPick={onDuplicate}>duplicate</MenuItem>
      <MenuLine />
      <MenuItem onPick={onBin}>to the bin</MenuItem>
    </Menu>
  );
}

function BinList({
  bin,
  onBringBack,
}: {
  bin: Bin | undefined;
  onBringBack: (kind: 'productions' | 'shots', id: string) => void;
}) {
  if (!bin || bin.items.length === 0) return null;
  return (
    <details className="border-t border-rule pt-3">
      <summary className="flex cursor-default items-center gap-2 text-graphite">
        <Trash2 size={14} /> bin: {bin.items.length === 1 ? 'one thing' : `${bin.items.length} things`}
      </summary>
      <ul className="mt-2 max-w-xl">
        {bin.items.map((item) => (
          <li key={item.id} className="flex h-8 items-center justify-between gap-3">
            <span className="truncate">
              {item.name}{' '}
              <span className="text-graphite">
                {item.type === 'shot' ? `shot of ${item.production}` : 'production'}
              </span>
            </span>
            <Button
              look="pill"
              className="flex h-6! items-center gap-1 text-sm"
              onClick={() => onBringBack(item.type === 'shot' ? 'shots' : 'productions', item.id)}
            >
              <Undo2 size={12} /> bring back
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
