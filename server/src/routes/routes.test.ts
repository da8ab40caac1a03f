import { request as plainRequest } from 'node:http';
import {
  addMember,
  type Bin,
  type Edit,
  type Home,
  newMember,
  parentMembers,
  perform,
  removeMembers,
  renameMember,
  type Shot,
  type ShotSummary,
  type VersionSummary,
} from '@varrup/core';
import { nightFerry } from '@varrup/demo';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import { loadDemo } from '../demo.ts';
import { ShotEntity } from '../entities/shot.ts';
import { emptyOldBin } from '../store/bin.ts';
import { openedFrom, startTestServer, type TestServer } from '../testing/server.ts';

let server: TestServer;
let production = '';
beforeAll(async () => {
  server = await startTestServer();
  await loadDemo(server.database);
  production = ((await server.send('POST', '/api/productions', { name: 'Tests' })).body as { id: string }).id;
});
afterAll(() => server.close());

const home = async () => (await server.send('GET', '/api/productions')).body as Home;
const shotsOf = async (id: string, more = '') =>
  ((await server.send('GET', `/api/shots?production=${id}${more}`)).body as { shots: ShotSummary[] }).shots;
const open = (id: string) => openedFrom(server, id);
const newShot = async (name: string) =>
  ((await server.send('POST', `/api/productions/${production}/shots`, { name })).body as { id: string }).id;

/** An edit that brings a box in, and the shot after it. */
function bringInBox(shot: Shot, id: string): { shot: Shot; edit: Edit } {
  const done = perform(shot, addMember, { member: newMember(shot, { kind: 'box', id }) });
  if (!done) throw new Error('nothing to do');
  const { inverse: _, ...edit } = done.edit;
  return { shot: done.shot, edit };
}

describe('a new database', () => {
  test('is migrated and holds the Night Ferry, once', async () => {
    await loadDemo(server.database);
    expect((await home()).productions.filter((p) => p.name === 'Night Ferry')).toHaveLength(1);
    const ferry = (await home()).productions.find((p) => p.name === 'Night Ferry');
    const shots = await shotsOf(ferry!.id);
    expect(ferry).toMatchObject({ shots: shots.length, lastNumber: 11 });
    expect(shots.map((s) => s.name)).toEqual(nightFerry.shots().map((s) => s.name));
    // Each with a picture for its card, which `npm run shots` takes.
    expect(shots.filter((s) => s.picturedAt === null).map((s) => s.name)).toEqual([]);
    const float = shots.find((s) => s.name === '01 Float on the steps')!;
    expect((await open(float.id)).document.curves.keys()).toContain('float.move.y');
  });

  test('answers that it is well', async () => {
    expect(await server.send('GET', '/api/health')).toEqual({ status: 200, body: { status: 'ok' } });
  });
});

