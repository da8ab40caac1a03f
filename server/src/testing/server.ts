import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { applyEdit, type OpenShot, OpenShotSchema, Rigs, type Shot } from '@varrup/core';
import { pino } from 'pino';
import { DataSource } from 'typeorm';
import { createApp } from '../app.ts';
import { openDatabase } from '../database.ts';
import { Room } from '../work/room.ts';
import { Work } from '../work/work.ts';

/** A server on a database of its own, made anew for each test file on the PostgreSQL that `npm test` started. */
export interface TestServer {
  readonly address: string;
  readonly database: DataSource;
  send(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; body: unknown }>;
  close(): Promise<void>;
}

export async function startTestServer(application = tmpdir()): Promise<TestServer> {
  const admin = process.env.VARRUP_TEST_DATABASE;
  if (!admin) throw new Error('Server tests need the database that npm test starts (VARRUP_TEST_DATABASE).');
  const name = `test_${Date.now()}_${Math.floor(Math.random() * 1e6)}`;
  const source = await new DataSource({ type: 'postgres', url: admin }).initialize();
  await source.query(`CREATE DATABASE ${name}`);
  const url = new URL(admin);
  url.pathname = `/${name}`;
  const database = await openDatabase(url.href);
  const work = new Work(database, url.href, new Room(null), pino({ level: 'silent' }));
  const server: Server = createServer();
  await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
  const { port } = server.address() as AddressInfo;
  server.on(
    'request',
    createApp(work, { application, origins: [] }, () => port, pino({ level: 'silent' })),
  );
  const address = `http://127.0.0.1:${port}`;
  return {
    address,
    database,
    async send(method, path, body, headers = {}) {
      const raw = typeof body === 'string' || body instanceof Uint8Array;
      const response = await fetch(address + path, {
        method,
        headers: {
          'x-varrup': 'test',
          ...(body === undefined || raw ? {} : { 'content-type': 'application/json' }),
          ...headers,
        },
        body: body === undefined ? undefined : raw ? (body as string) : JSON.stringify(body),
      });
      const text = await response.text();
      return { status: response.status, body: text === '' ? null : JSON.parse(text) };
    },
    async close() {
      server.closeAllConnections();
      await new Promise((closed) => server.close(closed));
      await work.close();
      await database.destroy();
      await source.query(`DROP DATABASE ${name} WITH (FORCE)`);
      await source.destroy();
    },
  };
}

/** A shot as the server gives it, read as the desk reads it. */
export async function openedFrom(
  server: TestServer,
  id: string,
): Promise<Omit<OpenShot, 'edits'> & { document: Shot }> {
  const { edits, ...opened } = OpenShotSchema.parse((await server.send('GET', `/api/shots/${id}`)).body);
  return { ...opened, document: { ...edits.reduce(applyEdit, opened.document), rigs: Rigs.none } };
}
