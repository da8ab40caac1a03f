import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { openDatabase } from './database.ts';
import { loadDemo, loadRigs } from './demo.ts';
import { readSettings } from './settings.ts';
import { Work } from './work/work.ts';

/** Starts the server on loopback and stops it in good order. */
const settings = readSettings(process.env);
const log = pino({ level: settings.log });
const { database, isNew } = await openDatabase(settings.database);
await loadRigs(database);
if (isNew) await loadDemo(database);

const work = new Work(database, settings.database, log);
const server = createServer();
server.on(
  'request',
  createApp(work, settings, () => (server.address() as AddressInfo).port, log),
);
// Only loopback: whoever can reach it is the local account.
server.listen(settings.port, '127.0.0.1');

async function stop() {
  // Requests under way are answered; whoever keeps a connection open for later is let go.
  server.close();
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 2000).unref();
  await new Promise((closed) => server.once('close', closed));
  await work.close();
  await database.destroy();
  process.exit(0);
}
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
// Whoever started the server has died: without them nobody could stop it.
process.once('disconnect', stop);
