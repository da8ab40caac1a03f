import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { PictureEntity } from '../entities/picture.ts';
import { pictureBody } from '../http/body.ts';
import { readId } from '../http/read.ts';
import { notFound, Refused } from '../http/refusal.ts';
import { headOf } from '../store/shot-row.ts';

/** How each kind of picture begins. */
const beginnings: Record<string, (bytes: Buffer) => boolean> = {
  'image/png': (b) => b.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])),
  'image/webp': (b) => b.toString('latin1', 0, 4) === 'RIFF' && b.toString('latin1', 8, 12) === 'WEBP',
};

/** The pictures on the cards. */
export function pictureRoutes(database: DataSource): Router {
  const routes = Router();

  routes.put('/shots/:id/picture', pictureBody, async (request, response) => {
    const id = readId(request, 'shot');
    await headOf(database.manager, id);
    const mime = request.headers['content-type'] ?? '';
    if (!Buffer.isBuffer(request.body) || !beginnings[mime]?.(request.body)) {
      throw new Refused(415, 'A picture must be a PNG or WebP, and say which in its Content-Type.');
    }
    await database.manager.upsert(PictureEntity, { shotId: id, mime, bytes: request.body, takenAt: new Date() }, [
      'shotId',
    ]);
    response.status(204).end();
  });

  routes.get('/shots/:id/picture', async (request, response) => {
    const picture = await database.manager.findOneBy(PictureEntity, { shotId: readId(request, 'picture') });
    if (!picture) throw notFound('picture');
    response.set('Cache-Control', 'private, max-age=31536000, immutable').type(picture.mime).send(picture.bytes);
  });

  return routes;
}
