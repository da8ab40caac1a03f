import type { Bin } from '@varrup/core';
import { Router } from 'express';
import { type DataSource, IsNull, Not } from 'typeorm';
import { ProductionEntity } from '../entities/production.ts';
import { ShotEntity } from '../entities/shot.ts';

/** What is in the bin, newest first. It leaves it by being brought back, or for good after a season (see `emptyOldBin`). */
export function binRoutes(database: DataSource): Router {
  const routes = Router();
  routes.get('/bin', async (_request, response) => {
    const where = { binnedAt: Not(IsNull()) };
    const productions = await database.manager.find(ProductionEntity);
    const shots = await database.manager.find(ShotEntity, { where });
    const names = new Map(productions.map((p) => [p.id, p.name]));
    const bin: Bin = {
      items: [
        ...productions.flatMap((p) =>
          p.binnedAt
            ? [
                {
                  type: 'production' as const,
                  id: p.id,
                  name: p.name,
                  production: null,
                  binnedAt: p.binnedAt.toISOString(),
                },
              ]
            : [],
        ),
        ...shots.map((s) => ({
          type: 'shot' as const,
          id: s.id,
          name: s.name,
          production: names.get(s.productionId) ?? null,
          binnedAt: s.binnedAt!.toISOString(),
        })),
      ].sort((a, b) => (a.binnedAt < b.binnedAt ? 1 : -1)),
    };
    response.json(bin);
  });
  return routes;
}
