import {
  mediaLimits,
  mediaOfSounds,
  outlineOf,
  type Recordings,
  SAMPLE_RATE,
  type Shot,
  type SoundSource,
  samplesOf,
} from '@varrup/core';
import { create } from 'zustand';
import { api } from '../api/client.ts';
import { fetchMedia, mediaAddress } from '../media/media.ts';

interface Sounds {
  /** Sounds that were brought in, decoded: one channel, as many samples a second as everything here has. */
  readonly decoded: Recordings;
  /** What those look like, which is there before they are decoded. */
  readonly outlines: ReadonlyMap<string, Uint8Array>;
}

export const useRecordings = create<Sounds>(() => ({ decoded: new Map(), outlines: new Map() }));

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
  if (!loading.has(hash)) void outline(hash, under);
  loading.set(hash, under);
  return under;
}

/** Has the outline of a sound: the store's, or one that is made of the sound when it is there, and kept. */
async function outline(hash: string, sound: Promise<void>): Promise<void> {
  const kept = await fetch(`${mediaAddress(hash)}/waveform`).catch(() => null);
  if (kept?.ok) {
    const bytes = new Uint8Array(await kept.arrayBuffer());
    useRecordings.setState(({ outlines }) => ({ outlines: new Map(outlines).set(hash, bytes) }));
    return;
  }
  await sound;
  const samples = useRecordings.getState().decoded.get(hash);
  if (!samples) return;
  // A sound without one is a sound all the same.
  const made = outlineOf(samples, SAMPLE_RATE, mediaLimits.waveform);
  await api.putWaveform(hash, new Blob([made], { type: 'application/octet-stream' })).catch(() => undefined);
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
