import { createServer, type Server, request as send } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import pino from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { poseBody, smallBody } from './body.ts';
import { bytesOf } from './read.ts';
import { answerErrors } from './refusal.ts';

/** Bodies as they come over a line: whole, in pieces, packed, without a length, or never to the end. */

let server: Server;
let reached = 0;
beforeAll(async () => {
  const app = express();
  for (const [path, body] of [
    ['/small', smallBody],
    ['/pose', poseBody],
  ] as const)
    app.post(path, body, (request, response) => {
      const size = bytesOf(request).length;
      reached++;
      response.json({ size });
    });
  app.use(answerErrors(pino({ level: 'silent' })));
  server = createServer(app);
  await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
});
afterAll(() => server.close());

const KIND = { 'content-type': 'application/json' };

/** Sends pieces, one after another. @returns the status and what was answered */
const post = (path: string, headers: Record<string, string | number>, pieces: readonly (string | Buffer)[]) =>
  new Promise<{ status: number; body: unknown }>((done, failed) => {
    const { port } = server.address() as AddressInfo;
    const out = send({ port, path, method: 'POST', headers: { ...KIND, ...headers } }, async (answer) => {
      const chunks: Buffer[] = [];
      for await (const chunk of answer) chunks.push(chunk);
      done({ status: answer.statusCode!, body: JSON.parse(Buffer.concat(chunks).toString()) });
    });
    out.on('error', failed);
    for (const piece of pieces) out.write(piece);
    out.end();
  });

test('a body is there as a whole, in however many pieces it comes', async () => {
  const pieces = ['{"a":', '"', 'x'.repeat(90_000), '","b":"', 'y'.repeat(90_000), '"}'];
  const length = pieces.join('').length;
  expect(await post('/pose', { 'content-length': length }, pieces)).toEqual({ status: 200, body: { size: length } });
});

test.each([
  ['that says no length', '/small', {}, ['{}'], 411, 'What is sent must say how long it is (Content-Length).'],
  [
    'that is too long',
    '/small',
    { 'content-length': 20_000 },
    ['x'.repeat(20_000)],
    413,
    'What was sent is too large.',
  ],
  [
    'that is packed',
    '/small',
    { 'content-length': 2, 'content-encoding': 'gzip' },
    ['{}'],
    415,
    'What was sent is packed in a way the server does not read.',
  ],
  [
    'of no JSON',
    '/small',
    { 'content-length': 2, 'content-type': 'text/plain' },
    ['{}'],
    400,
    'The body must be JSON (Content-Type: application/json).',
  ],
  [
    'with too long a text',
    '/pose',
    { 'content-length': 400_002 },
    ['"', 'x'.repeat(400_000), '"'],
    413,
    'What was sent has a text of more than 100 KB.',
  ],
] as const)('one %s is refused', async (_, path, headers, pieces, status, error) => {
  const before = reached;
  expect(await post(path, headers, pieces)).toEqual({ status, body: { error } });
  expect(reached).toBe(before);
});

test('one that breaks off reaches nobody, and the next is read', async () => {
  const before = reached;
  const { port } = server.address() as AddressInfo;
  const broken = send({ port, path: '/pose', method: 'POST', headers: { ...KIND, 'content-length': 1000 } });
  broken.on('error', () => {});
  broken.write('{"a":1');
  await new Promise((sent) => setImmediate(sent));
  broken.destroy();
  expect((await post('/small', { 'content-length': 2 }, ['{}'])).status).toBe(200);
  expect(reached).toBe(before + 1);
});