describe('productions and shots', () => {
  test('are made, renamed and listed', async () => {
    const id = await newShot('Ropes');
    expect((await server.send('PATCH', `/api/shots/${id}`, { name: 'Wet ropes' })).status).toBe(204);
    await server.send('PATCH', `/api/productions/${production}`, { name: 'Rope tests' });
    const found = (await home()).productions.find((p) => p.id === production);
    expect(found?.name).toBe('Rope tests');
    expect((await shotsOf(production)).find((s) => s.id === id)).toMatchObject({
      name: 'Wet ropes',
      frames: 96,
      revision: 1,
    });
    expect((await open(id)).document.name).toBe('Wet ropes');
  });

  test('are duplicated with all their edits, and the copy goes its own way', async () => {
    const id = await newShot('Original');
    const first = bringInBox((await open(id)).document, 'b1');
    await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [first.edit] });
    const copy = ((await server.send('POST', `/api/shots/${id}/duplicate`)).body as { id: string }).id;
    const second = bringInBox((await open(copy)).document, 'b2');
    await server.send('POST', `/api/shots/${copy}/edits`, { base: 0, edits: [second.edit] });
    expect([...(await open(copy)).document.members.keys()]).toEqual(['b1', 'b2']);
    expect([...(await open(id)).document.members.keys()]).toEqual(['b1']);
    expect((await open(copy)).document).toMatchObject({ name: 'Original copy', id: copy });
  });

  test('of a duplicated production keep their names', async () => {
    const ferry = (await home()).productions.find((p) => p.name === 'Night Ferry')!;
    const { id } = (await server.send('POST', `/api/productions/${ferry.id}/duplicate`)).body as { id: string };
    const copy = (await home()).productions.find((p) => p.id === id)!;
    expect(copy.name).toBe('Night Ferry copy');
    const [mine, theirs] = [await shotsOf(copy.id), await shotsOf(ferry.id)];
    expect(mine.map((s) => s.name)).toEqual(theirs.map((s) => s.name));
    expect(mine[0].id).not.toBe(theirs[0].id);
  });

  test('go to the bin and come back as they were', async () => {
    const id = await newShot('Thrown away');
    expect((await server.send('DELETE', `/api/shots/${id}`)).status).toBe(204);
    expect((await server.send('GET', `/api/shots/${id}`)).status).toBe(404);
    const bin = (await server.send('GET', '/api/bin')).body as Bin;
    expect(bin.items[0]).toMatchObject({ type: 'shot', id, name: 'Thrown away' });
    expect((await server.send('POST', `/api/shots/${id}/restore`)).status).toBe(204);
    expect((await open(id)).document.name).toBe('Thrown away');
  });

  test('of a binned production cannot come back without it', async () => {
    const { id: gone } = (await server.send('POST', '/api/productions', { name: 'Gone' })).body as { id: string };
    const { id } = (await server.send('POST', `/api/productions/${gone}/shots`, { name: 'In it' })).body as {
      id: string;
    };
    await server.send('DELETE', `/api/shots/${id}`);
    await server.send('DELETE', `/api/productions/${gone}`);
    expect(await server.send('POST', `/api/shots/${id}/restore`)).toMatchObject({
      status: 409,
      body: { error: 'Bring "Gone" back first: the shot belongs to it.' },
    });
    await server.send('POST', `/api/productions/${gone}/restore`);
    expect((await server.send('POST', `/api/shots/${id}/restore`)).status).toBe(204);
  });

  test('in the bin for a season go for good, with all that belongs to them; nothing else does', async () => {
    const { id: old } = (await server.send('POST', '/api/productions', { name: 'Last winter' })).body as { id: string };
    const { id: inIt } = (await server.send('POST', `/api/productions/${old}/shots`, { name: 'Ice' })).body as {
      id: string;
    };
    const [gone, fresh] = [await newShot('Long gone'), await newShot('Just gone')];
    const { edit } = bringInBox((await open(gone)).document, 'b1');
    await server.send('POST', `/api/shots/${gone}/edits`, { base: 0, edits: [edit] });
    await server.send('POST', `/api/shots/${gone}/versions`, { name: 'Once' });
    for (const id of [gone, fresh]) await server.send('DELETE', `/api/shots/${id}`);
    await server.send('DELETE', `/api/productions/${old}`);
    const before = (day: string) => `now() - interval '${day} days'`;
    await server.database.query(`UPDATE shots SET binned_at = ${before('91')} WHERE id = $1`, [gone]);
    await server.database.query(`UPDATE shots SET binned_at = ${before('89')} WHERE id = $1`, [fresh]);
    await server.database.query(`UPDATE productions SET binned_at = ${before('91')} WHERE id = $1`, [old]);
    expect(await emptyOldBin(server.database)).toBe(2);
    const items = ((await server.send('GET', '/api/bin')).body as Bin).items.map((item) => item.id);
    expect(items).toContain(fresh);
    for (const id of [gone, inIt, old]) expect(items).not.toContain(id);
    expect((await server.send('POST', `/api/shots/${gone}/restore`)).status).toBe(404);
    expect((await server.send('POST', `/api/shots/${fresh}/restore`)).status).toBe(204);
  });

  test('can begin from a document, which is checked', async () => {
    const document = (await open((await shotsOf((await home()).productions[0].id))[0].id)).document;
    const good = await server.send('POST', `/api/productions/${production}/shots`, { name: 'Kept copy', document });
    expect(good.status).toBe(201);
    const bad = await server.send('POST', `/api/productions/${production}/shots`, {
      name: 'Bad',
      document: { ...document, rate: -1 },
    });
    expect(bad).toMatchObject({ status: 422, body: { pointer: '/rate' } });
  });
});

