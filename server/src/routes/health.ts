import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { Refused } from '../http/refusal.ts';

/** Whether the server and its database answer. */
export function healthRoutes(database: DataSource): Router {
  const routes = Router();
  routes.get('/health', async (_request, response) => {
    try {
      await database.query('SELECT 1');
    } catch {
      throw new Refused(503, 'The database does not answer.');
    }
    response.json({ status: 'ok' });
  });
  return routes;
}
