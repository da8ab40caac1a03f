import { mediaOfSounds, type Recordings, SAMPLE_RATE, type Shot, type SoundSource, samplesOf } from '@varrup/core';
import { create } from 'zustand';
import { fetchMedia } from '../media/media.ts';

/** Sounds that were brought in, decoded: one channel, as many samples a second as everything here has. */
export const useRecordings = create<{ readonly decoded: Recordings }>(() => ({ decoded: new Map() }));

const loading = new Map<string, Promise<void>>();

/**
 * Decodes a sound as the browser can, its channels mixed to one.
 * @throws an error with a sentence where it cannot, or where there is nothing to hear in it
 */
export async function decode(bytes: Uint8Array<ArrayBuffer>): Promise<Float32Array> {
  const context = new OfflineAudioContext(1, 1, SAMPLE_RATE);
  let buffer: AudioBuffer;
  try {
    // It takes what it is given for itself.
    buffer = await context.decodeAudioData(bytes.slice().buffer);
  } catch {
    throw new Error('The sound cannot be decoded: this browser does not know how, or the file is broken.');
  }
  if (buffer.length === 0) throw new Error('There is nothing to hear in it.');
  const out = new Float32Array(buffer.length);
  for (let c = 0; c < buffer.numberOfChannels; c++) {
    const channel = buffer.getChannelData(c);
    for (let i = 0; i < out.length; i++) out[i] += channel[i] / buffer.numberOfChannels;
  }
  return out;
}

/** Keeps a sound that was decoded ready. */
export const keepRecording = (hash: string, samples: Float32Array): void =>
  useRecordings.setState(({ decoded }) => ({ decoded: new Map(decoded).set(hash, samples) }));

/** Has a sound of the store ready; one that cannot be had is silent for as long as the page is open. */
function load(hash: string): Promise<void> {
  if (useRecordings.getState().decoded.has(hash)) return Promise.resolve();
  const under =
    loading.get(hash) ??
    fetchMedia(hash)
      .then(decode)
      .then((samples) => keepRecording(hash, samples))
      .catch(() => undefined);
  loading.set(hash, under);
  return under;
}

/** Has all sounds of a shot ready. @returns those there are */
export async function recordingsOf(shot: Pick<Shot, 'sounds'>): Promise<Recordings> {
  const hashes = mediaOfSounds(shot);
  await Promise.all(hashes.map(load));
  const { decoded } = useRecordings.getState();
  return new Map(hashes.flatMap((hash) => (decoded.has(hash) ? [[hash, decoded.get(hash)!]] : [])));
}

/** The samples of a sound as far as they are there; one that is not is on its way then. */
export function samplesNow(sound: SoundSource): Float32Array {
  if (typeof sound !== 'string') void load(sound.media);
  return samplesOf(sound, useRecordings.getState().decoded);
}
