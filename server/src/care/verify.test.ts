import { addMember, emptyShot, mediaHash, newMember, perform } from '@varrup/core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import { mendShot } from '../store/mending.ts';
import { packed } from '../store/packing.ts';
import { openedFrom, startTestServer, type TestServer } from '../testing/server.ts';
import { verify } from './verify.ts';

let server: TestServer;
let production = '';
beforeAll(async () => {
  server = await startTestServer();
  production = await made('/api/productions', { name: 'Care' });
});
afterAll(() => server.close());

const made = async (path: string, body: object) => ((await server.send('POST', path, body)).body as { id: string }).id;
const query = (text: string, values: unknown[] = []) => server.database.query(text, values);

/** A shot with three boxes, each put in by an edit of its own. */
async function shotWithBoxes(name: string): Promise<string> {
  const id = await made(`/api/productions/${production}/shots`, { name });
  let { document } = await openedFrom(server, id);
  for (let base = 0; base < 3; base++) {
    const done = perform(document, addMember, { member: newMember(document, { kind: 'box', id: `b${base}` }) })!;
    const { inverse: _, ...edit } = done.edit;
    document = done.shot;
    await server.send('POST', `/api/shots/${id}/edits`, { base, edits: [edit] });
  }
  return id;
}

const picture = () =>
  sharp({ create: { width: 8, height: 8, channels: 3, background: '#2F5DA8' } })
    .png()
    .toBuffer();

/** What a hand may do in a database, and what must be said of it, with the last edit that holds. */
const damages: readonly [string, (shot: string) => Promise<unknown>, RegExp, number][] = [
  ['an edit is another', (id) => edits(id, 2, `label = 'nothing'`), /edit 2 is not what was put in/, 1],
  ['what an edit changes is another', (id) => edits(id, 3, `patches = '[]'`), /edit 3 is not what was put in/, 2],
  ['what takes an edit back is gone', (id) => edits(id, 3, `inverse = ''`), /edit 3 is not what was put in/, 2],
  ['who made an edit is another', (id) => edits(id, 1, `author = 'me'`), /edit 1 is not what was put in/, 0],
  ['when it was made is another', (id) => edits(id, 1, `made_at = now()`), /edit 1 is not what was put in/, 0],
  ['an edit is no JSON', (id) => edits(id, 2, `patches = '{['`), /edit 2 does not fit what was before it/, 1],
  [
    'an edit is gone',
    (id) => query('DELETE FROM edits WHERE shot_id = $1 AND revision = 2', [id]),
    /edits 2 to 2 are missing/,
    1,
  ],
  [
    'the last edit is gone',
    (id) => query('DELETE FROM edits WHERE shot_id = $1 AND revision = 3', [id]),
    /the log has 2 edits, and the shot says 3/,
    2,
  ],
  [
    'the last edit is gone, and the number lowered',
    async (id) => {
      await query('DELETE FROM edits WHERE shot_id = $1 AND revision = 3', [id]);
      await shots(id, 'revision = 2');
    },
    /the log does not end with the edit that was put in last/,
    2,
  ],
  ['the number of edits is lower', (id) => shots(id, 'revision = 2'), /the log has 3 edits, and the shot says 2/, 3],
  [
    'the snapshot does not unpack',
    (id) => snapshot(id, `'\\x1f8b00'`),
    /the snapshot of revision 0 does not unpack/,
    -1,
  ],
  ['the snapshot is empty', (id) => snapshot(id, `''`), /the snapshot of revision 0 does not unpack/, -1],
  [
    'the snapshot is another',
    async (id) => {
      const document = { ...emptyShot(id, 'Another'), rigs: undefined };
      await query('UPDATE snapshots SET document = $2 WHERE shot_id = $1', [
        id,
        (await packed(JSON.stringify(document))).bytes,
      ]);
    },
    /the snapshot of revision 0 is not what was put in/,
    -1,
  ],
  [
    'the snapshot and its hash are others',
    async (id) => {
      const document = { ...emptyShot(id, 'Another'), rigs: undefined };
      const { bytes, hash } = await packed(JSON.stringify(document));
      await query('UPDATE snapshots SET document = $2, hash = $3 WHERE shot_id = $1', [id, bytes, hash]);
    },
    /edit 1 is not what was put in/,
    0,
  ],
  ['the snapshot is gone', (id) => query('DELETE FROM snapshots WHERE shot_id = $1', [id]), /has no snapshot/, -1],
  [
    'the name in the list is another',
    (id) => shots(id, `name = 'Forged'`),
    /its name is .*, and the list says Forged/,
    3,
  ],
  ['the length in the list is another', (id) => shots(id, 'frames = 7'), /its length is \d+, and the list says 7/, 3],
  ['the rate in the list is another', (id) => shots(id, 'rate = 7'), /its rate is 24, and the list says 7/, 3],
  [
    'the rigs in the list are others',
    (id) => shots(id, `links = '[{"rig":"porter","version":1}]'`),
    /the list says that it links other rigs/,
    3,
  ],
  [
    'the picture on its card is another',
    async (id) => {
      await server.send('PUT', `/api/shots/${id}/picture`, await picture(), { 'content-type': 'image/png' });
      await query(`UPDATE pictures SET bytes = substring(bytes FROM 1 FOR 40) WHERE shot_id = $1`, [id]);
    },
    /the picture on its card is not what was put in/,
    3,
  ],
  [
    'a named version is of another revision',
    async (id) => {
      await server.send('POST', `/api/shots/${id}/versions`, { name: 'First pass' });
      await query('UPDATE versions SET revision = 1 WHERE shot_id = $1', [id]);
    },
    /its version "First pass" is not what was put in/,
    3,
  ],
];
const edits = (id: string, revision: number, change: string) =>
  query(`UPDATE edits SET ${change} WHERE shot_id = $1 AND revision = $2`, [id, revision]);
