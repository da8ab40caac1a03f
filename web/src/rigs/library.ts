import { useQuery } from '@tanstack/react-query';
import { bringRig, type LibraryRig, newRigMembers, type RigLink, standIn, type Vector } from '@varrup/core';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { fetchRig } from '../shot/linked.ts';
import { useShot } from '../shot/shot-store.ts';
import { select } from '../view/selection.ts';

/** The rig library, as the server has it. */
export const useLibrary = () => useQuery({ queryKey: ['rigs'], queryFn: api.rigs, staleTime: 10_000 });

/** The newest version of a rig. */
export const newest = (rig: LibraryRig): number => Math.max(...rig.versions.map((v) => v.version));

/** Links a rig in the open shot and picks it. @param instead what it takes the place of, and where that stood */
export async function bringRigIn(
  link: RigLink,
  instead?: { readonly ids: readonly string[]; readonly at: Vector },
): Promise<void> {
  try {
    const rig = await fetchRig(link);
    const { haveAtHand, run } = useShot.getState();
    haveAtHand([rig]);
    const { committed: shot } = useShot.getState();
    if (!shot) return;
    const brought = newRigMembers(shot, { ...link, at: instead?.at });
    if (instead) run(standIn, { ids: instead.ids, ...brought });
    else run(bringRig, brought);
    select([brought.members[0].id]);
  } catch (error) {
    toast.error(`The rig could not be brought in. ${(error as Error).message}`);
  }
}
