import { bringRig, difference, emptyShot, type LibraryRig, type Member, newRigMembers, type Shot } from '@varrup/core';
import { harbour, harbourRigs } from '@varrup/demo';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { loadRigs } from '../demo.ts';
import { startTestServer, type TestServer } from '../testing/server.ts';

let server: TestServer;
let production = '';

beforeAll(async () => {
  server = await startTestServer();
  await loadRigs(server.database);
  const made = await server.send('POST', '/api/productions', { name: 'Rigs' });
  production = (made.body as { id: string }).id;
}, 60_000);
afterAll(() => server.close());

const rigs = async (): Promise<LibraryRig[]> =>
  ((await server.send('GET', '/api/rigs')).body as { rigs: LibraryRig[] }).rigs;
const porter = async () => (await rigs()).find((r) => r.id === 'porter')!;

const linked = (version: number): Shot => {
  const shot = emptyShot('made', 'Made', harbourRigs());
  return bringRig.apply(shot, newRigMembers(shot, { rig: 'porter', version, id: 'porter' }));
};

describe('the rig library', () => {
  test('lists every rig with its versions, newest first, and the poses its book begins with', async () => {
    expect((await rigs()).map((r) => r.id).sort()).toEqual(harbour.map((h) => h.id).sort());
    const { versions, poses } = await porter();
    expect(versions.map((v) => v.version)).toEqual([2, 1]);
    expect(versions[0].changes).toMatch(/tilt is gone/);
    expect(poses).toBe(harbour.find((h) => h.id === 'porter')!.poses().length);
  });

  test('gives a version as it was put in, to be kept for good; what it has not is 404', async () => {
    const answer = await fetch(`${server.address}/api/rigs/porter/versions/1`);
    expect(answer.headers.get('cache-control')).toContain('immutable');
    expect(await answer.json()).toMatchObject({ id: 'porter', version: 1, name: 'Porter' });
    for (const path of [
      'porter/versions/9',
      'nobody/versions/1',
      'porter/versions/0',
      'porter/versions/x',
      'porter/versions/99999999999',
    ]) {
      expect((await server.send('GET', `/api/rigs/${path}`)).status).toBe(404);
    }
  });

  test('keeps a rig that is sent, once for good; one that is none is refused, and the library is as it was', async () => {
    const [glove] = harbourRigs().list.filter((r) => r.id === 'glove');
    const mine = { ...glove, id: 'mine', name: 'Mine' };
    expect(await server.send('POST', '/api/rigs', mine)).toMatchObject({
      status: 201,
      body: { rig: 'mine', version: 1 },
    });
    expect((await server.send('GET', '/api/rigs/mine/versions/1')).body).toEqual(JSON.parse(JSON.stringify(mine)));
    const before = await rigs();
    expect(before.find((r) => r.id === 'mine')?.name).toBe('Mine');
    expect((await server.send('POST', '/api/rigs', { ...mine, name: 'Another' })).status).toBe(409);
    const broken = { ...mine, id: 'broken', joints: [{ ...mine.joints[0], parent: 'nobody' }] };
    const refused = await server.send('POST', '/api/rigs', broken);
    expect(refused.status).toBe(422);
    expect((refused.body as { error: string }).error).toMatch(/^The rig cannot be kept: \/joints\/0/);
    expect(await rigs()).toEqual(before);
  });

  test('loaded again it brings nothing twice, and no pose back that was taken out', async () => {
    const { body } = await server.send('GET', '/api/rigs/goat/poses');
    const [first] = (body as { poses: { id: string }[] }).poses;
    expect((await server.send('DELETE', `/api/rigs/goat/poses/${first.id}`)).status).toBe(204);
    const before = await rigs();
    await loadRigs(server.database);
    expect(await rigs()).toEqual(before);
  });
});

