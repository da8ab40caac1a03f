import { NamedSchema } from '@varrup/core';
import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { smallBody } from '../http/body.ts';
import { readBody, readId } from '../http/read.ts';
import { keepVersion, openVersion, removeVersion, versionsOf } from '../store/versions.ts';

/** Named versions of a shot: kept, listed, read, deleted. */
export function versionRoutes(database: DataSource): Router {
  const routes = Router();
  const db = database.manager;

  routes.get('/shots/:id/versions', async (request, response) => {
    response.json({ versions: await versionsOf(db, readId(request, 'shot')) });
  });

  routes.post('/shots/:id/versions', smallBody, async (request, response) => {
    const { name } = readBody(NamedSchema, request);
    const id = await database.transaction((t) => keepVersion(t, readId(request, 'shot'), name));
    response.status(201).json({ id });
  });

  routes.get('/shots/:id/versions/:version', async (request, response) => {
    const document = await openVersion(db, readId(request, 'shot'), readId(request, 'version', 'version'));
    response.json({ document });
  });

  routes.delete('/shots/:id/versions/:version', async (request, response) => {
    await removeVersion(db, readId(request, 'shot'), readId(request, 'version', 'version'));
    response.status(204).end();
  });

  return routes;
}
