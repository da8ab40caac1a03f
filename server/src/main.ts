import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { openDatabase } from './database.ts';
import { loadDemo, loadRigs } from './demo.ts';
import { readSettings } from './settings.ts';
import { emptyOldBin } from './store/bin.ts';
import { dropIncoming } from './store/media/index.ts';
import { sentenceForStart } from './trouble.ts';
import { Room } from './work/room.ts';
import { Work } from './work/work.ts';

const DAY = 24 * 3600 * 1000;
/** The end of a server that would end the same way if it were started again: the starter tries no more. */
const GIVEN_UP = 78;

/** Starts the server on loopback and stops it in good order. */
const started = start().catch((error) => {
  const sentence = sentenceForStart(error);
  process.stderr.write(`${sentence ?? error.stack}\n`);
  process.exit(sentence ? GIVEN_UP : 1);
});
const stop = async () => {
  await (await started)?.();
  process.exit(0);
};
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
// Whoever started the server has died: without them nobody could stop it.
process.once('disconnect', stop);
if (process.channel === null) void stop();
await started;

/** @returns what stops it */
async function start(): Promise<() => Promise<void>> {
  const settings = readSettings(process.env);
  const log = pino({ level: settings.log });
  const room = new Room(settings.disk);
  await room.look();
  const database = await openDatabase(settings.database);
  // What is there can be read on a full disk as well; the rest is done at a start with room.
  if (room.state !== 'full') {
    await dropIncoming(database.manager);
    await loadRigs(database);
    await loadDemo(database);
    await emptyOldBin(database);
  }
  const bin = setInterval(() => void emptyOldBin(database).catch(() => {}), DAY);
  bin.unref();

  const work = new Work(database, settings.database, room, log);
  const server = createServer();
  server.on(
    'request',
    createApp(work, settings, () => (server.address() as AddressInfo).port, log),
  );
  // Only loopback: whoever can reach it is the local account.
  await new Promise<void>((listening, failed) => {
    server.once('error', failed);
    server.listen(settings.port, '127.0.0.1', listening);
  });
  // Whoever sends something large should not wait for the helper as well.
  work.warmUp();
  return async () => {
    clearInterval(bin);
    room.close();
    work.listeners.close();
    // Requests under way are answered; whoever keeps a connection open for later is let go.
    server.close();
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 2000).unref();
    await new Promise((closed) => server.once('close', closed));
    await work.close();
    await database.destroy();
  };
}
