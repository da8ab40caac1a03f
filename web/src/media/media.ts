import { type Media, mediaHash, mediaKindOf, mediaKinds, mediaLimits } from '@varrup/core';
import { api } from '../api/client.ts';

/** Sounds and pictures of the store. What is known by its hash never changes, so the browser keeps what it has fetched once. */

export const mediaAddress = (hash: string): string => `/api/media/${hash}`;

/** The bytes of a sound or a picture, on the page or in a worker. @throws an error with a sentence where it cannot be had */
export async function fetchMedia(hash: string): Promise<Uint8Array<ArrayBuffer>> {
  const answer = await fetch(mediaAddress(hash)).catch(() => null);
  if (!answer) throw new Error('The server cannot be reached for a sound or a picture.');
  if (!answer.ok) throw new Error('A sound or a picture is not in the store.');
  return new Uint8Array(await answer.arrayBuffer());
}

/** Puts a sound or a picture into the store. @returns its hash @throws an error with a sentence where it is none, or too large */
export async function keepMedia(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const kind = mediaKindOf(bytes);
  if (!kind) throw new Error('It is no sound (WAV, MP3, OGG, FLAC) and no picture (PNG, JPEG).');
  if (bytes.length > mediaLimits.bytes)
    throw new Error(`It has ${Math.ceil(bytes.length / 1e6)} MB; up to ${mediaLimits.bytes / 1e6} can be kept.`);
  const hash = mediaHash(bytes);
  await api.putMedia(hash, new Blob([bytes], { type: mediaKinds[kind].mime }));
  return hash;
}

/** Media that go out with a shot. @throws an error with a sentence where something cannot be had */
export async function mediaFor(hashes: readonly string[]): Promise<Media> {
  const bytes = await Promise.all(hashes.map(fetchMedia));
  return new Map(hashes.map((hash, i) => [hash, bytes[i]]));
}
