import type { RigLink, Shot } from '@varrup/core';
import { EntitySchema } from 'typeorm';

/** A shot: the newest snapshot of its document, and what the list of shots needs to know without opening it. */
export interface ShotRow {
  id: string;
  productionId: string;
  name: string;
  frames: number;
  rate: number;
  /** The rigs it links, each once. */
  links: RigLink[];
  /** How many edits it has had. */
  revision: number;
  /** The document as it was at `snapshotRevision`; later edits are in the log. */
  snapshot: Shot;
  snapshotRevision: number;
  createdAt: Date;
  changedAt: Date;
  binnedAt: Date | null;
}

export const ShotEntity = new EntitySchema<ShotRow>({
  name: 'shot',
  tableName: 'shots',
  columns: {
    id: { type: 'text', primary: true },
    productionId: { name: 'production_id', type: 'text' },
    name: { type: 'text' },
    frames: { type: 'int' },
    rate: { type: 'double precision' },
    links: { type: 'jsonb' },
    revision: { type: 'int' },
    snapshot: { type: 'jsonb', select: false },
    snapshotRevision: { name: 'snapshot_revision', type: 'int' },
    createdAt: { name: 'created_at', type: 'timestamptz', createDate: true },
    changedAt: { name: 'changed_at', type: 'timestamptz' },
    binnedAt: { name: 'binned_at', type: 'timestamptz', nullable: true },
  },
});
