import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { listBin } from '../store/lists.ts';

/** What is in the bin, newest first. It leaves it by being brought back, or for good after a season (see `emptyOldBin`). */
export function binRoutes(database: DataSource): Router {
  const routes = Router();
  routes.get('/bin', async (_request, response) => {
    response.json(await listBin(database.manager));
  });
  return routes;
}
