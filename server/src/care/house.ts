import { mediaOfRig, parseRig } from '@varrup/core';
import type { DataSource } from 'typeorm';
import { sealOfPose, sealOfProduction, sealOfRig } from '../store/seals.ts';
import type { Tell } from './told.ts';

/** Looks whether what belongs to no shot is as it was put in: productions, rigs of the library with what they need, poses. */
export async function verifyHouse(database: DataSource, tell: Tell): Promise<void> {
  const productions: { id: string; name: string; seal: string }[] = await database.query(
    'SELECT id, name, seal FROM productions ORDER BY name, id',
  );
  for (const row of productions)
    if (row.seal !== sealOfProduction(row)) tell(`the production "${row.name}" (${row.id}) is not what was put in`);

  const poses: (Parameters<typeof sealOfPose>[0] & { seal: string })[] = await database.query(
    'SELECT id, rig_id AS "rigId", name, tags, channel_values AS "values", seal FROM poses ORDER BY id',
  );
  for (const row of poses)
    if (row.seal !== sealOfPose(row)) tell(`the pose "${row.name}" (${row.id}) of ${row.rigId} is not what was put in`);

  const versions: { rigId: string; version: number }[] = await database.query(
    'SELECT rig_id AS "rigId", version FROM rig_versions ORDER BY rig_id, version',
  );
  for (const { rigId, version } of versions) await verifyRig(database, rigId, version, tell);
}

async function verifyRig(database: DataSource, rigId: string, version: number, tell: Tell): Promise<void> {
  const [row]: (Parameters<typeof sealOfRig>[0] & { seal: string })[] = await database.query(
    `SELECT rig_id AS "rigId", version, name, changes, definition, seal
       FROM rig_versions WHERE rig_id = $1 AND version = $2`,
    [rigId, version],
  );
  const parsed = parseRig(row.definition);
  const name = `version ${version} of the rig ${rigId}`;
  if (row.seal !== sealOfRig(row)) tell(`${name} is not what was put in`);
  else if (!parsed.ok) tell(`${name} does not read: ${parsed.problems[0].pointer} ${parsed.problems[0].sentence}`);
  if (!parsed.ok) return;
  const hashes = mediaOfRig(parsed.value);
  const there: { hash: string }[] = await database.query(
    'SELECT m.hash FROM media m JOIN media_uses u ON u.hash = m.hash WHERE m.hash = ANY($1) AND u.used_by = $2',
    [hashes, `rig:${rigId}`],
  );
  for (const hash of hashes)
    if (!there.some((row) => row.hash === hash)) tell(`${name} needs the picture ${hash}, which is not kept for it`);
}
