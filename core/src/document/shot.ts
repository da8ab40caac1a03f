import { z } from 'zod';
import { CurveSchema } from '../curve/key.ts';
import { AsideSchema } from './aside.ts';
import { ClipSchema } from './clip.ts';
import { FormulaSchema } from './formula.ts';
import { IdSchema, NameSchema } from './ids.ts';
import { MemberSchema } from './member.ts';
import { QuaternionSchema, ValueSchema } from './numbers.ts';
import { PathSchema } from './path.ts';
import { RecipeSchema } from './recipe.ts';
import { PlacedSoundSchema } from './sound.ts';
import { WatchSchema } from './watch.ts';

/** The version this code writes. `migrate.ts` brings older ones up to it. */
export const SHOT_VERSION = 5;

export const limits = {
  members: 5_000,
  curves: 50_000,
  frames: 200_000,
  sets: 500,
  setPaths: 5_000,
  formulas: 5_000,
  recipes: 2_000,
  sounds: 500,
  aside: 5_000,
  clips: 500,
} as const;

const wholeFrame = z.number().int().min(-limits.frames).max(limits.frames);
const SpanSchema = z.strictObject({ first: wholeFrame, last: wholeFrame });
/** A run of whole frames, both ends included. */
export type Span = z.infer<typeof SpanSchema>;

/** A control set: channels, of one member or many, that are keyed and picked together. */
export const ControlSetSchema = z.strictObject({
  id: IdSchema,
  name: NameSchema,
  paths: z.array(PathSchema).max(limits.setPaths),
});
export type ControlSet = z.infer<typeof ControlSetSchema>;

export const ShotSchema = z.strictObject({
  version: z.literal(SHOT_VERSION),
  id: IdSchema,
  name: NameSchema,
  /** Frames a second. */
  rate: z.number().min(1).max(240),
  /** The frames the shot has. */
  range: SpanSchema,
  /** The frames that play; inside the range. */
  play: SpanSchema,
  members: z.record(IdSchema, MemberSchema),
  /** Curves by channel path. */
  curves: z.record(PathSchema, CurveSchema),
  /**
   * Values a hand has set on animated channels and not keyed yet, by channel path. Until it is keyed or dropped, a
   * loose value stands in for its curve at every frame.
   */
  loose: z.record(PathSchema, z.union([ValueSchema, QuaternionSchema])).default({}),
  /** Control sets by id; the interface shows them in the order of their names. */
  sets: z.record(IdSchema, ControlSetSchema),
  /** Channels computed by a formula, by channel path. */
  formulas: z.record(PathSchema, FormulaSchema),
  /** What kits have written, by id. */
  recipes: z.record(IdSchema, RecipeSchema),
  /** Sounds, by id. */
  sounds: z.record(IdSchema, PlacedSoundSchema),
  watch: WatchSchema,
  /** Keys that found no place in a newer version of their rig, by id. */
  aside: z.record(IdSchema, AsideSchema),
  /** Clips of the rigs in the cast, by id. */
  clips: z.record(IdSchema, ClipSchema),
});

/** One continuous piece of film: cast, curves, timing. Plain immutable JSON. */
export type Shot = z.infer<typeof ShotSchema>;

/** An empty shot with the interface's usual timing: four seconds at 24. */
export function emptyShot(id: string, name: string): Shot {
  return {
    version: SHOT_VERSION,
    id,
    name,
    rate: 24,
    range: { first: 1, last: 96 },
    play: { first: 1, last: 96 },
    members: {},
    curves: {},
    loose: {},
    sets: {},
    formulas: {},
    recipes: {},
    sounds: {},
    watch: { tolerances: {}, ignored: [] },
    aside: {},
    clips: {},
  };
}

/** Seconds from the shot's frame 1 to `frame`. */
export const secondsAt = (frame: number, rate: number): number => (frame - 1) / rate;
