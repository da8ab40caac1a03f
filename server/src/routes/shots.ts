import { CommitSchema, emptyShot, NamedSchema, NewShotSchema, newId, parseShot } from '@varrup/core';
import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { z } from 'zod';
import { ProductionEntity } from '../entities/production.ts';
import { ShotEntity } from '../entities/shot.ts';
import { documentBody, smallBody } from '../http/body.ts';
import { readBody, readId } from '../http/read.ts';
import { notFound, Refused, refusedFor } from '../http/refusal.ts';
import { rigsFor } from '../store/rigs.ts';
import { commitEdits, createShot, duplicateShot, editsSince, openShot, renameShot } from '../store/shots.ts';

const SinceSchema = z.coerce.number().int().min(0);

/** The shots: open, make, rename, duplicate, to the bin and back, and their log of edits. */
export function shotRoutes(database: DataSource): Router {
  const routes = Router();

  routes.post('/productions/:id/shots', documentBody, async (request, response) => {
    const { name, document } = readBody(NewShotSchema, request);
    const production = readId(request, 'production');
    let shot = emptyShot(newId(), name);
    if (document !== undefined) {
      const parsed = parseShot(document, await rigsFor(database.manager, document));
      if (!parsed.ok) throw refusedFor(422, 'The document is wrong at', parsed.problems);
      shot = { ...parsed.value, name };
    }
    const id = await database.transaction((db) => createShot(db, production, shot));
    response.status(201).json({ id });
  });

  routes.get('/shots/:id', async (request, response) => {
    response.json(await openShot(database.manager, readId(request, 'shot')));
  });

  routes.patch('/shots/:id', smallBody, async (request, response) => {
    const { name } = readBody(NamedSchema, request);
    await database.transaction((db) => renameShot(db, readId(request, 'shot'), name));
    response.status(204).end();
  });

  routes.post('/shots/:id/duplicate', async (request, response) => {
    const id = await database.transaction((db) => duplicateShot(db, readId(request, 'shot')));
    response.status(201).json({ id });
  });

  routes.delete('/shots/:id', async (request, response) => {
    const id = readId(request, 'shot');
    await openShot(database.manager, id);
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
    response.json(await editsSince(database.manager, readId(request, 'shot'), since.data));
  });

  routes.post('/shots/:id/edits', documentBody, async (request, response) => {
    const commit = readBody(CommitSchema, request);
    const id = readId(request, 'shot');
    const revision = await database.transaction((db) => commitEdits(db, id, commit));
    response.json({ revision });
  });

  return routes;
}
