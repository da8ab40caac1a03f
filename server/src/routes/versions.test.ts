import { addMember, newMember, perform, SHOT_VERSION, type Shot, type VersionSummary } from '@varrup/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { packed } from '../store/packing.ts';
import { openedFrom, startTestServer, type TestServer } from '../testing/server.ts';

let server: TestServer;
let shot = '';
beforeAll(async () => {
  server = await startTestServer();
  const made = async (path: string, name: string) =>
    ((await server.send('POST', path, { name })).body as { id: string }).id;
  shot = await made(`/api/productions/${await made('/api/productions', 'Versions')}/shots`, 'Ropes');
});
afterAll(() => server.close());

const open = () => openedFrom(server, shot);
const list = async () =>
  ((await server.send('GET', `/api/shots/${shot}/versions`)).body as { versions: VersionSummary[] }).versions;
const bringIn = async (id: string) => {
  const { document, revision } = await open();
  const { inverse: _, ...edit } = perform(document, addMember, {
    member: newMember(document, { kind: 'box', id }),
  })!.edit;
  await server.send('POST', `/api/shots/${shot}/edits`, { base: revision, edits: [edit] });
};

test('a version keeps the shot as it was, however it goes on', async () => {
  await bringIn('first');
  const kept = (await server.send('POST', `/api/shots/${shot}/versions`, { name: 'Before the wind' })).body as {
    id: string;
  };
  await bringIn('second');
  expect(await list()).toMatchObject([{ id: kept.id, name: 'Before the wind', revision: 1 }]);
  const { document } = (await server.send('GET', `/api/shots/${shot}/versions/${kept.id}`)).body as { document: Shot };
  expect(Object.keys(document.members)).toEqual(['first']);
  expect([...(await open()).document.members.keys()].sort()).toEqual(['first', 'second']);
});

test('versions are listed newest first, and deleted', async () => {
  const later = (await server.send('POST', `/api/shots/${shot}/versions`, { name: 'After the wind' })).body as {
    id: string;
  };
  expect((await list()).map((v) => v.name)).toEqual(['After the wind', 'Before the wind']);
  expect((await server.send('DELETE', `/api/shots/${shot}/versions/${later.id}`)).status).toBe(204);
  expect((await list()).map((v) => v.name)).toEqual(['Before the wind']);
});

test.each([
  ['GET', 'versions/nobody', undefined, 404],
  ['DELETE', 'versions/nobody', undefined, 404],
  ['POST', 'versions', { name: '' }, 400],
  ['POST', 'versions', { title: 'x' }, 400],
])('%s %s with %j is refused with a sentence', async (method, path, body, status) => {
  const answer = await server.send(method, `/api/shots/${shot}/${path}`, body);
  expect(answer.status).toBe(status);
  expect((answer.body as { error: string }).error).toMatch(/\.$/);
});

test('a shot kept by the first version of the document opens as one of today', async () => {
  const { document } = await open();
  const { sets: _, ...old } = document;
  const { bytes, hash } = await packed(JSON.stringify({ ...old, version: 1 }));
  await server.database.query(
    `INSERT INTO snapshots (shot_id, revision, document, hash) SELECT id, revision, $2, $3 FROM shots WHERE id = $1`,
    [shot, bytes, hash],
  );
  await server.database.query('UPDATE shots SET snapshot_revision = revision WHERE id = $1', [shot]);
  expect((await open()).document).toMatchObject({ version: SHOT_VERSION, sets: {}, formulas: {} });
  await bringIn('third');
  expect([...(await open()).document.members.keys()]).toContain('third');
});
