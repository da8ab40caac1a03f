import { MediaHashSchema, mediaKinds } from '@varrup/core';
import { type Request, Router } from 'express';
import type { DataSource } from 'typeorm';
import { mediaBody } from '../http/body.ts';
import { notFound, Refused } from '../http/refusal.ts';
import { aboutMedia, putMedia, readMedia } from '../store/media.ts';

function readHash(request: Request): string {
  const parsed = MediaHashSchema.safeParse(request.params.hash);
  if (!parsed.success) throw notFound('sound or picture');
  return parsed.data;
}

/** Sounds and pictures, by the hash of their bytes. */
export function mediaRoutes(database: DataSource): Router {
  const routes = Router();
  const db = database.manager;

  routes.put('/media/:hash', mediaBody, async (request, response) => {
    if (!Buffer.isBuffer(request.body) || request.body.length === 0) throw new Refused(400, 'There is nothing in it.');
    await putMedia(db, readHash(request), request.body);
    response.status(204).end();
  });

  // A player asks for the parts it needs.
  routes.get('/media/:hash', async (request, response) => {
    const hash = readHash(request);
    const { kind, size } = await aboutMedia(db, hash);
    response
      .set('Cache-Control', 'private, max-age=31536000, immutable')
      .set('Accept-Ranges', 'bytes')
      .type(mediaKinds[kind].mime);
    const asked = request.range(size);
    if (asked === -1) {
      response.set('Content-Range', `bytes */${size}`);
      throw new Refused(416, `It has ${size} bytes; those asked for are not among them.`);
    }
    const one = Array.isArray(asked) && asked.type === 'bytes' && asked.length === 1 ? asked[0] : null;
    if (one) response.status(206).set('Content-Range', `bytes ${one.start}-${one.end}/${size}`);
    const { start, end } = one ?? { start: 0, end: size - 1 };
    response.send(await readMedia(db, hash, start, end - start + 1));
  });

  return routes;
}
