import { applyEdit, PatchError, parseChanged, parseShot, type Shot } from '@varrup/core';
import { api, type GivenShot } from '../api/client.ts';
import type { Journal, JournalRow } from './journal.ts';
import { linked } from './linked.ts';
import { keepCopy } from './saving.ts';

/** What the server has given, with the rigs its document links at hand. */
export type OpenedShot = Omit<GivenShot, 'snapshot'> & { readonly document: Shot };

/** A shot as the desk starts with it. */
export interface Opened {
  readonly opened: OpenedShot;
  /** The document with what dead windows had not sent yet. */
  readonly shot: Shot;
  /** Their rows, still to be sent. */
  readonly unsent: readonly JournalRow[];
  /** Copies made of what could not be joined with the server's document. */
  readonly copies: readonly { id: string; name: string }[];
}

/** What is kept of a shot cannot be read; the message is the place in the document. */
export class Unreadable extends Error {}

/** The shot with its rigs at hand, what the edits since its snapshot have changed read. @throws Unreadable */
async function readAsItIs({ snapshot, document }: GivenShot): Promise<Shot> {
  const shot = await linked(document);
  if (document === snapshot) return shot;
  const parsed = parseChanged({ ...snapshot, rigs: shot.rigs }, document, shot.rigs);
  if (!parsed.ok) throw new Unreadable(parsed.problems[0].pointer);
  return parsed.value;
}

/** Opens a shot and brings back what windows that died had not sent: edits are never lost, at worst kept beside. */
export async function openShot(id: string, journal: Journal): Promise<Opened> {
  const left = await journal.leftBehind(id);
  const given = await api.openShot(id);
  let shot = await readAsItIs(given);
  const opened = { ...given, document: shot };
  const unsent: JournalRow[] = [];
  const copies: { id: string; name: string }[] = [];
  for (const rows of left) {
    const base = Math.min(...rows.map((row) => row.base));
    const since = await api.editsSince(id, Math.min(base, opened.revision));
    const there = new Set(since.edits.map((edit) => edit.id));
    const mine = rows.filter((row) => !there.has(row.edit.id));
    await journal.remove(rows.filter((row) => there.has(row.edit.id)));
    if (mine.length === 0) continue;
    const { next, all } = await appliedTo(shot, mine);
    const others = since.edits.some((edit) => !rows.some((row) => row.edit.id === edit.id));
    if (all && !others && unsent.length === 0) {
      shot = next;
      unsent.push(...mine);
    } else {
      // Made on a document the server has since left: kept as a shot of its own, with every edit that fits the document
      // as it is now, and dropped from the journal only when that shot is committed.
      copies.push(await keepCopy(opened.production.id, next));
      await journal.remove(mine);
    }
  }
  return { opened, shot, unsent, copies };
}

/** A shot with those journal rows applied that fit it, and whether all did. */
async function appliedTo(shot: Shot, rows: readonly JournalRow[]): Promise<{ next: Shot; all: boolean }> {
  let next = shot;
  let all = true;
  for (const { edit } of rows) {
    try {
      const candidate = await linked(applyEdit(next, edit));
      if (parseShot(candidate, candidate.rigs).ok) next = candidate;
      else all = false;
    } catch (error) {
      if (!(error instanceof PatchError)) throw error;
      all = false;
    }
  }
  return { next, all };
}
