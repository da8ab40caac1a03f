import { type Home, ListQuerySchema, NamedSchema } from '@varrup/core';
import { Router } from 'express';
import { ProductionEntity } from '../entities/production.ts';
import { smallBody } from '../http/body.ts';
import { readBody, readId, readQuery } from '../http/read.ts';
import { notFound } from '../http/refusal.ts';
import { listProductions } from '../store/lists.ts';
import { createProduction, productionInUse } from '../store/productions.ts';
import { sealOfProduction } from '../store/seals.ts';
import type { Work } from '../work/work.ts';

/** The productions: list, make, rename, duplicate, to the bin and back. */
export function productionRoutes(work: Work): Router {
  const { database } = work.store;
  const routes = Router();

  routes.get('/productions', async (request, response) => {
    const home: Home = { productions: await listProductions(database.manager, readQuery(ListQuerySchema, request)) };
    response.json(home);
  });

  routes.post('/productions', smallBody, async (request, response) => {
    const { name } = readBody(NamedSchema, request);
    response.status(201).json({ id: await createProduction(database.manager, name) });
  });

  routes.patch('/productions/:id', smallBody, async (request, response) => {
    const { name } = readBody(NamedSchema, request);
    const row = await productionInUse(database.manager, readId(request, 'production'));
    const seal = sealOfProduction({ id: row.id, name });
    await database.manager.update(ProductionEntity, { id: row.id }, { name, seal });
    response.status(204).end();
  });

  routes.post('/productions/:id/duplicate', async (request, response) => {
    const from = readId(request, 'production');
    const id = await work.help('duplicateProduction', { id: from });
    response.status(201).json({ id });
  });

  routes.delete('/productions/:id', async (request, response) => {
    const row = await productionInUse(database.manager, readId(request, 'production'));
    await database.manager.update(ProductionEntity, { id: row.id }, { binnedAt: new Date() });
    response.status(204).end();
  });

  routes.post('/productions/:id/restore', async (request, response) => {
    const row = await database.manager.findOneBy(ProductionEntity, { id: readId(request, 'production') });
    if (!row) throw notFound('production');
    await database.manager.update(ProductionEntity, { id: row.id }, { binnedAt: null });
    response.status(204).end();
  });

  return routes;
}