const shots = (id: string, change: string) => query(`UPDATE shots SET ${change} WHERE id = $1`, [id]);
const snapshot = (id: string, bytes: string) =>
  query(`UPDATE snapshots SET document = ${bytes} WHERE shot_id = $1`, [id]);

describe('a database looked through', () => {
  test('has nothing wrong where all is well', async () => {
    await shotWithBoxes('Well');
    expect(await verify(server.database)).toEqual({ shots: 1, edits: 3, problems: [] });
  });

  test('has each damage named, whatever else is wrong; what still holds can be had back, beside what is there', async () => {
    const ids: string[] = [];
    for (const [name, damage] of damages) {
      const id = await shotWithBoxes(name.slice(0, 60));
      await damage(id);
      ids.push(id);
    }
    const say = vi.fn();
    const { problems } = await verify(server.database, say);
    expect(say.mock.calls.flat()).toContain('ok    Well, 3 edits');
    expect(problems.some((problem) => problem.startsWith('"Well"'))).toBe(false);
    for (const [i, [name, , words, holds]] of damages.entries()) {
      const own = problems.filter((problem) => problem.includes(`(${ids[i]})`));
      expect(own.join('\n'), name).toMatch(words);
      expect(own.at(-1), name).toMatch(
        holds < 0
          ? /nothing of it can be had back/
          : new RegExp(`varrup mend ${ids[i]} makes a copy .* at edit ${holds}`),
      );
      if (holds < 0) {
        await expect(mendShot(server.database.manager, ids[i]), name).rejects.toThrow(/Nothing that is kept/);
        continue;
      }
      const before = await query('SELECT * FROM edits WHERE shot_id = $1 ORDER BY revision', [ids[i]]);
      const copy = await mendShot(server.database.manager, ids[i]);
      const { document } = await openedFrom(server, copy);
      expect([...document.members.keys()], name).toHaveLength(holds);
      expect(await query('SELECT * FROM edits WHERE shot_id = $1 ORDER BY revision', [ids[i]])).toEqual(before);
    }
  });

  test('has what is spoilt in the house named: productions, poses, rigs, posters, and what is needed and not there', async () => {
    const bytes = await picture();
    const hash = await mediaHash(bytes);
    await server.send('PUT', `/api/media/${hash}`, bytes);
    const jpeg = await sharp(bytes).jpeg().toBuffer();
    await server.send('PUT', `/api/media/${hash}/poster`, jpeg);
    await query(`UPDATE media SET poster = substring(poster FROM 1 FOR 20) WHERE hash = $1`, [hash]);
    const other = await made('/api/productions', { name: 'Harbour' });
    await query(`UPDATE productions SET name = 'Forged' WHERE id = $1`, [other]);
    const { problems } = await verify(server.database);
    expect(problems).toContain(`the poster of the png ${hash} is not what was put in`);
    expect(problems).toContain(`the production "Forged" (${other}) is not what was put in`);
  });
});
