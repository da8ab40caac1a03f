import { addMember, emptyShot, newId, newMember, OpenShotSchema, parseShot, Rigs } from '@varrup/core';
import * as fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { openedFrom, startTestServer, type TestServer } from '../testing/server.ts';

/** Requests that are nearly right, at every door: refused in the 400s with a sentence, or taken, and nothing is wrong afterwards. */

let server: TestServer;
let production = '';
let shot = '';
/** A production with nothing in it, to be copied. */
let empty = '';
/** How many edits the shot has had, as far as has been heard. */
let revision = 0;
beforeAll(async () => {
  server = await startTestServer();
  const made = async (path: string, body: unknown) =>
    ((await server.send('POST', path, body)).body as { id: string }).id;
  production = await made('/api/productions', { name: 'Doors' });
  empty = await made('/api/productions', { name: 'Nothing yet' });
  shot = await made(`/api/productions/${production}/shots`, { name: 'Ropes', document: document() });
  await made(`/api/shots/${shot}/versions`, { name: 'Before the wind' });
});
afterAll(() => server.close());

function document() {
  const empty = emptyShot('s', 'Ropes');
  const filled = addMember.apply(empty, { member: newMember(empty, { kind: 'ball', id: 'float' }) });
  const { rigs: _, ...rest } = filled;
  const key = {
    frame: 1,
    value: 0,
    in: { kind: 'smooth' },
    out: { kind: 'free', frames: 2, rise: 0 },
    joined: false,
    role: 'key',
  };
  return JSON.parse(
    JSON.stringify({
      ...rest,
      curves: { 'float.move.y': { type: 'number', keys: [key], before: 'hold', after: 'hold' } },
      formulas: { 'float.move.x': { text: 'y * 2', inputs: [{ name: 'y', path: 'float.move.y' }], mode: 'instead' } },
    }),
  );
}

interface Ask {
  readonly method: string;
  readonly path: string;
  readonly body?: unknown;
}

/** What is right, at every door that takes something. */
const right: readonly (() => Ask)[] = [
  () => ({ method: 'POST', path: '/api/productions', body: { name: 'Ropes' } }),
  () => ({ method: 'PATCH', path: `/api/productions/${production}`, body: { name: 'Doors' } }),
  () => ({
    method: 'POST',
    path: `/api/productions/${production}/shots`,
    body: { name: 'Ropes', document: document() },
  }),
  () => ({ method: 'POST', path: `/api/productions/${empty}/duplicate` }),
  () => ({ method: 'GET', path: `/api/shots/${shot}` }),
  () => ({ method: 'PATCH', path: `/api/shots/${shot}`, body: { name: 'Wet ropes' } }),
  () => ({ method: 'GET', path: `/api/shots/${shot}/edits?since=0` }),
  () => ({
    method: 'POST',
    path: `/api/shots/${shot}/edits`,
    body: {
      base: revision,
      edits: [
        {
          id: newId(),
          command: 'member.add',
          label: 'bring a ball in',
          patches: [
            { op: 'add', path: '/members/buoy', value: { ...document().members.float, id: 'buoy' } },
            { op: 'replace', path: '/curves/float.move.y', value: document().curves['float.move.y'] },
            { op: 'add', path: '/formulas/float.move.x', value: document().formulas['float.move.x'] },
          ],
        },
      ],
    },
  }),
  () => ({ method: 'POST', path: `/api/shots/${shot}/versions`, body: { name: 'After the wind' } }),
  () => ({ method: 'GET', path: `/api/shots/${shot}/versions/nobody` }),
  () => ({ method: 'PUT', path: `/api/shots/${shot}/picture`, body: { not: 'a picture' } }),
  () => ({ method: 'POST', path: '/api/rigs', body: { ...plank, id: newId() } }),
  () => ({ method: 'GET', path: '/api/rigs/porter/versions/1' }),
  () => ({
    method: 'POST',
    path: '/api/rigs/porter/poses',
    body: { name: 'Still', tags: ['rest'], values: { 'hips.move.y': 0 } },
  }),
  () => ({ method: 'DELETE', path: '/api/rigs/porter/poses/nobody' }),
];

