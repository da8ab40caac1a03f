import { HereSchema, IdSchema } from '@varrup/core';
import { Router } from 'express';
import { smallBody } from '../http/body.ts';
import { readBody, readId } from '../http/read.ts';
import { Refused } from '../http/refusal.ts';
import { headOf } from '../store/shot-row.ts';
import type { Work } from '../work/work.ts';

/** Listening to a shot: that others have changed it, who is there, and what they have picked. */
export function presenceRoutes(work: Work): Router {
  const routes = Router();
  const { store, listeners } = work;

  routes.get('/shots/:id/events', async (request, response) => {
    const window = IdSchema.safeParse(request.query.window);
    if (!window.success) throw new Refused(400, 'The address needs ?window= with an id.', { pointer: '/window' });
    const { id, revision } = await headOf(store.database.manager, readId(request, 'shot'));
    if (!listeners.join(id, window.data, revision, response))
      throw new Refused(503, 'Too many windows listen to this shot.');
  });

  routes.put('/shots/:id/here', smallBody, async (request, response) => {
    const { window, picked } = readBody(HereSchema, request);
    listeners.picks(readId(request, 'shot'), window, picked);
    response.status(204).end();
  });

  return routes;
}
