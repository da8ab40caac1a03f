import type { RigLink } from '@varrup/core';
import { EntitySchema } from 'typeorm';

/** A shot: what the list of shots needs to know, and how far its log has got. Its document is in snapshots and in the log. */
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
  /** The revision of its newest snapshot. */
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
    snapshotRevision: { name: 'snapshot_revision', type: 'int' },
    createdAt: { name: 'created_at', type: 'timestamptz', createDate: true },
    changedAt: { name: 'changed_at', type: 'timestamptz' },
    binnedAt: { name: 'binned_at', type: 'timestamptz', nullable: true },
  },
});
