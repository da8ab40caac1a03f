import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { strToU8, zipSync } from 'fflate';
import { documentOf } from '../../document/shot.ts';
import { mediaKindOf, mediaOfShot } from '../../media/index.ts';
import { linksIn } from '../../rig/links.ts';
import { Rigs } from '../../rig/rigs.ts';
import { Refused } from '../../schema/refused.ts';
import { ARCHIVE_VERSION, type Archive, MANIFEST, type Manifest } from './archive.ts';

/** The same moment in every archive: what is in it decides its bytes, and nothing else. */
const MOMENT = new Date(2000, 0, 1);

/** Writes an archive, which {@link readArchive} reads. The same shot makes the same bytes. @throws Refused where media lack */
export function writeArchive({ shot, poses, media }: Archive): Uint8Array {
  const files: Record<string, Uint8Array> = {};
  const put = (file: string, json: unknown) => {
    const bytes = strToU8(JSON.stringify(json));
    files[file] = bytes;
    return { file, sha256: bytesToHex(sha256(bytes)), bytes: bytes.length };
  };
  const rigs = shot.rigs.only(linksIn(shot)).list;
  const needed = mediaOfShot({ ...shot, rigs: Rigs.of(rigs) });
  const lacking = needed.filter((hash) => !media.has(hash));
  if (lacking.length > 0)
    throw new Refused(`${lacking.length} of the sounds and pictures of the shot are not at hand.`);
  const stored: Record<string, [Uint8Array, { level: 0 }]> = {};
  const books = [...poses].filter(([rig]) => rigs.some((r) => r.id === rig));
  const manifest: Manifest = {
    is: 'varrup archive',
    version: ARCHIVE_VERSION,
    shot: { ...put('shot.json', documentOf(shot)), name: shot.name, document: shot.version },
    rigs: rigs.map((rig) => ({ ...put(`rigs/${rig.id}@${rig.version}.json`, rig), rig: rig.id, version: rig.version })),
    poses: books.map(([rig, book]) => ({ ...put(`poses/${rig}.json`, book), rig, count: book.length })),
    media: needed.map((hash) => {
      const bytes = media.get(hash)!;
      const name = `media/${hash}.${mediaKindOf(bytes)}`;
      // They are packed already.
      stored[name] = [bytes, { level: 0 }];
      return { file: name, sha256: hash, bytes: bytes.length };
    }),
  };
  const text = strToU8(`${JSON.stringify(manifest, null, 2)}\n`);
  return zipSync({ [MANIFEST]: text, ...files, ...stored }, { level: 6, mtime: MOMENT });
}
