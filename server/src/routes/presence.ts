import { HereSchema, IdSchema } from '@varrup/core';
import { Router } from 'express';
import { z } from 'zod';
import { smallBody } from '../http/body.ts';
import { readBody, readId } from '../http/read.ts';
import { Refused } from '../http/refusal.ts';
import { headOf } from '../store/shot-row.ts';
import type { Work } from '../work/work.ts';

const WhoSchema = z.object({ window: IdSchema, person: IdSchema });

/** Listening to a shot: that others have changed it, who is there, and what they have picked. */
export function presenceRoutes(work: Work): Router {
  const routes = Router();
  const { store, listeners } = work;

  routes.get('/shots/:id/events', async (request, response) => {
    const who = WhoSchema.safeParse(request.query);
    if (!who.success) throw new Refused(400, 'The address needs ?window= and &person= with ids.');
    const { id, revision } = await headOf(store.database.manager, readId(request, 'shot'));
    if (!listeners.join(id, who.data, revision, response))
      throw new Refused(503, 'Too many windows listen to this shot.');
  });

  routes.put('/shots/:id/here', smallBody, async (request, response) => {
    const { window, picked } = readBody(HereSchema, request);
    const { id } = await headOf(store.database.manager, readId(request, 'shot'));
    listeners.picks(id, window, picked);
    response.status(204).end();
  });

  return routes;
}
