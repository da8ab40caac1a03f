import type { Build } from '@varrup/core';
import { type DBSchema, openDB } from 'idb';

/** A rig that is being built and is not kept yet, as this browser holds it. */
export interface Draft {
  readonly rig: string;
  /** The version it began with. */
  readonly from: number;
  readonly build: Build;
}

interface Schema extends DBSchema {
  drafts: { key: string; value: Draft };
}

const database = () =>
  openDB<Schema>('varrup-rigging', 1, {
    upgrade: (fresh) => void fresh.createObjectStore('drafts', { keyPath: 'rig' }),
  });

export const drafts = {
  get: async (rig: string): Promise<Draft | undefined> => (await database()).get('drafts', rig),
  put: async (draft: Draft): Promise<void> => void (await (await database()).put('drafts', draft)),
  remove: async (rig: string): Promise<void> => (await database()).delete('drafts', rig),
};
