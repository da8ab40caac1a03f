import {
  broughtHome,
  buildOf,
  dressed,
  mediaOfMembers,
  mediaOfRig,
  newId,
  parseRig,
  problemText,
  type RigLink,
  rigOfMembers,
  type Shot,
  type TakenRig,
  type Vector,
} from '@varrup/core';
import * as Comlink from 'comlink';
import { api } from '../api/client.ts';
import { keepMedia, mediaFor } from '../media/media.ts';
import type { taker } from '../take-in/take-in.worker.ts';

/** Motions that come with a file are laid at this rate; here they are not asked for. */
const RATE = 24;

/** Keeps the body of a file in the library, as its first version. @throws an error with a sentence where it cannot be read */
export async function rigOfFiles(files: readonly File[]): Promise<RigLink> {
  const own = new Worker(new URL('../take-in/take-in.worker.ts', import.meta.url), { type: 'module' });
  try {
    const taken = await Comlink.wrap<typeof taker>(own).read(files, RATE);
    return await keepFirst(taken);
  } finally {
    own.terminate();
  }
}

/**
 * Keeps some of a shot's cast as a rig that stands in the middle of the floor.
 * @returns it, and where it stood in the shot @throws an error with a sentence where none can be made of them
 */
export async function rigOfCast(
  shot: Shot,
  members: readonly string[],
  name: string,
): Promise<{ link: RigLink; from: Vector }> {
  const media = await mediaFor([...shot.rigs.list.flatMap(mediaOfRig), ...mediaOfMembers(shot)]);
  const taken = rigOfMembers(shot, members, { id: newId(), name }, media);
  const { build, from } = broughtHome(buildOf(taken.rig));
  const draft = dressed(build, { version: 1, changes: 'As it stood in the shot.' });
  const parsed = parseRig(draft);
  if (!parsed.ok) throw new Error(parsed.problems.slice(0, 3).map(problemText).join('; '));
  return { link: await keepFirst({ ...taken, rig: parsed.value }), from };
}

async function keepFirst({ rig, media }: TakenRig): Promise<RigLink> {
  for (const bytes of media.values()) await keepMedia(new Uint8Array(bytes));
  await api.addRig(rig);
  return { rig: rig.id, version: rig.version };
}
