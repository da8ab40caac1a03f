import { EntitySchema } from 'typeorm';

/** The picture of a shot that its card shows. */
export interface PictureRow {
  shotId: string;
  mime: string;
  bytes: Buffer;
  /** The hash of the bytes. */
  hash: string;
  takenAt: Date;
}

export const PictureEntity = new EntitySchema<PictureRow>({
  name: 'picture',
  tableName: 'pictures',
  columns: {
    shotId: { name: 'shot_id', type: 'text', primary: true },
    mime: { type: 'text' },
    bytes: { type: 'bytea' },
    hash: { type: 'text' },
    takenAt: { name: 'taken_at', type: 'timestamptz' },
  },
});
