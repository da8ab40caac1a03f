import { z } from 'zod';
import { listOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { MediaHashSchema } from '../schema/media-hash.ts';
import { FrameSchema, ValueSchema } from '../schema/numbers.ts';

/** A place on a picture: in widths of it from its upper left corner, y down. */
export const PicturePointSchema = z.tuple([z.number().min(-2).max(3), z.number().min(-2).max(3)]).readonly();
export type PicturePoint = z.infer<typeof PicturePointSchema>;

/** Where footage is shown. */
export const footagePlaces = ['beside', 'corner', 'over', 'card', 'off'] as const;
export type FootagePlace = (typeof footagePlaces)[number];

/** A run has at most so many pictures. */
export const MOST_PICTURES = 2_000;

/** Footage pinned to a shot: a film, or pictures one by one; which, and how its time goes with the shot's. */
export const FootageSchema = z
  .strictObject({
    id: IdSchema,
    name: NameSchema,
    /** The film; of a run the first of its pictures. */
    media: MediaHashSchema,
    /** The pictures of a run, in their order; none of a film. */
    pictures: listOf(MediaHashSchema, MOST_PICTURES),
    /** What the file has: how long, how large in pixels, how many pictures a second. */
    seconds: z.number().positive().max(7_200),
    width: z.number().int().min(1).max(16_384),
    height: z.number().int().min(1).max(16_384),
    rate: z.number().min(1).max(1_000),
    /** The frame of the shot on which its `from` is seen. */
    frame: FrameSchema,
    /** Its first second that is used, and the one up to which it is. */
    from: z.number().min(0).max(7_200),
    until: z.number().min(0).max(7_200),
    /** Seconds of it that go by in a second of the shot. */
    speed: z.number().min(0.02).max(20),
    shown: z.enum(footagePlaces),
    /** How strong it is where it lies over or behind something. */
    strength: z.number().min(0).max(1),
    /** On a card in the scene: the middle of its lower edge, how it is turned about the upright (radians), how wide it is in metres. */
    card: z.strictObject({
      at: z.tuple([ValueSchema, ValueSchema, ValueSchema]).readonly(),
      turn: z.number().min(-7).max(7),
      wide: z.number().min(0.01).max(1_000),
    }),
    /** Two marked points and how far apart they are in metres: what lengths on it mean. */
    scale: z
      .strictObject({ a: PicturePointSchema, b: PicturePointSchema, metres: z.number().gt(0).max(100_000) })
      .nullable(),
  })
  .refine(({ from, until }) => until > from, 'ends before it begins');
export type Footage = z.infer<typeof FootageSchema>;

/** A dot on a picture of footage: which picture, counted from 0, and where. */
const DotSchema = z.strictObject({ picture: z.number().int().min(0).max(7_200_000), at: PicturePointSchema });
export type Dot = z.infer<typeof DotSchema>;

const ordered = (dots: readonly Dot[]) => dots.every((d, i) => i === 0 || d.picture > dots[i - 1].picture);

/** A point followed through footage: a dot a picture, in the order of the pictures. */
export const TraceSchema = z.strictObject({
  id: IdSchema,
  footage: IdSchema,
  name: NameSchema,
  side: z.enum(['left', 'right', 'centre']),
  dots: listOf(DotSchema, 20_000).refine(ordered, 'must be in order, one a picture'),
});
export type Trace = z.infer<typeof TraceSchema>;
