import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** Bytes by their hash. */
export type Media = ReadonlyMap<string, Uint8Array>;

/** What bytes are known by (SHA-256). */
export const mediaHash = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** The hash of bytes that come piece by piece. */
export class MediaHash {
  readonly #hash = sha256.create();

  take(bytes: Uint8Array): void {
    this.#hash.update(bytes);
  }

  done(): string {
    return bytesToHex(this.#hash.digest());
  }
}
