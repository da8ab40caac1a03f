import { MEDIA_WORDS, type Media, MediaHash, type MediaKind, mediaKindOf, mediaKinds, mediaLimits } from '@varrup/core';
import { api } from '../api/client.ts';

/** Sounds, pictures and footage of the store. What is known by its hash never changes, so the browser keeps what it has fetched once. */

export const mediaAddress = (hash: string): string => `/api/media/${hash}`;

/** The bytes of a piece of media, on the page or in a worker. @throws an error with a sentence where it cannot be had */
export async function fetchMedia(hash: string): Promise<Uint8Array<ArrayBuffer>> {
  const answer = await fetch(mediaAddress(hash)).catch(() => null);
  if (!answer) throw new Error('The server cannot be reached for a sound or a picture.');
  if (!answer.ok) throw new Error('A sound or a picture is not in the store.');
  return new Uint8Array(await answer.arrayBuffer());
}

/** What a file is by how it begins. @throws an error with a sentence where that is nothing that can be kept, or too large */
export async function kindOfFile(file: Blob): Promise<MediaKind> {
  const kind = mediaKindOf(new Uint8Array(await file.slice(0, 64).arrayBuffer()));
  if (!kind) throw new Error(`It is no ${MEDIA_WORDS}.`);
  const most = mediaLimits.bytes[mediaKinds[kind].of];
  if (file.size > most) throw new Error(`It has ${Math.ceil(file.size / 1e6)} MB; up to ${most / 1e6} can be kept.`);
  return kind;
}

/** Bytes that are reckoned with at once: between them the page has its turn. */
const PIECE = 4_000_000;

async function hashOf(file: Blob): Promise<string> {
  const hash = new MediaHash();
  for (let at = 0; at < file.size; at += PIECE)
    hash.take(new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer()));
  return hash.done();
}

/**
 * Puts a sound, a picture or footage into the store; what is there already is not sent again.
 * @returns its hash @throws an error with a sentence where it is none, or too large
 */
export async function keepMedia(given: Uint8Array<ArrayBuffer> | Blob): Promise<string> {
  const file = given instanceof Blob ? given : new Blob([given]);
  const kind = await kindOfFile(file);
  const hash = await hashOf(file);
  if (!(await api.hasMedia(hash))) await api.putMedia(hash, new Blob([file], { type: mediaKinds[kind].mime }));
  return hash;
}

/** Media that go out with a shot. @throws an error with a sentence where something cannot be had */
export async function mediaFor(hashes: readonly string[]): Promise<Media> {
  const bytes = await Promise.all(hashes.map(fetchMedia));
  return new Map(hashes.map((hash, i) => [hash, bytes[i]]));
}
