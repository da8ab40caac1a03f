import { addMember, newMember, perform } from '@varrup/core';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { packed } from '../store/packing.ts';
import { openedFrom, startTestServer, type TestServer } from '../testing/server.ts';
import { verify } from './verify.ts';

let server: TestServer;
const ids: string[] = [];
beforeAll(async () => {
  server = await startTestServer();
  const made = async (path: string, name: string) =>
    ((await server.send('POST', path, { name })).body as { id: string }).id;
  const production = await made('/api/productions', 'Care');
  for (const name of ['Well', 'Changed', 'Torn', 'Wrong']) {
    const id = await made(`/api/productions/${production}/shots`, name);
    ids.push(id);
    let { document } = await openedFrom(server, id);
    for (let base = 0; base < 3; base++) {
      const done = perform(document, addMember, { member: newMember(document, { kind: 'box', id: `b${base}` }) })!;
      const { inverse: _, ...edit } = done.edit;
      document = done.shot;
      await server.send('POST', `/api/shots/${id}/edits`, { base, edits: [edit] });
    }
  }
});
afterAll(() => server.close());

test('a database in which all is well has nothing wrong', async () => {
  expect(await verify(server.database)).toEqual({ shots: 4, edits: 12, problems: [] });
});

test('what has been changed behind its back is found, and named', async () => {
  const say = vi.fn();
  const [, changed, torn, wrong] = ids;
  const { bytes } = await packed(
    JSON.stringify({ ...(await openedFrom(server, changed)).document, name: 'Another', rigs: undefined }),
  );
  await server.database.query('UPDATE snapshots SET document = $2 WHERE shot_id = $1', [changed, bytes]);
  await server.database.query('DELETE FROM edits WHERE shot_id = $1 AND revision = 2', [torn]);
  await server.database.query(
    `UPDATE edits SET patches = '[{"op":"replace","path":"/rate","value":0}]' WHERE shot_id = $1 AND revision = 3`,
    [wrong],
  );
  const { problems } = await verify(server.database, say);
  expect(problems).toHaveLength(3);
  expect(problems.join('\n')).toContain(`"Changed" (${changed}): the snapshot of revision 0 is not what was put in`);
  expect(problems.join('\n')).toContain(`"Torn" (${torn}): the log has 2 edits from 0 to 3`);
  expect(problems.join('\n')).toContain(`"Wrong" (${wrong}): does not read: /rate`);
  expect(say.mock.calls.flat()).toContain('ok    Well, 3 edits');
});
