import { learnRig, linkedRigs, parseRig, type Rig, type RigLink, type Shot, unknownLinks } from '@varrup/core';
import { api } from '../api/client.ts';

/** Getting to know the rigs a shot links: before it is shown here, and before it is sent to a worker. */

const fetching = new Map<string, Promise<void>>();

/** Learns one rig of the library. @throws where the server has it not, or it is not one */
export function learnLink(link: RigLink): Promise<void> {
  const name = `${link.rig}@${link.version}`;
  const under = fetching.get(name);
  if (under) return under;
  const made = (async () => {
    const parsed = parseRig(await api.rig(link));
    if (!parsed.ok) throw new Error(`The rig ${link.rig} cannot be read: ${parsed.problems[0].sentence}.`);
    learnRig(parsed.value);
  })().finally(() => fetching.delete(name));
  fetching.set(name, made);
  return made;
}

/** Learns every rig a document links that is not known yet. */
export async function learnFor(document: unknown): Promise<void> {
  await Promise.all(unknownLinks(document).map(learnLink));
}

/** What a worker offers to be told of rigs by. */
export interface Learner {
  learn(rigs: readonly Rig[]): unknown;
}

const taught = new WeakMap<object, Set<Rig>>();

/** Tells a worker the rigs of a shot that it has not been told yet. Messages keep their order, so this need not be waited for. */
export function teach(worker: Learner & object, shot: Shot): void {
  const told = taught.get(worker) ?? new Set<Rig>();
  taught.set(worker, told);
  const news = linkedRigs(shot).filter((rig) => !told.has(rig));
  for (const rig of news) told.add(rig);
  if (news.length > 0) void worker.learn(news);
}
