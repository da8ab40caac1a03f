import { EntitySchema } from 'typeorm';

export interface ProductionRow {
  id: string;
  name: string;
  seal: string;
  createdAt: Date;
  changedAt: Date;
  /** When it went to the bin; null while it is in use. */
  binnedAt: Date | null;
}

export const ProductionEntity = new EntitySchema<ProductionRow>({
  name: 'production',
  tableName: 'productions',
  columns: {
    id: { type: 'text', primary: true },
    name: { type: 'text' },
    seal: { type: 'text' },
    createdAt: { name: 'created_at', type: 'timestamptz', createDate: true },
    changedAt: { name: 'changed_at', type: 'timestamptz', updateDate: true },
    binnedAt: { name: 'binned_at', type: 'timestamptz', nullable: true },
  },
});
