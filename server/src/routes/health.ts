import { Router } from 'express';
import type { DataSource } from 'typeorm';
import { Refused } from '../http/refusal.ts';
import type { Room } from '../work/room.ts';

/** Whether the server and its database answer, and how much room there is on the disk. */
export function healthRoutes(database: DataSource, room: Room): Router {
  const routes = Router();
  routes.get('/health', async (_request, response) => {
    try {
      await database.query('SELECT 1');
    } catch {
      throw new Refused(503, 'The database does not answer.');
    }
    const disk = Number.isFinite(room.free) ? { room: room.state, free: room.free } : {};
    response.json({ status: 'ok', ...disk });
  });
  return routes;
}
