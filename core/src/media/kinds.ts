/** What media are: sounds and pictures that were brought in. They lie in the store once, and are known by what is in them. */
export const mediaKinds = {
  png: { of: 'picture', mime: 'image/png' },
  jpeg: { of: 'picture', mime: 'image/jpeg' },
  wav: { of: 'sound', mime: 'audio/wav' },
  mp3: { of: 'sound', mime: 'audio/mpeg' },
  ogg: { of: 'sound', mime: 'audio/ogg' },
  flac: { of: 'sound', mime: 'audio/flac' },
} as const;
export type MediaKind = keyof typeof mediaKinds;

/** Of one piece of media, in bytes, and of a picture, in pixels. */
export const mediaLimits = { bytes: 64_000_000, pixels: 67_108_864 } as const;

const at = (bytes: Uint8Array, offset: number, text: string): boolean => {
  for (let i = 0; i < text.length; i++) if (bytes[offset + i] !== text.charCodeAt(i)) return false;
  return true;
};

/** What bytes are by how they begin, whatever a file is called; null where that is nothing that can be brought in. */
export function mediaKindOf(bytes: Uint8Array): MediaKind | null {
  if (at(bytes, 0, '\x89PNG\r\n\x1a\n')) return 'png';
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'jpeg';
  if (at(bytes, 0, 'RIFF') && at(bytes, 8, 'WAVE')) return 'wav';
  if (at(bytes, 0, 'OggS')) return 'ogg';
  if (at(bytes, 0, 'fLaC')) return 'flac';
  // Words about the sound come first, or its first frame: eleven bits set, then a layer that is not the reserved one.
  if (at(bytes, 0, 'ID3') || (bytes[0] === 0xff && bytes[1] >= 0xe0 && (bytes[1] & 6) !== 0)) return 'mp3';
  return null;
}
