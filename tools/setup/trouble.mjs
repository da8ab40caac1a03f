import { statfsSync } from 'node:fs';
import { userInfo } from 'node:os';
import { dirname } from 'node:path';

/** What the system says of a file, in a sentence that says what to do. Nothing has been changed where one of these is said. */
const SENTENCES = {
  ENOSPC: (path) => `The disk is full: ${path} cannot be written${room(path)}. Make room on it and try again.`,
  EDQUOT: (path) => `Your share of the disk is used up: ${path} cannot be written. Delete something and try again.`,
  EACCES: (path) => notAllowed(path),
  EPERM: (path) => notAllowed(path),
  EROFS: (path) => `${path} is on a disk that is mounted read-only. Mount it for writing, or choose another place.`,
  ENOTDIR: (path) => `${path} is not inside a folder: a part of this path is a file. Choose another path.`,
  EEXIST: (path) => `${path} is a file, and a folder is needed. Choose another path.`,
  EISDIR: (path) => `${path} is a folder, and a file is needed. Choose another path.`,
  ENOENT: (path) => `${path} does not exist. Check the path, or make the folder first.`,
  ENAMETOOLONG: (path) => `The path ${path.slice(0, 80)}… is too long. Choose a shorter one.`,
  ELOOP: (path) => `${path} is a link that leads to itself. Choose another path.`,
  EIO: (path) => `The disk does not read or write ${path}. Check the disk before you go on; a backup may be needed.`,
  EMFILE: () => 'Too many files are open on this machine. Close other programs and try again.',
};

const notAllowed = (path) =>
  `The user ${user()} may not use ${path}. Have its owner give access, or choose another place.`;

/** The name of the user who runs this. */
export function user() {
  try {
    return userInfo().username;
  } catch {
    return String(process.getuid?.());
  }
}

/** An error of the file system as a sentence; null for any other error. */
export function sentenceOf(error) {
  const words = Object.hasOwn(SENTENCES, error?.code ?? '') ? SENTENCES[error.code] : null;
  return words && error.syscall ? words(error.dest ?? error.path ?? 'a file') : null;
}

/** How many bytes are free for an ordinary user on the disk of a path, which need not be there yet. */
export function freeBytes(path) {
  for (let at = path; ; at = dirname(at)) {
    try {
      const { bavail, bsize } = statfsSync(at);
      return bavail * bsize;
    } catch (error) {
      if (error.code !== 'ENOENT' || at === dirname(at)) return Number.POSITIVE_INFINITY;
    }
  }
}

export const megabytes = (bytes) => `${Math.floor(bytes / 1e6)} MB`;

function room(path) {
  const free = freeBytes(path);
  return Number.isFinite(free) ? ` (${megabytes(free)} are free)` : '';
}
