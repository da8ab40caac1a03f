import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { Production } from '@varrup/core';
import { createContext, useContext } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { chooseArchive, openArchive } from './open-archive.ts';

type Kind = 'productions' | 'shots';
interface Item {
  readonly id: string;
  readonly name: string;
}

/** What is being named, and what happens with the name. */
export interface Naming {
  readonly title: string;
  readonly label: string;
  readonly initial?: string;
  readonly action: string;
  readonly done: (name: string) => Promise<unknown>;
}

/** What can be done with productions and shots. */
export interface HomeActions {
  act(what: () => Promise<unknown>): void;
  newProduction(): void;
  newShot(production: Production): void;
  openArchive(production: Production): void;
  rename(kind: Kind, item: Item): void;
  duplicate(kind: Kind, item: Item): void;
  toBin(kind: Kind, item: Item): void;
  bringBack(kind: Kind, id: string): void;
}

const Actions = createContext<HomeActions | null>(null);
export const HomeActionsProvider = Actions.Provider;
export const useActions = (): HomeActions => useContext(Actions)!;

/** @param ask shows a dialog for a name */
export function useHomeActions(ask: (naming: Naming) => void): HomeActions {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { mutate } = useMutation({
    mutationFn: (what: () => Promise<unknown>) => what(),
    onError: (error) => toast.error(error.message),
    onSettled: () => {
      for (const key of ['home', 'shots', 'bin']) void queries.invalidateQueries({ queryKey: [key] });
    },
  });
  const act = (what: () => Promise<unknown>) => mutate(what);
  return {
    act,
    newProduction: () =>
      ask({
        title: 'A new production',
        label: 'What is it called?',
        action: 'Make it',
        done: (name) => api.newProduction(name),
      }),
    newShot: (production) =>
      ask({
        title: `A new shot in ${production.name}`,
        label: 'What is it called?',
        // The next number, as the others are numbered.
        initial: `${String(production.lastNumber + 1).padStart(2, '0')} Untitled`,
        action: 'Begin',
        done: async (name) => navigate(`/shots/${await api.newShot(production.id, name)}`),
      }),
    /** A file is chosen within the press that asks for it. */
    openArchive: async (production) => {
      const file = await chooseArchive();
      if (file) act(async () => navigate(`/shots/${await openArchive(production.id, file)}`));
    },
    rename: (kind, item) =>
      ask({
        title: 'Rename',
        label: 'Name',
        initial: item.name,
        action: 'Rename',
        done: (name) => api.rename(kind, item.id, name),
      }),
    duplicate: (kind, item) => act(() => api.duplicate(kind, item.id)),
    toBin: (kind, item) =>
      act(async () => {
        await api.toBin(kind, item.id);
        toast(`“${item.name}” is in the bin.`, {
          action: { label: 'Bring it back', onClick: () => act(() => api.bringBack(kind, item.id)) },
        });
      }),
    bringBack: (kind, id) => act(() => api.bringBack(kind, id)),
  };
}
