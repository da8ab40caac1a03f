import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { digest } from './seals.ts';

/** Documents as they are kept: JSON, packed off the main thread, and known by a hash of the text. */

const pack = promisify<Buffer, { level: number }, Buffer>(gzip);
const unpack = promisify<Buffer, Buffer>(gunzip);

export async function packed(text: string): Promise<{ bytes: Buffer; hash: string }> {
  const plain = Buffer.from(text);
  // The quickest level: keys are much alike, and pack to a twelfth with it.
  return { bytes: await pack(plain, { level: 1 }), hash: digest(plain) };
}

/** The text of what was packed. */
export const unpacked = (bytes: Buffer): Promise<Buffer> => unpack(bytes);
