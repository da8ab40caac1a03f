import { applyEdit, emptyShot, OpenShotSchema, SHOT_VERSION, smoothKey } from '@varrup/core';
import { DataSource } from 'typeorm';
import { afterEach, expect, test } from 'vitest';
import { migrations, openDatabase } from '../database.ts';
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

const ball = {
  id: 'float',
  kind: 'ball',
  name: 'Float',
  parent: null,
  rank: 0,
  shape: { radius: 0.2 },
};
const documentOf = (version: number) => {
  const {
    sets,
    formulas,
    recipes,
    sounds,
    watch,
    aside,
    clips,
    rigs: _,
    ...rest
  } = emptyShot('s1', 'Float on the steps');
  const later = [{ sets }, { formulas, recipes, sounds, watch }, { aside }, { clips }].slice(0, version - 1);
  return JSON.parse(JSON.stringify(Object.assign({ ...rest, version, members: { float: ball } }, ...later)));
};
const curve = (value: number) => ({ type: 'number', keys: [smoothKey(1, value)], before: 'hold', after: 'hold' });
const keyed = [{ op: 'add', path: '/curves/float.move.y', value: curve(0.5) }];
const named = [{ op: 'replace', path: '/name', value: 'Float, afloat' }];

/** A production with a shot that has been edited twice since its snapshot, and one whose last edit has left it wrong. */
async function fill(query: DataSource['query'], version: number): Promise<void> {
  await query(`INSERT INTO productions (id, name) VALUES ('p1', 'Night Ferry')`);
  for (const id of ['s1', 's2']) {
    await query(
      `INSERT INTO shots (id, production_id, name, frames, rate, revision, snapshot, snapshot_revision, changed_at)
       VALUES ($1, 'p1', 'Float on the steps', 96, 24, 3, $2, 1, now())`,
      [id, JSON.stringify({ ...documentOf(version), id })],
    );
    const last = id === 's1' ? named : [{ op: 'replace', path: '/rate', value: 0 }];
    for (const [i, patches] of [keyed, last].entries())
      await query(
        `INSERT INTO edits (shot_id, revision, edit_id, command, label, patches) VALUES ($1, $2, $3, 'key.set', 'key', $4)`,
        [id, 2 + i, `edit${i}`, JSON.stringify(patches)],
      );
  }
}

const opened = async (store: Store, id: string) => {
  const given = OpenShotSchema.parse(JSON.parse(Buffer.concat(await openShot(store, id)).toString()));
  return { ...given, document: given.edits.reduce(applyEdit, given.document) };
};

test.each([
  ['with shots alone', 1, 1],
  ['with named versions', 2, 2],
  ['with rigs', 3, 3],
  ['with rigs and documents of the last version', 3, 4],
  ['with clips', 3, SHOT_VERSION],
])('the data of a Varrup %s', async (_, count, version) => {
  const before = await earlier(count);
  await fill(before.query, version);
  if (count > 1)
    await before.query(
      `INSERT INTO versions (id, shot_id, name, revision, document) VALUES ('v1', 's1', 'Before the wind', 1, $1)`,
      [JSON.stringify(documentOf(version))],
    );
  const database = await openDatabase(before.url);
  ends.push(() => database.destroy());
  // The demo does not come to those who have work of their own.
  expect(await database.query('SELECT value FROM house')).toEqual([{ value: 'brought in' }]);
  const store = new Store(database, () => {});

  const shot = await opened(store, 's1');
  expect(shot).toMatchObject({ revision: 3, production: { name: 'Night Ferry' } });
  expect(shot.document).toMatchObject({ version: SHOT_VERSION, name: 'Float, afloat' });
  expect(shot.document.curves.at('float.move.y').keys[0].value).toBe(0.5);
  expect(shot.document.members.at('float').locked).toBe(false);
  // Of the one that is wrong nothing is lost either: its snapshot and its log are as they were.
  const [wrong] = await database.query('SELECT revision, snapshot_revision FROM shots WHERE id = $1', ['s2']);
  expect(wrong).toEqual({ revision: 3, snapshot_revision: 1 });
  expect(await database.query('SELECT patches FROM edits WHERE shot_id = $1 ORDER BY revision', ['s2'])).toHaveLength(
    2,
  );
  if (count > 1) {
    const kept = await openVersion(store, 's1', 'v1');
    expect(kept).toMatchObject({ name: 'Float on the steps', version: SHOT_VERSION });
    expect(kept.curves.size).toBe(0);
  }
});
