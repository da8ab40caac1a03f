import type { Patch } from '@varrup/core';
import { EntitySchema } from 'typeorm';

/** One line of a shot's log. Lines are added and never changed. */
export interface EditRow {
  shotId: string;
  /** The revision this edit led to; the first is 1. */
  revision: number;
  /** The edit's own id: sent twice, it is done once. */
  editId: string;
  command: string;
  label: string;
  patches: Patch[];
  madeAt: Date;
}

export const EditEntity = new EntitySchema<EditRow>({
  name: 'edit',
  tableName: 'edits',
  columns: {
    shotId: { name: 'shot_id', type: 'text', primary: true },
    revision: { type: 'int', primary: true },
    editId: { name: 'edit_id', type: 'text' },
    command: { type: 'text' },
    label: { type: 'text' },
    patches: { type: 'jsonb' },
    madeAt: { name: 'made_at', type: 'timestamptz', createDate: true },
  },
});
