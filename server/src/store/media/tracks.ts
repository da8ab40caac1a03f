import { type MediaKind, mediaLimits } from '@varrup/core';
import { CustomSource, FLAC, Input, MATROSKA, MP3, MP4, OGG, QTFF, WAVE, WEBM } from 'mediabunny';

/** Bytes that can be read from anywhere. */
export interface Readable {
  readonly size: number;
  read(first: number, count: number): Promise<Uint8Array>;
}

const formats = { wav: [WAVE], mp3: [MP3], ogg: [OGG], flac: [FLAC], mp4: [MP4, QTFF], webm: [WEBM, MATROSKA] };
export type TrackKind = Exclude<MediaKind, 'png' | 'jpeg'>;

/** So many bytes are read at once and kept: a file is gone along in steps of a few bytes. */
const PIECE = 1_048_576;

/** What is wrong with a sound or with footage, as a sentence; null where its tracks read and last some time. */
export async function problemOf(kind: TrackKind, of: 'sound' | 'footage', bytes: Readable): Promise<string | null> {
  const pieces = new Pieces(bytes);
  const input = new Input({
    formats: formats[kind],
    source: new CustomSource({
      getSize: () => bytes.size,
      read: (start, end) => pieces.read(start, end - start),
    }),
  });
  try {
    if (!(await input.canRead())) return `The ${of} is broken: it begins as one, and goes on as something else.`;
    const track = of === 'footage' ? await input.getPrimaryVideoTrack() : await input.getPrimaryAudioTrack();
    if (!track && (await input.getTracks()).length === 0) return `The ${of} is broken: there is nothing in it.`;
    if (!track) return of === 'footage' ? 'There is no picture in it, only sound.' : 'There is no sound in it.';
    const seconds = await track.computeDuration();
    if (!(seconds > 0)) return `The ${of} is empty, or broken: it lasts no time.`;
    return seconds > mediaLimits.seconds
      ? `It lasts ${Math.round(seconds / 60)} minutes; up to 120 can be kept.`
      : null;
  } catch {
    return `The ${of} is broken.`;
  } finally {
    input.dispose();
  }
}

/** Reads pieces of a file, and keeps the last few. */
class Pieces {
  readonly #bytes: Readable;
  readonly #kept = new Map<number, Promise<Uint8Array>>();

  constructor(bytes: Readable) {
    this.#bytes = bytes;
  }

  async read(first: number, count: number): Promise<Uint8Array> {
    const result = new Uint8Array(count);
    for (let at = first; at < first + count; ) {
      const piece = Math.floor(at / PIECE);
      const bytes = await this.#piece(piece);
      const from = at - piece * PIECE;
      const part = bytes.subarray(from, from + first + count - at);
      if (part.length === 0) break;
      result.set(part, at - first);
      at += part.length;
    }
    return result;
  }

  #piece(piece: number): Promise<Uint8Array> {
    const kept = this.#kept.get(piece);
    if (kept) return kept;
    const [first, count] = [piece * PIECE, Math.min(PIECE, this.#bytes.size - piece * PIECE)];
    const read = this.#bytes.read(first, count);
    this.#kept.set(piece, read);
    for (const oldest of this.#kept.keys()) if (this.#kept.size > 4) this.#kept.delete(oldest);
    return read;
  }
}