describe('edits', () => {
  test('are committed one revision each, survive as snapshot and log, and fold', async () => {
    const id = await newShot('Many edits');
    let shot = (await open(id)).document;
    for (let base = 0; base < 240; base += 3) {
      const edits: Edit[] = [];
      for (let i = 0; i < 3; i++) {
        const done = bringInBox(shot, `b${base + i}`);
        shot = done.shot;
        edits.push(done.edit);
      }
      expect((await server.send('POST', `/api/shots/${id}/edits`, { base, edits })).body).toEqual({
        revision: base + 3,
        edits: [],
      });
    }
    await vi.waitFor(
      async () => {
        const row = await server.database.manager.findOneByOrFail(ShotEntity, { id });
        expect(row.snapshotRevision).toBeGreaterThanOrEqual(200);
      },
      { timeout: 10_000 },
    );
    expect(await open(id)).toMatchObject({ revision: 240, document: shot });
    const since = (await server.send('GET', `/api/shots/${id}/edits?since=238`)).body;
    expect(since).toMatchObject({
      revision: 240,
      more: false,
      edits: [{ revision: 239 }, { revision: 240, command: 'member.add', author: 'you' }],
    });
    // Everything that was is still to be had.
    const early = (await server.send('GET', `/api/shots/${id}/edits?since=0`)).body as { edits: unknown[] };
    expect(early.edits).toHaveLength(240);
  });

  test('sent twice are done once', async () => {
    const id = await newShot('Sent twice');
    const { edit } = bringInBox((await open(id)).document, 'b1');
    const body = { base: 0, edits: [edit] };
    expect((await server.send('POST', `/api/shots/${id}/edits`, body)).body).toMatchObject({ revision: 1 });
    expect((await server.send('POST', `/api/shots/${id}/edits`, body)).body).toMatchObject({ revision: 1 });
    expect((await open(id)).revision).toBe(1);
  });

  test('of two people that are of different places are both taken, in the order in which they arrive', async () => {
    const id = await newShot('Two people');
    const start = (await open(id)).document;
    const mine = bringInBox(start, 'mine');
    const theirs = bringInBox(start, 'theirs');
    await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [theirs.edit] });
    const answer = await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [mine.edit] });
    expect(answer).toMatchObject({
      status: 200,
      body: { revision: 2, edits: [{ id: theirs.edit.id, revision: 1, patches: theirs.edit.patches }] },
    });
    expect([...(await open(id)).document.members.keys()]).toEqual(['theirs', 'mine']);
    // Sent again, because the answer was lost: told of both, in the order of the log.
    const again = await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [mine.edit] });
    expect(again.body).toMatchObject({ revision: 2, edits: [{ id: theirs.edit.id }, { id: mine.edit.id }] });
  });

  test('that meet are refused with what is needed to catch up, and change nothing', async () => {
    const id = await newShot('They meet');
    const first = bringInBox((await open(id)).document, 'b1');
    await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [first.edit] });
    const named = (name: string) => {
      const { inverse: _, ...edit } = perform(first.shot, renameMember, { id: 'b1', name })!.edit;
      return edit;
    };
    const theirs = named('Their box');
    await server.send('POST', `/api/shots/${id}/edits`, { base: 1, edits: [theirs] });
    const answer = await server.send('POST', `/api/shots/${id}/edits`, { base: 1, edits: [named('My box')] });
    expect(answer).toMatchObject({
      status: 409,
      body: {
        error: 'Others have changed the same in the meantime.',
        revision: 2,
        edits: [{ id: theirs.id, revision: 2 }],
      },
    });
    // And where each fits by itself but not both together.
    const { inverse: _, ...gone } = perform(first.shot, removeMembers, { ids: ['b1'] })!.edit;
    const keyed = { ...gone, id: 'keyed1', patches: [{ op: 'replace', path: '/members/b1/locked', value: true }] };
    await server.send('POST', `/api/shots/${id}/edits`, { base: 2, edits: [gone] });
    expect((await server.send('POST', `/api/shots/${id}/edits`, { base: 2, edits: [keyed] })).status).toBe(409);
    expect((await open(id)).document.members.size).toBe(0);
  });

  test('that fit by themselves and not after those of others meet those; that fit nowhere are wrong', async () => {
    const id = await newShot('Not together');
    const held = bringInBox((await open(id)).document, 'b1');
    await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [held.edit] });
    const { inverse: _, ...gone } = perform(held.shot, removeMembers, { ids: ['b1'] })!.edit;
    const { inverse: __, ...under } = perform(bringInBox(held.shot, 'b2').shot, parentMembers, {
      ids: ['b2'],
      parent: 'b1',
      frame: 1,
    })!.edit;
    const child = [bringInBox(held.shot, 'b2').edit, under];
    const wrong = { ...gone, id: 'wrong1', patches: [{ op: 'replace', path: '/rate', value: 1e9 }] };
    await server.send('POST', `/api/shots/${id}/edits`, { base: 1, edits: [gone] });
    const commit = (edits: unknown) => server.send('POST', `/api/shots/${id}/edits`, { base: 1, edits });
    expect(await commit(child)).toMatchObject({ status: 409, body: { revision: 2, edits: [{ id: gone.id }] } });
    expect(await commit([wrong])).toMatchObject({ status: 422, body: { pointer: '/rate' } });
    expect((await open(id)).revision).toBe(2);
  });

  test('are never ahead of the revision they are opened at, while others are committed', async () => {
    const id = await newShot('Opened meanwhile');
    let shot = (await open(id)).document;
    const versions = new Map([[0, shot.members.keys()]]);
    const edits = Array.from({ length: 40 }, (_, i) => {
      const done = bringInBox(shot, `b${i}`);
      shot = done.shot;
      versions.set(i + 1, shot.members.keys());
      return done.edit;
    });
    const committing = (async () => {
      for (const [base, edit] of edits.entries())
        await server.send('POST', `/api/shots/${id}/edits`, { base, edits: [edit] });
    })();
    const seen = new Set<number>();
    for (let i = 0; i < 40; i++) {
      const { revision, document } = await open(id);
      seen.add(revision);
      expect(document.members.keys()).toEqual(versions.get(revision));
      if (i % 4 === 0) await server.send('POST', `/api/shots/${id}/versions`, { name: `At ${i}` });
    }
    await committing;
    expect(seen.size).toBeGreaterThan(1);
    const kept = (await server.send('GET', `/api/shots/${id}/versions`)).body as { versions: VersionSummary[] };
    for (const { id: version, revision } of kept.versions) {
      const { document } = (await server.send('GET', `/api/shots/${id}/versions/${version}`)).body as {
        document: { members: object };
      };
      expect(Object.keys(document.members)).toEqual(versions.get(revision));
    }
  });

  test('go on while the shot is renamed: a rename waits its turn', async () => {
    const id = await newShot('Before');
    const start = (await open(id)).document;
    const renames = Array.from({ length: 12 }, (_, i) =>
      server.send('PATCH', `/api/shots/${id}`, { name: `Name ${i}` }),
    );
    const commits = Array.from({ length: 12 }, (_, i) =>
      server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [bringInBox(start, `b${i}`).edit] }),
    );
    expect((await Promise.all(renames)).map((a) => a.status)).toEqual(Array(12).fill(204));
    expect((await Promise.all(commits)).every((a) => a.status === 200 || a.status === 409)).toBe(true);
    expect((await open(id)).document.name).toMatch(/^Name \d+$/);
  });

  test('are not taken where the production is in the bin', async () => {
    const { id: gone } = (await server.send('POST', '/api/productions', { name: 'Put away' })).body as { id: string };
    const { id } = (await server.send('POST', `/api/productions/${gone}/shots`, { name: 'In it' })).body as {
      id: string;
    };
    const { edit } = bringInBox((await open(id)).document, 'b1');
    await server.send('DELETE', `/api/productions/${gone}`);
    for (const [method, path, body] of [
      ['POST', `/api/shots/${id}/edits`, { base: 0, edits: [edit] }],
      ['PATCH', `/api/shots/${id}`, { name: 'Renamed' }],
      ['GET', `/api/shots/${id}`, undefined],
    ] as const)
      expect((await server.send(method, path, body)).status).toBe(404);
    await server.send('POST', `/api/productions/${gone}/restore`);
    expect((await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [edit] })).status).toBe(200);
  });

  test('that come twice in what is sent are refused; those known from before are passed over', async () => {
    const id = await newShot('Known');
    const start = (await open(id)).document;
    const first = bringInBox(start, 'b1');
    const second = bringInBox(first.shot, 'b2');
    const twice = await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [first.edit, first.edit] });
    expect(twice).toMatchObject({ status: 400, body: { pointer: '/edits/1/id' } });
    await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [first.edit, second.edit] });
    const again = await server.send('POST', `/api/shots/${id}/edits`, { base: 2, edits: [first.edit] });
    expect(again).toEqual({ status: 200, body: { revision: 2, edits: [] } });
  });

  test('are kept as what was read: whole, of today, with what takes them back', async () => {
    const id = await newShot('Normal');
    const { document } = await open(id);
    const member = bringInBox(document, 'b1').shot.members.at('b1');
    const { locked: _, holds: __, ...bare } = member;
    const edit = {
      id: 'bare1',
      command: 'member.add',
      label: 'bring in',
      patches: [{ op: 'add', path: '/members/b1', value: bare }],
    };
    expect((await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [edit] })).status).toBe(200);
    expect((await open(id)).document.members.at('b1')).toEqual(member);
    const [row] = await server.database.query('SELECT patches, inverse FROM edits WHERE shot_id = $1', [id]);
    expect(JSON.parse(row.patches)).toEqual([{ op: 'add', path: '/members/b1', value: member }]);
    expect(JSON.parse(row.inverse)).toEqual([{ op: 'remove', path: '/members/b1' }]);
    const back = { ...edit, id: 'back1', patches: [{ op: 'replace', path: '/version', value: 4 }] };
    expect(await server.send('POST', `/api/shots/${id}/edits`, { base: 1, edits: [back] })).toMatchObject({
      status: 422,
      body: { pointer: '/version' },
    });
  });

  test('from four windows at the same instant are all taken where they are of different places, else one of them', async () => {
    const id = await newShot('Same instant');
    const start = (await open(id)).document;
    const together = (edits: readonly Edit[], base: number) =>
      Promise.all(edits.map((edit) => server.send('POST', `/api/shots/${id}/edits`, { base, edits: [edit] })));
    const apart = await together(
      ['a', 'b', 'c', 'd'].map((who) => bringInBox(start, who).edit),
      0,
    );
    expect(apart.map((a) => a.status)).toEqual([200, 200, 200, 200]);
    expect([...(await open(id)).document.members.keys()].sort()).toEqual(['a', 'b', 'c', 'd']);
    const alike = await together(
      [12, 25, 30, 48].map((rate, i) => ({
        id: `rate${i}`,
        command: 'shot.rate',
        label: `${rate} a second`,
        patches: [{ op: 'replace', path: '/rate', value: rate }],
      })),
      4,
    );
    expect(alike.map((a) => a.status).sort()).toEqual([200, 409, 409, 409]);
    expect((await open(id)).revision).toBe(5);
  });

  test.each<[string, (edit: Edit) => unknown, number, RegExp]>([
    ['without patches', (e) => ({ ...e, patches: [] }), 400, /at \/edits\/0\/patches/],
    [
      'that do not fit',
      (e) => ({ ...e, patches: [{ op: 'remove', path: '/members/nobody' }] }),
      422,
      /Edit 1 does not fit the shot/,
    ],
    [
      'that would leave the shot wrong',
      (e) => ({ ...e, patches: [{ op: 'replace', path: '/rate', value: 0 }] }),
      422,
      /wrong at \/rate/,
    ],
    [
      'that would change its id',
      (e) => ({ ...e, patches: [{ op: 'replace', path: '/id', value: 'other' }] }),
      422,
      /may not change the id/,
    ],
    [
      'that reach for a prototype',
      (e) => ({ ...e, patches: [{ op: 'add', path: '/__proto__/x', value: 1 }] }),
      400,
      /no document has/,
    ],
    [
      'with a name that cannot be stored',
      (e) => ({ ...e, patches: [{ op: 'replace', path: '/name', value: 'a\u0000b' }] }),
      422,
      /cannot be shown/,
    ],
    [
      'with half a character',
      (e) => ({ ...e, patches: [{ op: 'replace', path: '/name', value: 'a\ud800b' }] }),
      422,
      /cannot be shown/,
    ],
  ])('%s are refused with a sentence', async (_, spoil, status, sentence) => {
    const id = await newShot('Refusals');
    const { edit } = bringInBox((await open(id)).document, 'b1');
    const answer = await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [spoil(edit)] });
    expect(answer.status).toBe(status);
    expect((answer.body as { error: string }).error).toMatch(sentence);
    expect(await open(id)).toMatchObject({ revision: 0 });
  });
});

