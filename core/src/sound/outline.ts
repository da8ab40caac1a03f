import { loudness } from './mixdown.ts';

/**
 * The outline of a sound: how loud it is at its loudest, a hundred times a second or, of a long one, as often as there is room for. It is
 * made once and kept beside the sound, so that its shape is there before the sound is decoded. Two bytes say how many there are a second,
 * the lower one first, times ten; then a byte each, 255 for the loudest there is.
 */
const OFTEN = 100;
const HEAD = 2;

/**
 * @param samples of one channel, from −1 to 1
 * @param sampleRate samples a second
 * @param most bytes it may have
 */
export function outlineOf(samples: Float32Array, sampleRate: number, most: number): Uint8Array<ArrayBuffer> {
  const seconds = samples.length / sampleRate;
  const tenths = Math.max(1, Math.min(OFTEN * 10, Math.floor(((most - HEAD - 1) / Math.max(seconds, 1e-6)) * 10)));
  const count = Math.min(most - HEAD, Math.ceil((seconds * tenths) / 10));
  const out = new Uint8Array(HEAD + count);
  out[0] = tenths & 255;
  out[1] = tenths >> 8;
  // Exactly as many samples a point as its rate says, whatever the sound ends with.
  const per = (sampleRate * 10) / tenths;
  for (let i = 0; i < count; i++) {
    const part = samples.subarray(Math.floor(i * per), Math.floor((i + 1) * per));
    out[HEAD + i] = Math.round(255 * Math.min(1, loudness(part, 1)[0]));
  }
  return out;
}

/** Whether bytes can be an outline with room for `most` bytes: as often a second as it says there was room for, and of no longer than `seconds`. */
export function isOutline(bytes: Uint8Array, most: number, seconds: number): boolean {
  const tenths = bytes[0] + bytes[1] * 256;
  const count = bytes.length - HEAD;
  if (!(count >= 1) || bytes.length > most || tenths < 1 || tenths > OFTEN * 10) return false;
  const [shortest, longest] = [(count - 1) * 10, count * 10].map((n) => n / tenths);
  // Where there are fewer a second than often, there was no room for more.
  return shortest <= seconds && (tenths === OFTEN * 10 || tenths >= Math.floor(((most - HEAD - 1) / longest) * 10));
}

/** The loudest of each of some equal parts between two seconds of a sound, as `loudness` gives it; nothing beyond its end. */
export function outlinePart(outline: Uint8Array, from: number, until: number, parts: number): Float32Array {
  const rate = (outline[0] + outline[1] * 256) / 10;
  const out = new Float32Array(parts);
  for (let p = 0; p < parts; p++) {
    const at = (share: number) => (from + share * (until - from)) * rate;
    const [first, end] = [Math.floor(at(p / parts)), Math.max(at((p + 1) / parts), Math.floor(at(p / parts)) + 1)];
    for (let i = Math.max(0, first); i < end && HEAD + i < outline.length; i++)
      out[p] = Math.max(out[p], outline[HEAD + i] / 255);
  }
  return out;
}
