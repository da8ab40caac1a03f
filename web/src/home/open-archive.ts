import { documentOf, type NewPose, newId, type Rig, readArchive, rigHash } from '@varrup/core';
import { api } from '../api/client.ts';
import { keepMedia } from '../media/media.ts';
import { fetchRig } from '../shot/linked.ts';
import { chooseFile } from '../ui/choose-file.ts';

/** Asks for an archive. @returns null where nobody chose one */
export const chooseArchive = (): Promise<File | null> => chooseFile('.zip');

/**
 * Opens an archive as a new shot of a production: sounds, pictures, rigs and poses that the house has not are put there first.
 * @returns the shot's id @throws an error with a sentence, where it cannot be opened
 */
export async function openArchive(production: string, file: File): Promise<string> {
  const { shot, poses, media } = readArchive(new Uint8Array(await file.arrayBuffer()));
  for (const bytes of media.values()) await keepMedia(new Uint8Array(bytes));
  const known = await api.rigs();
  for (const rig of shot.rigs.list) {
    const there = known.find((r) => r.id === rig.id)?.versions.some((v) => v.version === rig.version);
    if (there) await mustBeTheSame(rig);
    else await api.addRig(rig);
  }
  for (const [rig, book] of poses) await addPoses(rig, book);
  const own = { ...documentOf(shot), id: newId() };
  return api.newShot(production, shot.name, own);
}

/** Where the library has another rig of the same name and version, the shot would not be what it was. */
async function mustBeTheSame(rig: Rig): Promise<void> {
  const there = await fetchRig({ rig: rig.id, version: rig.version });
  if (rigHash(there) !== rigHash(rig))
    throw new Error(
      `The library has another version ${rig.version} of ${rig.name} than the archive: the shot would not be what it was. Nothing was changed.`,
    );
}

/** Adds the poses a book has not yet, by name. */
async function addPoses(rig: string, book: readonly NewPose[]): Promise<void> {
  const there = new Set((await api.poses(rig)).map((pose) => pose.name));
  for (const pose of book) if (!there.has(pose.name)) await api.addPose(rig, pose);
}