test('a shot of which something is kept that does not read is mended by its last state that does', async () => {
  const id = await newShot('Spoilt');
  let shot = (await open(id)).document;
  for (let base = 0; base < 4; base++) {
    const done = bringInBox(shot, `b${base}`);
    shot = done.shot;
    await server.send('POST', `/api/shots/${id}/edits`, { base, edits: [done.edit] });
  }
  const spoilt = [{ op: 'replace', path: '/rate', value: 0 }];
  await server.database.query('UPDATE edits SET patches = $2 WHERE shot_id = $1 AND revision = 3', [
    id,
    JSON.stringify(spoilt),
  ]);
  const { id: mended } = (await server.send('POST', `/api/shots/${id}/mend`)).body as { id: string };
  const { document } = await open(mended);
  expect(document.name).toBe('Spoilt (as it was at edit 2)');
  expect([...document.members.keys()]).toEqual(['b0', 'b1']);
});

describe('the doors', () => {
  test.each<[string, string, unknown, number]>([
    ['PATCH', '/api/shots/unknown', { name: 'x' }, 404],
    ['GET', '/api/shots/unknown', undefined, 404],
    ['GET', "/api/shots/'; DROP TABLE shots; --", undefined, 404],
    ['GET', '/api/shots/%00', undefined, 404],
    ['DELETE', '/api/productions/unknown', undefined, 404],
    ['POST', '/api/productions/unknown/shots', { name: 'x' }, 404],
    ['GET', '/api/nowhere', undefined, 404],
    ['POST', '/api/productions', { name: '  ' }, 400],
    ['POST', '/api/productions', { name: 'x'.repeat(81) }, 400],
    ['POST', '/api/productions', { name: 'x', more: 1 }, 400],
    ['POST', '/api/productions', undefined, 400],
    ['POST', '/api/productions', { name: 'x'.repeat(20_000) }, 413],
    ['GET', '/api/shots/unknown/edits?since=-1', undefined, 400],
  ])('%s %s answers with a sentence and nothing of the database', async (method, path, body, status) => {
    const answer = await server.send(method, path, body);
    expect(answer.status).toBe(status);
    const { error } = answer.body as { error: string };
    expect(error).toMatch(/^[A-Z].+\.$/);
    expect(error).not.toMatch(/sql|postgres|relation|column|typeorm|zod/i);
  });

  test('refuse what is not JSON', async () => {
    const answer = await server.send('POST', '/api/productions', '{"name":', { 'content-type': 'application/json' });
    expect(answer).toEqual({ status: 400, body: { error: 'What was sent is not JSON.' } });
  });

  test('refuse what is nested beyond reason, without falling over', async () => {
    const id = await newShot('Deep');
    const { edit } = bringInBox((await open(id)).document, 'b1');
    const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
    const body = JSON.stringify({ base: 0, edits: [{ ...edit, patches: [{ op: 'add', path: '/x', value: 'DEEP' }] }] });
    const answer = await server.send('POST', `/api/shots/${id}/edits`, body.replace('"DEEP"', deep), {
      'content-type': 'application/json',
    });
    expect(answer).toEqual({ status: 400, body: { error: 'What was sent is nested more than 40 deep.' } });
  });

  test('refuse other origins and other names for this host', async () => {
    const foreign = await server.send(
      'POST',
      '/api/productions',
      { name: 'x' },
      { origin: 'http://elsewhere.example' },
    );
    expect(foreign.status).toBe(403);
    const own = await server.send('POST', '/api/productions', { name: 'x' }, { origin: server.address });
    expect(own.status).toBe(201);
    // fetch does not let a Host be set; a rebound name sends one all the same.
    const status = await new Promise((answer) => {
      plainRequest(`${server.address}/api/productions`, { headers: { host: 'elsewhere.example' } }, (r) =>
        answer(r.statusCode),
      ).end();
    });
    expect(status).toBe(403);
  });

  test('take a picture that is one, and no other', async () => {
    const id = await newShot('Pictured');
    const picture = sharp({ create: { width: 48, height: 27, channels: 3, background: '#5b4a33' } });
    const png = await picture.clone().png().toBuffer();
    const webp = await picture.clone().webp().toBuffer();
    const put = async (bytes: Uint8Array | string, type: string) =>
      (await server.send('PUT', `/api/shots/${id}/picture`, bytes, { 'content-type': type })).status;
    expect(await put(webp, 'image/webp')).toBe(204);
    expect(await put(png, 'image/png')).toBe(204);
    for (const type of ['text/html', 'image/webp', '__proto__', 'constructor', 'image/gif'])
      expect(await put(png, type)).toBe(415);
    expect(await put('<script>', 'image/png')).toBe(415);
    // A header alone is none, nor is one that breaks off.
    expect(await put(png.subarray(0, 33), 'image/png')).toBe(415);
    expect(await put(png.subarray(0, png.length - 20), 'image/png')).toBe(415);
    const back = await fetch(`${server.address}/api/shots/${id}/picture`);
    expect(back.headers.get('content-type')).toBe('image/png');
    expect(Buffer.from(await back.arrayBuffer())).toEqual(png);
  });
});
