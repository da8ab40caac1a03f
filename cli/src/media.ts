import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { type Media, mediaHash, mediaKindOf } from '@varrup/core';

/** Sounds and pictures lie in a folder of this name beside the shot, each called by its hash. */
const FOLDER = 'media';

/** The media beside a shot that it needs; what is not there, or is not what it is called, is not among them. */
export async function mediaBeside(file: string, hashes: readonly string[]): Promise<Media> {
  const dir = join(file === '-' ? '.' : dirname(file), FOLDER);
  const names = hashes.length === 0 ? [] : await readdir(dir).catch(() => []);
  const found = new Map<string, Uint8Array>();
  for (const name of names) {
    const hash = name.replace(/\..*$/, '');
    if (!hashes.includes(hash)) continue;
    const bytes = await readFile(join(dir, name));
    if (mediaHash(bytes) === hash) found.set(hash, bytes);
  }
  return found;
}

/** Lays media beside a shot. */
export async function writeMedia(dir: string, media: Media): Promise<void> {
  if (media.size === 0) return;
  await mkdir(join(dir, FOLDER), { recursive: true });
  for (const [hash, bytes] of media) await writeFile(join(dir, FOLDER, `${hash}.${mediaKindOf(bytes)}`), bytes);
}
