import type { PoseValues, Rig } from '@varrup/core';
import { EntitySchema } from 'typeorm';

/** One version of a rig of the library. A row never changes. */
export interface RigVersionRow {
  rigId: string;
  version: number;
  name: string;
  changes: string;
  definition: Rig;
  seal: string;
  madeAt: Date;
}

export const RigVersionEntity = new EntitySchema<RigVersionRow>({
  name: 'rigVersion',
  tableName: 'rig_versions',
  columns: {
    rigId: { name: 'rig_id', type: 'text', primary: true },
    version: { type: 'int', primary: true },
    name: { type: 'text' },
    changes: { type: 'text' },
    definition: { type: 'jsonb', select: false },
    seal: { type: 'text', select: false },
    madeAt: { name: 'made_at', type: 'timestamptz', createDate: true },
  },
});

/** A pose of a rig's pose book. */
export interface PoseRow {
  id: string;
  rigId: string;
  name: string;
  tags: string[];
  values: PoseValues;
  seal: string;
  madeAt: Date;
}

export const PoseEntity = new EntitySchema<PoseRow>({
  name: 'pose',
  tableName: 'poses',
  columns: {
    id: { type: 'text', primary: true },
    rigId: { name: 'rig_id', type: 'text' },
    name: { type: 'text' },
    tags: { type: 'jsonb' },
    values: { name: 'channel_values', type: 'jsonb' },
    seal: { type: 'text' },
    madeAt: { name: 'made_at', type: 'timestamptz', createDate: true },
  },
});
