import { linksIn, mediaOfOwn, type Shot } from '@varrup/core';
import sharp from 'sharp';
import type { DataSource } from 'typeorm';
import { digest, sealOfVersion } from '../store/seals.ts';
import type { Tell } from './told.ts';

/** A shot as it stands in the list of shots. */
export interface Row {
  readonly id: string;
  readonly name: string;
  readonly production_id: string;
  readonly frames: number;
  readonly rate: number;
  readonly links: unknown;
  readonly revision: number;
  readonly snapshot_revision: number;
  readonly snapshots: number;
  readonly seal: string;
}

/** Holds what stands beside a shot against the shot: its row in the list, what it needs of the store, its card, its named versions. */
export async function verifyRow(database: DataSource, row: Row, shot: Shot | null, tell: Tell): Promise<void> {
  if (shot) {
    const of = [
      ['name', row.name, shot.name],
      ['length', row.frames, shot.range.last - shot.range.first + 1],
      ['rate', row.rate, shot.rate],
    ] as const;
    for (const [what, listed, own] of of)
      if (listed !== own) tell(`its ${what} is ${own}, and the list says ${listed}`);
    const [listed, own] = [row.links, linksIn(shot)].map((links) => JSON.stringify(sorted(links)));
    if (listed !== own) tell('the list says that it links other rigs');
    await verifyNeeds(database, row.id, mediaOfOwn(shot), tell);
  }
  await verifyCard(database, row.id, tell);
  await verifyVersions(database, row, tell);
}

/** Links as lists of their values, in an order of their own: a database gives names back in another one. */
const sorted = (links: unknown): unknown =>
  (links as { rig: string; version: number }[]).map(({ rig, version }) => `${rig}@${version}`).sort();

async function verifyNeeds(database: DataSource, shot: string, hashes: readonly string[], tell: Tell): Promise<void> {
  const rows: { hash: string; there: boolean; noted: boolean }[] = await database.query(
    `SELECT n.hash, m.hash IS NOT NULL AS there, u.hash IS NOT NULL AS noted
       FROM unnest($1::text[]) AS n (hash) LEFT JOIN media m ON m.hash = n.hash
       LEFT JOIN media_uses u ON u.hash = n.hash AND u.used_by = $2`,
    [hashes, `shot:${shot}`],
  );
  for (const { hash, there, noted } of rows)
    if (!there) tell(`needs ${hash}, a sound, picture or footage that is not there`);
    else if (!noted) tell(`needs ${hash}, and it is not noted that it does, so that it would be deleted as unused`);
}

async function verifyCard(database: DataSource, shot: string, tell: Tell): Promise<void> {
  const [card]: { bytes: Buffer; hash: string }[] = await database.query(
    'SELECT bytes, hash FROM pictures WHERE shot_id = $1',
    [shot],
  );
  if (!card) return;
  const reads = await sharp(card.bytes, { failOn: 'warning' })
    .stats()
    .catch(() => null);
  if (digest(card.bytes) !== card.hash || !reads) tell('the picture on its card is not what was put in');
}

async function verifyVersions(database: DataSource, row: Row, tell: Tell): Promise<void> {
  const versions: { id: string; shotId: string; name: string; revision: number; seal: string }[] = await database.query(
    'SELECT id, shot_id AS "shotId", name, revision, seal FROM versions WHERE shot_id = $1 ORDER BY revision',
    [row.id],
  );
  for (const version of versions) {
    if (version.seal !== sealOfVersion(version)) tell(`its version "${version.name}" is not what was put in`);
    if (version.revision > row.revision)
      tell(`its version "${version.name}" is of revision ${version.revision}, which it does not have`);
  }
}
