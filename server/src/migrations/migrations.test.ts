import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliDecompressSync } from 'node:zlib';
import {
  applyEdit,
  emptyShot,
  mediaHash,
  migrate,
  newId,
  OpenShotSchema,
  SHOT_VERSION,
  ShotSchema,
} from '@varrup/core';
import { DataSource } from 'typeorm';
import { afterEach, expect, test } from 'vitest';
import { verify } from '../care/verify.ts';
import { migrations, openDatabase } from '../database.ts';
import { commitEdits } from '../store/commit.ts';
import { aboutMedia, readMedia } from '../store/media/index.ts';
import { openShot } from '../store/shots.ts';
import { Store } from '../store/store.ts';
import { openVersion } from '../store/versions.ts';

/** What earlier Varrups have kept is brought up to today with nothing lost. Each is what one of them had in its database. */

const admin = process.env.VARRUP_TEST_DATABASE!;
const ends: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

/** A database as the first so many migrations leave it. */
async function earlier(count: number): Promise<{ url: string; query: DataSource['query'] }> {
  const name = `earlier_${Date.now()}_${count}`;
  const source = await new DataSource({ type: 'postgres', url: admin }).initialize();
  await source.query(`CREATE DATABASE ${name}`);
  ends.push(async () => {
    await source.query(`DROP DATABASE ${name} WITH (FORCE)`);
    await source.destroy();
  });
  const url = new URL(admin);
  url.pathname = `/${name}`;
  const database = await new DataSource({
    type: 'postgres',
    url: url.href,
    migrations: migrations.slice(0, count),
  }).initialize();
  await database.runMigrations({ transaction: 'each' });
  ends.push(() => database.destroy());
  return { url: url.href, query: database.query.bind(database) };
}

interface Dump {
  /** The rows of every table. */
  readonly tables: Readonly<Record<string, readonly object[]>>;
  /** What that Varrup answered when its shots and named versions were opened. */
  readonly expected: Readonly<
    Record<string, Opened & { readonly versions: readonly (Opened & { readonly id: string })[] }>
  >;
}
interface Opened {
  readonly revision: number;
  readonly document: { readonly version: number };
}

/**
 * What a version of Varrup had in its database, made by that version itself: a demo shot that was copied, renamed, edited, and kept under
 * a name in between; another copy lies in the bin. Of the rigs only those that the shots link.
 */
const dumpOf = (version: string): Dump =>
  JSON.parse(brotliDecompressSync(readFileSync(join(import.meta.dirname, 'data', `${version}.json.br`))).toString());

const rows = (query: DataSource['query'], table: string, records: readonly object[]) =>
  query(`INSERT INTO ${table} SELECT * FROM json_populate_recordset(NULL::${table}, $1)`, [JSON.stringify(records)]);

const json = (value: unknown) => JSON.parse(JSON.stringify(value));

const opened = async (store: Store, id: string) => {
  const given = OpenShotSchema.parse(JSON.parse(Buffer.concat(await openShot(store, id)).toString()));
  return { ...given, document: given.edits.reduce(applyEdit, given.document) };
};

test('media lie in parts from then on, byte for byte', async () => {
  const before = await earlier(6);
  const [small, large] = [Buffer.from('a small one'), Buffer.alloc(2_500_000, 'a large one of many parts ')];
  for (const bytes of [small, large])
    await before.query('INSERT INTO media (hash, kind, bytes) VALUES ($1, $2, $3)', [mediaHash(bytes), 'wav', bytes]);
  const database = await openDatabase(before.url);
  ends.push(() => database.destroy());
  for (const bytes of [small, large]) {
    expect(await aboutMedia(database.manager, mediaHash(bytes))).toEqual({ kind: 'wav', size: bytes.length });
    const read = await readMedia(database.manager, mediaHash(bytes), 0, bytes.length);
    expect(read.equals(bytes)).toBe(true);
  }
  expect((await verify(database)).problems).toEqual([]);
});

test.each(['0.1.0', '0.2.0', '0.3.0', '0.4.0', '0.5.0'])(
  'all that a Varrup %s had is there, and opens',
  async (version) => {
    const { tables, expected } = dumpOf(version);
    const { migrations: done, ...kept } = tables;
    const before = await earlier(done.length);
    const order = ['productions', 'rig_versions', 'poses', 'shots', 'edits', 'versions', 'pictures'];
    expect(order).toEqual(expect.arrayContaining(Object.keys(kept)));
    for (const table of order) if (kept[table]) await rows(before.query, table, kept[table]);

    const database = await openDatabase(before.url);
    ends.push(() => database.destroy());
    const store = new Store(database, () => {});
    for (const [id, was] of Object.entries(expected)) {
      const now = await opened(store, id);
      expect(now.revision).toBe(was.revision);
      expect(json(now.document)).toEqual(json(ShotSchema.parse(migrate(was.document))));
      expect(now.document).toMatchObject({ version: SHOT_VERSION, rate: 25 });
      for (const { id: at, document } of was.versions)
        expect(json(await openVersion(store, id, at))).toEqual(json(ShotSchema.parse(migrate(document))));
    }
    // The demo does not come to those who have work of their own; what was in the bin is there still.
    expect(await database.query('SELECT value FROM house')).toEqual([{ value: 'brought in' }]);
    expect(await database.query('SELECT id FROM shots')).toHaveLength(kept.shots.length);
    // And it can be worked on.
    const [id] = Object.keys(expected);
    const { revision } = await opened(store, id);
    const patches = [{ op: 'replace' as const, path: '/name', value: 'Third take' }];
    await commitEdits(store, id, {
      base: revision,
      edits: [{ id: newId(), command: 'shot.rename', label: 'name', patches }],
    });
    expect((await opened(store, id)).document.name).toBe('Third take');
    expect((await verify(database)).problems).toEqual([]);
  },
);

test('of a shot whose last edit has left it wrong nothing is lost: snapshot and log are as they were', async () => {
  const before = await earlier(3);
  const { rigs: _, ...document } = emptyShot('s2', 'Float on the steps');
  await before.query(`INSERT INTO productions (id, name) VALUES ('p1', 'Night Ferry')`);
  await before.query(
    `INSERT INTO shots (id, production_id, name, frames, rate, revision, snapshot, snapshot_revision, changed_at)
     VALUES ('s2', 'p1', 'Float on the steps', 96, 24, 2, $1, 1, now())`,
    [JSON.stringify(document)],
  );
  await before.query(
    `INSERT INTO edits (shot_id, revision, edit_id, command, label, patches) VALUES ('s2', 2, 'e1', 'shot.rate', 'rate', $1)`,
    [JSON.stringify([{ op: 'replace', path: '/rate', value: 0 }])],
  );
  const database = await openDatabase(before.url);
  ends.push(() => database.destroy());
  const [wrong] = await database.query('SELECT revision, snapshot_revision FROM shots WHERE id = $1', ['s2']);
  expect(wrong).toEqual({ revision: 2, snapshot_revision: 1 });
  expect(await database.query('SELECT patches FROM edits WHERE shot_id = $1', ['s2'])).toHaveLength(1);
});
