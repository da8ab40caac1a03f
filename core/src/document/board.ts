import { z } from 'zod';
import { IdSchema } from '../schema/ids.ts';
import { MediaHashSchema } from '../schema/media-hash.ts';
import { textOf } from '../schema/text.ts';

/** What a shot begins with: its idea, and its board of panels. */
export const PlanSchema = z.strictObject({
  /** The idea in a sentence. */
  idea: textOf(600),
  /** Who it is for. */
  audience: textOf(300),
  /** Whether the shot is as long as its panels are together. */
  leads: z.boolean(),
  /** The panel of another shot's board that this shot was made for. */
  from: z.strictObject({ shot: IdSchema, panel: IdSchema }).nullable(),
});
export type Plan = z.infer<typeof PlanSchema>;

export const noPlan: Plan = { idea: '', audience: '', leads: true, from: null };

/** Pictures of panels are this much wider than they are high: as a camera's. */
export const PANEL_ASPECT = 16 / 9;

/** What a camera sees of a panel: its middle, and its width as a share of the panel's. Widths of the panel are the measure, y goes down. */
const PanelFrameSchema = z.strictObject({
  x: z.number().min(-1).max(2),
  y: z.number().min(-1).max(2),
  wide: z.number().min(0.02).max(3),
});
export type PanelFrame = z.infer<typeof PanelFrameSchema>;

/** One picture of the plan, drawn or written, and how long it stands. */
export const PanelSchema = z.strictObject({
  id: IdSchema,
  /** Where it stands among the others: those with less stand before it. */
  place: z.number().min(-1e9).max(1e9),
  frames: z.number().int().min(1).max(20_000),
  name: textOf(80),
  /** What happens. */
  happens: textOf(2_000),
  /** What is said. */
  says: textOf(2_000),
  /** A picture it is drawn over: one that was brought in, or a still of the stage. */
  picture: MediaHashSchema.nullable(),
  /** What the camera sees of it when it begins, and where that goes until it ends. */
  camera: z.strictObject({ from: PanelFrameSchema, to: PanelFrameSchema.nullable() }).nullable(),
  /** The shot of the production that was made of it, and whether that is to be as long as it is. */
  shot: z.strictObject({ id: IdSchema, follows: z.boolean() }).nullable(),
});
export type Panel = z.infer<typeof PanelSchema>;

/** A line of the breakdown list: what happens at a frame. It stands as a marker over the sheet. */
export const MarkerSchema = z.strictObject({
  id: IdSchema,
  frame: z.number().int().min(-200_000).max(200_000),
  name: textOf(80),
  what: textOf(1_000),
  sound: textOf(300),
  /** How hard it is: what the body must bring up for it. */
  effort: textOf(300),
  /** The panel at whose beginning it stands, wherever that is moved. */
  panel: IdSchema.nullable(),
});
export type Marker = z.infer<typeof MarkerSchema>;
