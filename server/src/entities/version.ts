import type { Shot } from '@varrup/core';
import { EntitySchema } from 'typeorm';

/** A shot as it was at a revision, kept under a name. */
export interface VersionRow {
  id: string;
  shotId: string;
  name: string;
  revision: number;
  document: Shot;
  keptAt: Date;
}

export const VersionEntity = new EntitySchema<VersionRow>({
  name: 'version',
  tableName: 'versions',
  columns: {
    id: { type: 'text', primary: true },
    shotId: { name: 'shot_id', type: 'text' },
    name: { type: 'text' },
    revision: { type: 'int' },
    document: { type: 'jsonb', select: false },
    keptAt: { name: 'kept_at', type: 'timestamptz', createDate: true },
  },
});
