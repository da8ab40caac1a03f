import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { strFromU8, unzipSync } from 'fflate';
import { z } from 'zod';
import type { Shot } from '../../document/shot.ts';
import { type Media, mediaKindOf, mediaOfShot } from '../../media/index.ts';
import { parseShot } from '../../parse/index.ts';
import { linksIn } from '../../rig/links.ts';
import { type NewPose, NewPoseSchema } from '../../rig/pose-book.ts';
import { parseRig } from '../../rig/problems.ts';
import { Rigs } from '../../rig/rigs.ts';
import { problemText } from '../../schema/problem.ts';
import { Refused } from '../../schema/refused.ts';
import { ARCHIVE_VERSION, type Archive, archiveLimits, MANIFEST, type Manifest, ManifestSchema } from './archive.ts';

/** Reads an archive, looking through all of it first. @throws Refused with the file that is wrong, and how */
export function readArchive(bytes: Uint8Array): Archive {
  const files = unpacked(bytes);
  const manifest = manifestOf(files);
  const rigs = manifest.rigs.map((entry) => {
    const parsed = parseRig(jsonOf(files, entry));
    if (!parsed.ok) throw new Refused(`${entry.file}: ${problemText(parsed.problems[0])}`);
    if (parsed.value.id !== entry.rig || parsed.value.version !== entry.version)
      throw new Refused(`${entry.file}: is not version ${entry.version} of ${entry.rig}, as the manifest says.`);
    return parsed.value;
  });
  const document = jsonOf(files, manifest.shot);
  const known = Rigs.of(rigs);
  const lacking = linksIn(document).filter((link) => !known.find(link));
  if (lacking.length > 0)
    throw new Refused(`The archive lacks version ${lacking[0].version} of the rig ${lacking[0].rig}.`);
  const parsed = parseShot(document, known);
  if (!parsed.ok) throw new Refused(`${manifest.shot.file}: ${problemText(parsed.problems[0])}`);
  return {
    shot: parsed.value,
    poses: new Map(manifest.poses.map((entry) => [entry.rig, posesOf(files, entry)])),
    media: mediaIn(files, manifest, parsed.value),
  };
}

/** The media that a shot needs. */
function mediaIn(files: Files, manifest: Manifest, shot: Shot): Media {
  const entries = new Map(manifest.media.map((entry) => [entry.sha256, entry]));
  return new Map(
    mediaOfShot(shot).map((hash) => {
      const entry = entries.get(hash);
      if (!entry) throw new Refused('The archive lacks a sound or a picture of its shot.');
      const bytes = bytesOf(files, entry);
      if (mediaKindOf(bytes) === null) throw new Refused(`${entry.file}: is neither a sound nor a picture.`);
      return [hash, bytes];
    }),
  );
}

type Files = Readonly<Record<string, Uint8Array>>;

function unpacked(bytes: Uint8Array): Files {
  if (bytes.length > archiveLimits.packed) throw new Refused('The archive is larger than 300 MB.');
  let [size, count] = [0, 0];
  try {
    return unzipSync(bytes, {
      filter({ originalSize }) {
        size += originalSize;
        count++;
        if (size > archiveLimits.unpacked) throw new Refused('The archive unpacks to more than 800 MB.');
        if (count > archiveLimits.files) throw new Refused(`The archive has more than ${archiveLimits.files} files.`);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof Refused) throw error;
    throw new Refused('It is no archive, or a broken one.');
  }
}

function manifestOf(files: Files): Manifest {
  if (!Object.hasOwn(files, MANIFEST)) throw new Refused(`It is no archive of Varrup: it has no ${MANIFEST}.`);
  const parsed = ManifestSchema.safeParse(jsonIn(files[MANIFEST], MANIFEST));
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new Refused(`${MANIFEST}: ${issue.path.join('.')} ${issue.message}.`);
  }
  if (parsed.data.version > ARCHIVE_VERSION)
    throw new Refused(`The archive is of version ${parsed.data.version}; up to ${ARCHIVE_VERSION} can be read here.`);
  return parsed.data;
}

const jsonOf = (files: Files, entry: Entry): unknown => jsonIn(bytesOf(files, entry), entry.file);

interface Entry {
  readonly file: string;
  readonly sha256: string;
}

function bytesOf(files: Files, { file, sha256: hash }: Entry): Uint8Array {
  if (!Object.hasOwn(files, file)) throw new Refused(`${file}: is in the manifest and not in the archive.`);
  if (bytesToHex(sha256(files[file])) !== hash)
    throw new Refused(`${file}: is not what the manifest says: it was changed.`);
  return files[file];
}

function jsonIn(bytes: Uint8Array, file: string): unknown {
  try {
    return JSON.parse(strFromU8(bytes));
  } catch {
    throw new Refused(`${file}: is not JSON.`);
  }
}

function posesOf(files: Files, entry: Manifest['poses'][number]): NewPose[] {
  const parsed = z.array(NewPoseSchema).max(2_000).safeParse(jsonOf(files, entry));
  if (parsed.success) return parsed.data;
  throw new Refused(`${entry.file}: ${parsed.error.issues[0].message}.`);
}
