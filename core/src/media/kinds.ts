/** What media are: sounds, pictures and footage that were brought in. They lie in the store once, and are known by what is in them. */
export const mediaKinds = {
  png: { of: 'picture', mime: 'image/png' },
  jpeg: { of: 'picture', mime: 'image/jpeg' },
  wav: { of: 'sound', mime: 'audio/wav' },
  mp3: { of: 'sound', mime: 'audio/mpeg' },
  ogg: { of: 'sound', mime: 'audio/ogg' },
  flac: { of: 'sound', mime: 'audio/flac' },
  mp4: { of: 'footage', mime: 'video/mp4' },
  webm: { of: 'footage', mime: 'video/webm' },
} as const;
export type MediaKind = keyof typeof mediaKinds;

/** Of one piece of media, in bytes, by what it is; and of a picture, in pixels. */
export const mediaLimits = {
  bytes: { picture: 64_000_000, sound: 64_000_000, footage: 1_000_000_000 },
  pixels: 67_108_864,
  /** Of a sound or of footage. */
  seconds: 7_200,
  /** Of a poster and of a waveform, which are made once of what was brought in. */
  poster: 400_000,
  waveform: 100_000,
} as const;

/** What can be brought in, as people say it. */
export const MEDIA_WORDS = 'sound (WAV, MP3, OGG, FLAC), picture (PNG, JPEG) or footage (MP4, WebM)';

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
  if (at(bytes, 4, 'ftyp')) return 'mp4';
  if (at(bytes, 0, '\x1a\x45\xdf\xa3')) return 'webm';
  // Words about the sound come first, or its first frame: eleven bits set, then a layer that is not the reserved one.
  if (at(bytes, 0, 'ID3') || (bytes[0] === 0xff && bytes[1] >= 0xe0 && (bytes[1] & 6) !== 0)) return 'mp3';
  return null;
}
