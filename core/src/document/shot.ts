import { z } from 'zod';
import { CurveSchema } from '../curve/key.ts';
import { Rigs } from '../rig/rigs.ts';
import { listOf, tableOf } from '../schema/bounded.ts';
import type { ChannelValue } from '../schema/channel.ts';
import { FormulaSchema } from '../schema/formula.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { PathSchema } from '../schema/path.ts';
import { Table } from '../table/table.ts';
import { AsideSchema } from './aside.ts';
import { MarkerSchema, noPlan, PanelSchema, PlanSchema } from './board.ts';
import { ClipSchema } from './clip.ts';
import { CutSchema } from './cut.ts';
import { FootageSchema, TraceSchema } from './footage.ts';
import { type Loose, LooseSchema } from './loose.ts';
import { MemberSchema } from './member.ts';
import { NoteSchema, SuggestionSchema } from './note.ts';
import { RecipeSchema } from './recipe.ts';
import { PlacedSoundSchema } from './sound.ts';
import { StrokeSchema } from './stroke.ts';
import { ClipTrackSchema } from './track.ts';
import { WatchSchema } from './watch.ts';

/** The version this code writes. `migrate.ts` brings older ones up to it. */
export const SHOT_VERSION = 10;

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
  cuts: 2_000,
  tracks: 2_000,
  panels: 2_000,
  markers: 5_000,
  strokes: 50_000,
  footage: 100,
  traces: 500,
  notes: 5_000,
  suggestions: 500,
} as const;

const wholeFrame = z.number().int().min(-limits.frames).max(limits.frames);
const SpanSchema = z.strictObject({ first: wholeFrame, last: wholeFrame });
/** A run of whole frames, both ends included. */
export type Span = z.infer<typeof SpanSchema>;

/** A control set: channels, of one member or many, that are keyed and picked together. */
export const ControlSetSchema = z.strictObject({
  id: IdSchema,
  name: NameSchema,
  paths: listOf(PathSchema, limits.setPaths),
});
export type ControlSet = z.infer<typeof ControlSetSchema>;

/** The records of a document by key: what keys and records must be, and how many there may be. */
export const shotTables = {
  members: { key: IdSchema, value: MemberSchema, most: limits.members },
  curves: { key: PathSchema, value: CurveSchema, most: limits.curves },
  loose: { key: PathSchema, value: LooseSchema, most: limits.curves },
  sets: { key: IdSchema, value: ControlSetSchema, most: limits.sets },
  formulas: { key: PathSchema, value: FormulaSchema, most: limits.formulas },
  recipes: { key: IdSchema, value: RecipeSchema, most: limits.recipes },
  sounds: { key: IdSchema, value: PlacedSoundSchema, most: limits.sounds },
  aside: { key: IdSchema, value: AsideSchema, most: limits.aside },
  clips: { key: IdSchema, value: ClipSchema, most: limits.clips },
  cuts: { key: IdSchema, value: CutSchema, most: limits.cuts },
  tracks: { key: IdSchema, value: ClipTrackSchema, most: limits.tracks },
  panels: { key: IdSchema, value: PanelSchema, most: limits.panels },
  markers: { key: IdSchema, value: MarkerSchema, most: limits.markers },
  strokes: { key: IdSchema, value: StrokeSchema, most: limits.strokes },
  footage: { key: IdSchema, value: FootageSchema, most: limits.footage },
  traces: { key: IdSchema, value: TraceSchema, most: limits.traces },
  notes: { key: IdSchema, value: NoteSchema, most: limits.notes },
  suggestions: { key: IdSchema, value: SuggestionSchema, most: limits.suggestions },
} as const;

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
  members: tableOf(shotTables.members),
  /** Curves by channel path. */
  curves: tableOf(shotTables.curves),
  /** What a hand has changed on animated channels and not keyed yet, by channel path: each on the frame it was made on. */
  loose: tableOf(shotTables.loose).default(() => Table.empty<Loose>()),
  /** Control sets by id; the interface shows them in the order of their names. */
  sets: tableOf(shotTables.sets),
  /** Channels computed by a formula, by channel path. */
  formulas: tableOf(shotTables.formulas),
  /** What kits have written, by id. */
  recipes: tableOf(shotTables.recipes),
  /** Sounds, by id. */
  sounds: tableOf(shotTables.sounds),
  watch: WatchSchema,
  /** Keys that found no place in a newer version of their rig, by id. */
  aside: tableOf(shotTables.aside),
  /** Clips of the rigs in the cast, by id. */
  clips: tableOf(shotTables.clips),
  /** Cuts from camera to camera, by id. */
  cuts: tableOf(shotTables.cuts),
  /** Tracks on which clips are laid, by id. */
  tracks: tableOf(shotTables.tracks),
  plan: PlanSchema,
  /** The panels of the board, by id. */
  panels: tableOf(shotTables.panels),
  /** The breakdown list, by id. */
  markers: tableOf(shotTables.markers),
  /** What was drawn, on panels and for notes, by id. */
  strokes: tableOf(shotTables.strokes),
  /** Footage pinned to the shot, by id. */
  footage: tableOf(shotTables.footage),
  /** Points followed through footage, by id. */
  traces: tableOf(shotTables.traces),
  /** What reviewers have said, by id. */
  notes: tableOf(shotTables.notes),
  /** Fixes that are shown and not made, by id. */
  suggestions: tableOf(shotTables.suggestions),
});

/** One continuous piece of film as it is kept and sent: cast, curves, timing. It never changes. */
export type ShotDocument = z.infer<typeof ShotSchema>;

/** A document with the rigs that it links at hand. */
export interface Shot extends ShotDocument {
  readonly rigs: Rigs;
  /** What stands in for what channels have, at every frame: while something is tried. It is not kept. */
  readonly over?: Table<ChannelValue>;
}

/** The document in JSON that has been read before, by this very program: nothing of it is checked again. */
export function trusted(json: unknown): ShotDocument {
  const document = { ...(json as ShotDocument) };
  for (const name in shotTables)
    Object.assign(document, { [name]: Table.of(document[name as keyof typeof shotTables] as never) });
  return document;
}

/** The document of a shot. */
export function documentOf({
  rigs: _,
  over: __,
  ...document
}: ShotDocument & { readonly rigs?: Rigs; readonly over?: Shot['over'] }): ShotDocument {
  return document;
}

/** An empty shot with the interface's usual timing: four seconds at 24. */
export function emptyShot(id: string, name: string, rigs: Rigs = Rigs.none): Shot {
  return {
    version: SHOT_VERSION,
    id,
    name,
    rate: 24,
    range: { first: 1, last: 96 },
    play: { first: 1, last: 96 },
    members: Table.empty(),
    curves: Table.empty(),
    loose: Table.empty(),
    sets: Table.empty(),
    formulas: Table.empty(),
    recipes: Table.empty(),
    sounds: Table.empty(),
    watch: { tolerances: {}, ignored: [] },
    aside: Table.empty(),
    clips: Table.empty(),
    cuts: Table.empty(),
    tracks: Table.empty(),
    plan: noPlan,
    panels: Table.empty(),
    markers: Table.empty(),
    strokes: Table.empty(),
    footage: Table.empty(),
    traces: Table.empty(),
    notes: Table.empty(),
    suggestions: Table.empty(),
    rigs,
  };
}

/** Seconds from the shot's frame 1 to `frame`. */
export const secondsAt = (frame: number, rate: number): number => (frame - 1) / rate;
