import { isOutline, MediaHashSchema, mediaKinds, mediaLimits } from '@varrup/core';
import { type Request, type Response, Router } from 'express';
import type { DataSource } from 'typeorm';
import { mediaBody, posterBody, waveformBody } from '../http/body.ts';
import { notFound, Refused } from '../http/refusal.ts';
import { aboutMedia, PART, putMade, putMedia, readMade, readMedia } from '../store/media/index.ts';
import { isWholePicture } from '../store/media/picture.ts';

/** A poster is a picture of the first frame, made small. */
const POSTER_PIXELS = 4_000_000;

function readHash(request: Request): string {
  const parsed = MediaHashSchema.safeParse(request.params.hash);
  if (!parsed.success) throw notFound('sound, picture or footage');
  return parsed.data;
}

/** What is known by its hash never changes. */
const forGood = (response: Response): Response => response.set('Cache-Control', 'private, max-age=31536000, immutable');

/** Sounds, pictures and footage, by the hash of their bytes. */
export function mediaRoutes(database: DataSource): Router {
  const routes = Router();
  const db = database.manager;

  routes.put('/media/:hash', mediaBody, async (request, response) => {
    const gone = new AbortController();
    response.once('close', () => gone.abort());
    await putMedia(database, readHash(request), request.body, gone.signal);
    response.status(204).end();
  });

  // A player asks for the parts it needs, a sender whether it need send at all (HEAD).
  routes.get('/media/:hash', async (request, response) => {
    const hash = readHash(request);
    const { kind, size } = await aboutMedia(db, hash);
    response.set('Accept-Ranges', 'bytes');
    const asked = request.range(size);
    if (asked === -1) {
      response.set('Content-Range', `bytes */${size}`);
      throw new Refused(416, `It has ${size} bytes; those asked for are not among them.`);
    }
    forGood(response).type(mediaKinds[kind].mime);
    const one = Array.isArray(asked) && asked.type === 'bytes' && asked.length === 1 ? asked[0] : null;
    if (one) response.status(206).set('Content-Range', `bytes ${one.start}-${one.end}/${size}`);
    const { start, end } = one ?? { start: 0, end: size - 1 };
    response.set('Content-Length', String(end - start + 1));
    if (request.method === 'HEAD') return void response.end();
    await send(response, start, end, (first, count) => readMedia(db, hash, first, count));
  });

  routes.put('/media/:hash/poster', posterBody, async (request, response) => {
    const bytes = bodyOf(request);
    if (!(await isWholePicture(bytes, 'jpeg', POSTER_PIXELS)))
      throw new Refused(415, 'Not a poster: send a whole JPEG of at most four million pixels.');
    await putMade(db, readHash(request), 'poster', bytes);
    response.status(204).end();
  });

  routes.get('/media/:hash/poster', async (request, response) => {
    const bytes = await readMade(db, readHash(request), 'poster');
    forGood(response).type('image/jpeg').send(bytes);
  });

  routes.put('/media/:hash/waveform', waveformBody, async (request, response) => {
    const [hash, bytes] = [readHash(request), bodyOf(request)];
    const { kind } = await aboutMedia(db, hash);
    if (mediaKinds[kind].of === 'picture') throw new Refused(415, 'A picture has no waveform.');
    if (!isOutline(bytes, mediaLimits.waveform, mediaLimits.seconds))
      throw new Refused(415, 'Not a waveform: two bytes for how many there are a second, then a byte for each.');
    await putMade(db, hash, 'waveform', bytes);
    response.status(204).end();
  });

  routes.get('/media/:hash/waveform', async (request, response) => {
    const bytes = await readMade(db, readHash(request), 'waveform');
    forGood(response).type('application/octet-stream').send(bytes);
  });

  return routes;
}

function bodyOf(request: Request): Buffer {
  if (!Buffer.isBuffer(request.body) || request.body.length === 0) throw new Refused(400, 'There is nothing in it.');
  return request.body;
}

/** Sends bytes a part at a time, as fast as they are taken, until the one who asked has gone away. */
async function send(
  response: Response,
  start: number,
  end: number,
  read: (first: number, count: number) => Promise<Buffer>,
): Promise<void> {
  for (let at = start; at <= end && !response.closed; at += PART) {
    const bytes = await read(at, Math.min(PART, end - at + 1));
    if (!response.write(bytes))
      await new Promise<void>((next) => {
        const go = () => {
          response.off('drain', go).off('close', go);
          next();
        };
        response.on('drain', go).on('close', go);
      });
  }
  response.end();
}
