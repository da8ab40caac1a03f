import { NewPoseSchema, PoseWordsSchema, RigLinkSchema } from '@varrup/core';
import { Router } from 'express';
import { documentBody, poseBody, smallBody } from '../http/body.ts';
import { bytesOf, readBody, readId } from '../http/read.ts';
import { notFound } from '../http/refusal.ts';
import { addPose, library, poseBook, removePose, renamePose, rigVersion } from '../store/rigs.ts';
import type { Work } from '../work/work.ts';

/** The rig library: rigs with their versions, and pose books. */
export function rigRoutes(work: Work): Router {
  const routes = Router();
  const { database } = work.store;
  const db = database.manager;

  routes.get('/rigs', async (_request, response) => {
    response.json({ rigs: await library(db) });
  });

  routes.post('/rigs', documentBody, async (request, response) => {
    response.status(201).json(await work.keepRig(bytesOf(request)));
  });

  routes.get('/rigs/:id/versions/:version', async (request, response) => {
    const version = Number(request.params.version);
    if (!RigLinkSchema.shape.version.safeParse(version).success) throw notFound('version of a rig');
    const rig = await rigVersion(db, { rig: readId(request, 'rig'), version });
    // A version never changes.
    response.set('Cache-Control', 'private, max-age=31536000, immutable').json(rig);
  });

  routes.get('/rigs/:id/poses', async (request, response) => {
    response.json({ poses: await poseBook(db, readId(request, 'rig')) });
  });

  routes.post('/rigs/:id/poses', poseBody, async (request, response) => {
    const pose = readBody(NewPoseSchema, request);
    const id = await database.transaction((t) => addPose(t, readId(request, 'rig'), pose));
    response.status(201).json({ id });
  });

  routes.patch('/rigs/:id/poses/:pose', smallBody, async (request, response) => {
    const words = readBody(PoseWordsSchema, request);
    await renamePose(db, readId(request, 'rig'), readId(request, 'pose', 'pose'), words);
    response.status(204).end();
  });

  routes.delete('/rigs/:id/poses/:pose', async (request, response) => {
    await removePose(db, readId(request, 'rig'), readId(request, 'pose', 'pose'));
    response.status(204).end();
  });

  return routes;
}
