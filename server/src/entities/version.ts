import { EntitySchema } from 'typeorm';

/** The name of a revision of a shot. */
export interface VersionRow {
  id: string;
  shotId: string;
  name: string;
  revision: number;
  seal: string;
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
    seal: { type: 'text' },
    keptAt: { name: 'kept_at', type: 'timestamptz', createDate: true },
  },
});
