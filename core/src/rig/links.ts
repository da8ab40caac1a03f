import { IdSchema, RigVersionSchema } from '../schema/ids.ts';
import { Table } from '../table/table.ts';
import { linkName, type RigLink } from './rigs.ts';

/** More different rigs than this no shot links. */
export const MOST_LINKS = 500;

/**
 * The rigs a document links, each once. It may be anything: what is asked of it here is only what must be known before it can be
 * read.
 */
export function linksIn(document: unknown): RigLink[] {
  const found = new Map<string, RigLink>();
  for (const member of membersIn(document)) {
    const { kind, shape } = (member ?? {}) as { kind?: unknown; shape?: { rig?: unknown; version?: unknown } };
    if (kind !== 'rig' || found.size >= MOST_LINKS) continue;
    const rig = IdSchema.safeParse(shape?.rig);
    const version = RigVersionSchema.safeParse(shape?.version);
    // What cannot be a link leads nowhere, which reading the document says.
    if (!rig.success || !version.success) continue;
    const link = { rig: rig.data, version: version.data };
    found.set(linkName(link), link);
  }
  return [...found.values()];
}

/** The members of a document, however they are held. */
function membersIn(document: unknown): unknown[] {
  const members = (document as { members?: unknown } | null)?.members;
  if (members instanceof Table) return members.values();
  return typeof members === 'object' && members !== null ? Object.values(members) : [];
}
