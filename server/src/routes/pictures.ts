import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { PictureEntity } from '../entities/picture.ts';
import { pictureBody } from '../http/body.ts';
import { readId } from '../http/read.ts';
import { notFound, Refused } from '../http/refusal.ts';
import { isWholePicture } from '../store/media/picture.ts';
import { putPicture } from '../store/pictures.ts';
import { headOf } from '../store/shot-row.ts';

/** The kinds of picture that are taken, and what they are called where they are decoded. */
const formats = new Map([
  ['image/png', 'png'],
  ['image/webp', 'webp'],
]);
const MOST_PIXELS = 4_000_000;

/** The pictures on the cards. */
export function pictureRoutes(database: DataSource): Router {
  const routes = Router();

  routes.put('/shots/:id/picture', pictureBody, async (request, response) => {
    const id = readId(request, 'shot');
    await headOf(database.manager, id);
    const mime = request.headers['content-type'] ?? '';
    const format = formats.get(mime);
    if (!format || !Buffer.isBuffer(request.body) || !(await isWholePicture(request.body, format, MOST_PIXELS))) {
      throw new Refused(415, 'A picture must be a PNG or WebP, and say which in its Content-Type.');
    }
    await putPicture(database.manager, id, mime, request.body);
    response.status(204).end();
  });

  routes.get('/shots/:id/picture', async (request, response) => {
    const picture = await database.manager.findOneBy(PictureEntity, { shotId: readId(request, 'picture') });
    if (!picture) throw notFound('picture');
    response.set('Cache-Control', 'private, max-age=31536000, immutable').type(picture.mime).send(picture.bytes);
  });

  return routes;
}