describe('a shot that links a rig', () => {
  test('is taken, opened again, and told of among the uses, as long as it is not in the bin', async () => {
    const made = await server.send('POST', `/api/productions/${production}/shots`, {
      name: 'Crossing',
      document: linked(1),
    });
    expect(made.status).toBe(201);
    const { id } = made.body as { id: string };
    expect((await porter()).usedIn).toEqual([{ shot: id, name: 'Crossing', production: 'Rigs', versions: [1] }]);
    const opened = await server.send('GET', `/api/shots/${id}`);
    expect(Object.keys((opened.body as { document: Shot }).document.members)).toContain('porter-head');
    await server.send('DELETE', `/api/shots/${id}`);
    expect((await porter()).usedIn).toEqual([]);
  });

  test('may bring it in by an edit, and go over to another version', async () => {
    const made = await server.send('POST', `/api/productions/${production}/shots`, { name: 'Later' });
    const { id } = made.body as { id: string };
    const before = ((await server.send('GET', `/api/shots/${id}`)).body as { document: object }).document;
    const { members, sets } = JSON.parse(JSON.stringify(linked(2)));
    const after = { ...before, members, sets };
    const edit = {
      id: 'edit-1',
      command: 'rig.bring',
      label: 'bring in Porter',
      patches: difference(before, after).patches,
    };
    expect((await server.send('POST', `/api/shots/${id}/edits`, { base: 0, edits: [edit] })).status).toBe(200);
    expect((await porter()).usedIn.map((u) => u.versions)).toEqual([[2]]);
  });

  test('is refused where the library has not the rig, with the place it is linked at', async () => {
    const shot = linked(1);
    const member = shot.members.at('porter') as Extract<Member, { kind: 'rig' }>;
    const wrong = {
      ...shot,
      members: shot.members.with('porter', { ...member, shape: { rig: 'porter', version: 7 } }),
    };
    const { status, body } = await server.send('POST', `/api/productions/${production}/shots`, {
      name: 'No',
      document: wrong,
    });
    expect(status).toBe(422);
    expect(body).toMatchObject({ pointer: '/members/porter/shape' });
    expect((body as { error: string }).error).toMatch(/version 7 of the rig "porter", which is not in the library/);
  });
});

describe('a pose book', () => {
  const pose = { name: 'Leaning', tags: ['stand'], values: { 'chest.turn.x': 0.2, 'handL.move.y': 0.1 } };
  const poses = async () =>
    (
      (await server.send('GET', '/api/rigs/porter/poses')).body as {
        poses: { id: string; name: string; tags: string[]; values: object }[];
      }
    ).poses;

  test('takes a pose, gives it back as it is, renames it and lets it go', async () => {
    const before = await poses();
    const made = await server.send('POST', '/api/rigs/porter/poses', pose);
    expect(made.status).toBe(201);
    const { id } = made.body as { id: string };
    const after = await poses();
    expect(after).toHaveLength(before.length + 1);
    expect(after.at(-1)).toMatchObject({ id, ...pose });
    expect((await server.send('PATCH', `/api/rigs/porter/poses/${id}`, { tags: ['lean', 'rest'] })).status).toBe(204);
    expect((await poses()).at(-1)).toMatchObject({ name: 'Leaning', tags: ['lean', 'rest'] });
    expect((await server.send('DELETE', `/api/rigs/porter/poses/${id}`)).status).toBe(204);
    expect(await poses()).toEqual(before);
    expect((await server.send('DELETE', `/api/rigs/porter/poses/${id}`)).status).toBe(404);
  });

  test('refuses what is no pose, says where, and keeps nothing of it', async () => {
    const before = await poses();
    const send = (body: unknown) => server.send('POST', '/api/rigs/porter/poses', body);
    expect((await send({ ...pose, name: ' ' })).body).toMatchObject({ pointer: '/name' });
    expect((await send({ ...pose, values: { 'not a channel': 1 } })).status).toBe(400);
    expect((await send({ ...pose, values: { 'chest.turn.x': 'far' } })).body).toMatchObject({
      pointer: '/values/chest.turn.x',
    });
    expect((await send({ ...pose, values: { 'chest.turn.x': 1e300 } })).status).toBe(400);
    expect((await server.send('POST', '/api/rigs/nobody/poses', pose)).status).toBe(404);
    expect(await poses()).toEqual(before);
  });
});
