import { MOST_REVISIONS, NamedSchema } from '@varrup/core';
import { Router } from 'express';
import { z } from 'zod';
import { smallBody } from '../http/body.ts';
import { readBody, readId } from '../http/read.ts';
import { notFound } from '../http/refusal.ts';
import { keepVersion, removeVersion, versionsOf } from '../store/versions.ts';
import type { Work } from '../work/work.ts';

/** Named versions of a shot: kept, listed, read, deleted; and what it was after so many edits. */
export function versionRoutes(work: Work): Router {
  const routes = Router();
  const { database } = work.store;
  const db = database.manager;

  routes.get('/shots/:id/versions', async (request, response) => {
    response.json({ versions: await versionsOf(db, readId(request, 'shot')) });
  });

  routes.post('/shots/:id/versions', smallBody, async (request, response) => {
    const { name } = readBody(NamedSchema, request);
    const shot = readId(request, 'shot');
    const id = await work.alone(shot, () => database.transaction((t) => keepVersion(t, shot, name)));
    response.status(201).json({ id });
  });

  routes.get('/shots/:id/versions/:version', async (request, response) => {
    const given = { shot: readId(request, 'shot'), id: readId(request, 'version', 'version') };
    response.type('application/json').send(await work.help('version', given));
  });

  routes.get('/shots/:id/revisions/:revision', async (request, response) => {
    const revision = z.coerce.number().int().min(0).max(MOST_REVISIONS).safeParse(request.params.revision);
    if (!revision.success) throw notFound('revision');
    const given = { shot: readId(request, 'shot'), revision: revision.data };
    response.type('application/json').send(await work.help('revision', given));
  });

  routes.delete('/shots/:id/versions/:version', async (request, response) => {
    await removeVersion(db, readId(request, 'shot'), readId(request, 'version', 'version'));
    response.status(204).end();
  });

  return routes;
}
