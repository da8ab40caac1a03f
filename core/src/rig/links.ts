import type { Shot } from '../document/shot.ts';
import type { Rig } from './definition.ts';
import { findRig, learnRig, type RigLink } from './library.ts';

/** More different rigs than this no shot links. */
export const MOST_LINKS = 500;

/**
 * The rigs a document links, each once. It may be anything: what is asked of it here is only what must be known before it can be
 * read.
 */
export function linksIn(document: unknown): RigLink[] {
  const members = (document as { members?: unknown } | null)?.members;
  if (typeof members !== 'object' || members === null) return [];
  const found = new Map<string, RigLink>();
  for (const member of Object.values(members)) {
    const { kind, shape } = (member ?? {}) as { kind?: unknown; shape?: { rig?: unknown; version?: unknown } };
    if (kind !== 'rig' || typeof shape?.rig !== 'string' || typeof shape.version !== 'number') continue;
    if (found.size < MOST_LINKS) {
      const { rig, version } = shape;
      found.set(`${rig}@${version}`, { rig, version });
    }
  }
  return [...found.values()];
}

/** Those of a document's rigs that are not known here yet. */
export const unknownLinks = (document: unknown): RigLink[] => linksIn(document).filter((link) => !findRig(link));

/** The rigs a shot links, to be sent with it to where they are not known. */
export const linkedRigs = (shot: Shot): Rig[] => linksIn(shot).flatMap((link) => findRig(link)?.rig ?? []);

export function learnRigs(rigs: readonly Rig[]): void {
  for (const rig of rigs) learnRig(rig);
}
