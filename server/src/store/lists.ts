import {
  type Bin,
  type ListOrder,
  type ListQuery,
  MOST_IN_BIN,
  MOST_LISTED,
  type Production,
  type ShotSummary,
  type ShotsQuery,
} from '@varrup/core';
import type { EntityManager } from 'typeorm';

/** The lists of what there is: each a query that gives what is shown, and no more of it than is asked for. */

const ORDERS: Readonly<Record<ListOrder, string>> = {
  recent: 'changed_at DESC, lower(name), id',
  name: 'lower(name), changed_at DESC, id',
};

/** What a search finds in a name: the text itself, whatever signs are in it. */
const pattern = (search: string): string => `%${search.replace(/[\\%_]/g, '\\$&')}%`;

/** A shot is found by its own name and by that of its production. */
const FOUND = '(s.name ILIKE $1 OR p.name ILIKE $1)';

/** The productions in use that have what is searched for. */
export async function listProductions(db: EntityManager, { search, order }: ListQuery): Promise<Production[]> {
  const rows: (Omit<Production, 'changedAt'> & { changed_at: Date })[] = await db.query(
    `SELECT * FROM (
       SELECT p.id, p.name, greatest(p.changed_at, max(s.changed_at)) AS changed_at, count(s.id)::int AS shots,
              coalesce(max(substring(s.name FROM '^(\\d{1,6})\\M')::int), 0) AS "lastNumber"
         FROM productions p
         LEFT JOIN shots s ON s.production_id = p.id AND s.binned_at IS NULL AND ${FOUND}
        WHERE p.binned_at IS NULL GROUP BY p.id
       HAVING count(s.id) > 0 OR p.name ILIKE $1) AS listed
     ORDER BY ${ORDERS[order]} LIMIT ${MOST_LISTED}`,
    [pattern(search)],
  );
  return rows.map(({ changed_at, ...row }) => ({ ...row, changedAt: changed_at.toISOString() }));
}

/** A page of the shots in use. */
export async function listShots(db: EntityManager, query: ShotsQuery): Promise<ShotSummary[]> {
  const { search, order, production = null, from, count } = query;
  const rows: (Omit<ShotSummary, 'changedAt' | 'picturedAt'> & { changed_at: Date; pictured_at: Date | null })[] =
    await db.query(
      `SELECT l.id, l.production_id AS production, l.name, l.revision, l.frames, l.rate, l.changed_at, c.taken_at AS pictured_at
         FROM (SELECT s.* FROM shots s JOIN productions p ON p.id = s.production_id
                WHERE s.binned_at IS NULL AND p.binned_at IS NULL AND ($2::text IS NULL OR p.id = $2) AND ${FOUND}
                ORDER BY ${ORDERS[order].replace(/changed_at|name|id$/g, 's.$&')} OFFSET $3 LIMIT $4) AS l
         LEFT JOIN pictures c ON c.shot_id = l.id
        ORDER BY ${ORDERS[order].replace(/changed_at|name|id$/g, 'l.$&')}`,
      [pattern(search), production, from, count],
    );
  return rows.map(({ changed_at, pictured_at, ...row }) => ({
    ...row,
    changedAt: changed_at.toISOString(),
    picturedAt: pictured_at?.toISOString() ?? null,
  }));
}

/** What went to the bin last. */
export async function listBin(db: EntityManager): Promise<Bin> {
  const rows: {
    type: 'production' | 'shot';
    id: string;
    name: string;
    production: string | null;
    binned_at: Date;
    total: number;
  }[] = await db.query(
    `SELECT *, count(*) OVER ()::int AS total FROM (
         SELECT 'production' AS type, id, name, NULL AS production, binned_at FROM productions WHERE binned_at IS NOT NULL
         UNION ALL
         SELECT 'shot', s.id, s.name, p.name, s.binned_at FROM shots s JOIN productions p ON p.id = s.production_id
          WHERE s.binned_at IS NOT NULL) AS binned
       ORDER BY binned_at DESC, id LIMIT ${MOST_IN_BIN}`,
  );
  const items = rows.map(({ binned_at, total: _, ...row }) => ({ ...row, binnedAt: binned_at.toISOString() }));
  return { total: rows[0]?.total ?? 0, items };
}
