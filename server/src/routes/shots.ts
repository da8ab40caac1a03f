import { MOST_REVISIONS, NamedSchema, ShotsQuerySchema } from '@varrup/core';
import { type Response, Router } from 'express';
import { z } from 'zod';
import { ProductionEntity } from '../entities/production.ts';
import { ShotEntity } from '../entities/shot.ts';
import { documentBody, smallBody } from '../http/body.ts';
import { bytesOf, readBody, readId, readQuery } from '../http/read.ts';
import { notFound, Refused } from '../http/refusal.ts';
import { listShots } from '../store/lists.ts';
import { headOf } from '../store/shot-row.ts';
import { editsSince, openShot, renameShot } from '../store/shots.ts';
import type { Work } from '../work/work.ts';

const SinceSchema = z.coerce.number().int().min(0).max(MOST_REVISIONS);

const json = (response: Response) => response.type('application/json');

/** The shots: open, make, rename, duplicate, to the bin and back, and their log of edits. */
export function shotRoutes(work: Work): Router {
  const routes = Router();
  const { store } = work;
  const { database } = store;

  routes.get('/shots', async (request, response) => {
    response.json({ shots: await listShots(database.manager, readQuery(ShotsQuerySchema, request)) });
  });

  routes.post('/productions/:id/shots', documentBody, async (request, response) => {
    const id = await work.create(readId(request, 'production'), bytesOf(request));
    response.status(201).json({ id });
  });

  routes.get('/shots/:id', async (request, response) => {
    const parts = await openShot(store, readId(request, 'shot'));
    json(response).set('Content-Length', String(parts.reduce((n, part) => n + part.length, 0)));
    for (const part of parts) response.write(part);
    response.end();
  });

  routes.patch('/shots/:id', smallBody, async (request, response) => {
    const { name } = readBody(NamedSchema, request);
    const id = readId(request, 'shot');
    await work.alone(id, () => renameShot(store, id, name));
    response.status(204).end();
  });

  routes.post('/shots/:id/duplicate', async (request, response) => {
    const id = readId(request, 'shot');
    response.status(201).json({ id: await work.alone(id, () => work.help('duplicate', { id })) });
  });

  routes.post('/shots/:id/mend', async (request, response) => {
    response.status(201).json({ id: await work.help('mend', { id: readId(request, 'shot') }) });
  });

  routes.delete('/shots/:id', async (request, response) => {
    const id = readId(request, 'shot');
    await headOf(database.manager, id);
    await database.manager.update(ShotEntity, { id }, { binnedAt: new Date() });
    response.status(204).end();
  });

  routes.post('/shots/:id/restore', async (request, response) => {
    const row = await database.manager.findOneBy(ShotEntity, { id: readId(request, 'shot') });
    if (!row) throw notFound('shot');
    const production = await database.manager.findOneByOrFail(ProductionEntity, { id: row.productionId });
    if (production.binnedAt) {
      throw new Refused(409, `Bring "${production.name}" back first: the shot belongs to it.`);
    }
    await database.manager.update(ShotEntity, { id: row.id }, { binnedAt: null });
    response.status(204).end();
  });

  routes.get('/shots/:id/edits', async (request, response) => {
    const since = SinceSchema.safeParse(request.query.since ?? '0');
    if (!since.success)
      throw new Refused(400, 'The address needs ?since= with a revision, 0 or more.', { pointer: '/since' });
    const withInverse = request.query.inverse !== undefined;
    json(response).send(await editsSince(store, readId(request, 'shot'), since.data, withInverse));
  });

  routes.post('/shots/:id/edits', documentBody, async (request, response) => {
    json(response).send(await work.commit(readId(request, 'shot'), bytesOf(request)));
  });

  return routes;
}