/** The smallest rig there can be: a joint, a control that moves it, and a triangle on it. */
const plank = {
  version: 1,
  name: 'Plank',
  changes: '',
  joints: [{ id: 'plank', parent: null, place: [0, 0, 0], by: { kind: 'control', control: 'plank' } }],
  controls: [{ id: 'plank', name: 'plank', side: 'centre', form: 'ring', reach: 0.1, place: [0, 0, 0], move: 'xyz' }],
  meshes: [
    {
      id: 'm',
      colour: '#aa8844',
      finish: 'wood',
      positions: [0, 0, 0, 100, 0, 0, 0, 100, 0],
      triangles: [0, 1, 2],
      skin: { kind: 'rigid', joint: 'plank' },
    },
  ],
};

const strange = [
  null,
  true,
  -1,
  1.5,
  2 ** 31,
  1e10,
  1e308,
  '',
  ' ',
  'constructor',
  'toString',
  '__proto__',
  'a\u0000b',
  'a\ud800b',
  '../..',
  "'; DROP TABLE shots; --",
  '🪢'.repeat(60),
  'x'.repeat(5000),
  [],
  {},
  [[[[[]]]]],
  Array(3000).fill(0),
  Object.fromEntries(Array.from({ length: 1200 }, (_, i) => [`m${i}`, {}])),
];

/** Changes one place of a value, found by numbers: to something strange, to nothing, or to more than there should be. */
function spoilt(value: unknown, way: readonly number[], what: unknown, how: number): unknown {
  if (typeof value !== 'object' || value === null || way.length === 0 || Object.keys(value).length === 0) return what;
  const names = Object.keys(value);
  const name = names[way[0] % names.length];
  const next = (Array.isArray(value) ? [...value] : { ...value }) as Record<string, unknown>;
  if (way.length > 1) next[name] = spoilt(next[name], way.slice(1), what, how);
  else if (how === 0) next[name] = what;
  else if (how === 1) delete next[name];
  else next[typeof what === 'string' && what !== '__proto__' ? what : 'more'] = what;
  return next;
}

const bad = fc.record({
  door: fc.nat(right.length - 1),
  way: fc.array(fc.nat(), { minLength: 1, maxLength: 7 }),
  what: fc.nat(strange.length - 1),
  how: fc.nat(2),
  /** What is spoilt: mostly the body, at times the address, the headers or the bytes. */
  part: fc.constantFrom('body', 'body', 'body', 'address', 'type', 'packed', 'bytes'),
});

test('two thousand of them', async () => {
  const statuses = new Map<number, number>();
  for (const { door, way, what, how, part } of fc.sample(bad, { numRuns: 2000, seed: 20261128 })) {
    const ask = right[door]();
    const body = part === 'body' ? spoilt(ask.body, way, strange[what], how) : ask.body;
    const path =
      part === 'address'
        ? ask.path.replace(/[^/=]+$/, encodeURIComponent(String(strange[what]).slice(0, 300).replaceAll('\ud800', '')))
        : ask.path;
    const headers = {
      'content-type': part === 'type' ? 'text/plain' : 'application/json',
      ...(part === 'packed' ? { 'content-encoding': 'gzip' } : {}),
    };
    const text = ask.method === 'GET' || body === undefined ? undefined : JSON.stringify(body);
    const sent = part === 'bytes' && text ? text.slice(0, way[0] % text.length) : text;
    const answer = await server.send(ask.method, path, sent, sent === undefined ? {} : headers);
    revision = (answer.body as { revision?: number } | null)?.revision ?? revision;
    statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
    if (answer.status >= 400) {
      expect({ ...answer, ask, path, sent: sent?.slice(0, 300) }).toMatchObject({
        status: expect.toSatisfy((status: number) => status < 500),
        body: { error: expect.stringMatching(/^[A-Z"].*\.$/s) },
      });
    }
  }
  expect([...statuses.keys()].sort()).toEqual(expect.arrayContaining([200, 201, 204, 400, 404, 415, 422]));

  const { shots } = (await server.send('GET', '/api/shots?count=500')).body as { shots: { id: string }[] };
  expect(shots.length).toBeGreaterThan(0);
  for (const { id } of shots) {
    expect(OpenShotSchema.safeParse((await server.send('GET', `/api/shots/${id}`)).body).success).toBe(true);
    expect(parseShot((await openedFrom(server, id)).document, Rigs.none).ok).toBe(true);
  }
}, 120_000);
