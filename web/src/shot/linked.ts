import { linkName, linksIn, parseRig, type Rig, type RigLink, Rigs, type Shot, type ShotDocument } from '@varrup/core';
import { api } from '../api/client.ts';
import { picturesOfMembers, picturesOfRig } from '../media/textures.ts';

/** Getting the rigs that documents link from the library. A version never changes, so one on its way serves all who ask for it. */

const fetching = new Map<string, Promise<Rig>>();

/** One rig of the library. @throws where the server has it not, or it is not one */
export function fetchRig(link: RigLink): Promise<Rig> {
  const name = linkName(link);
  const under = fetching.get(name);
  if (under) return under;
  const made = (async () => {
    const parsed = parseRig(await api.rig(link));
    if (!parsed.ok) throw new Error(`The rig ${link.rig} cannot be read: ${parsed.problems[0].sentence}.`);
    await picturesOfRig(parsed.value);
    return parsed.value;
  })().finally(() => fetching.delete(name));
  fetching.set(name, made);
  return made;
}

/** These rigs with all that a document links besides. */
export async function rigsFor(document: unknown, have: Rigs): Promise<Rigs> {
  const lacking = linksIn(document).filter((link) => !have.find(link));
  return have.with(await Promise.all(lacking.map(fetchRig)));
}

/** A document with the rigs it links, and all pictures on what stands in it, at hand. */
export async function linked(document: ShotDocument & { readonly rigs?: Rigs }): Promise<Shot> {
  await picturesOfMembers(document);
  return { ...document, rigs: await rigsFor(document, document.rigs ?? Rigs.none) };
}
