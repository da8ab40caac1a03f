import { z } from 'zod';
import { sealed } from '../clip/sealed.ts';
import type { Shot, ShotDocument } from '../document/shot.ts';
import { IdSchema, newId } from '../schema/ids.ts';
import { applyPatches, difference, type Patch, PatchesSchema } from './patch.ts';

/** One change of a shot as it is kept and sent: which command made it, what people call it, and what it changes. */
export const EditSchema = z.strictObject({
  /** Unique, so that sending an edit twice does it once. */
  id: IdSchema,
  command: z
    .string()
    .regex(/^[a-z]+(\.[a-zA-Z]+)*$/)
    .max(60),
  label: z
    .string()
    .min(1)
    .max(400)
    .regex(/^[^\p{Cc}\p{Cs}]*$/u, 'holds a character that cannot be shown'),
  patches: PatchesSchema,
});
export type Edit = z.infer<typeof EditSchema>;

/** An edit that can be taken back. */
export interface UndoableEdit extends Edit {
  readonly inverse: Patch[];
}

/**
 * A way to change a shot. Commands are pure: they return another shot and leave the given one alone. Where nothing
 * needs to change they return the shot itself; where what is asked for cannot be, they throw `Refused`.
 */
export interface Command<Args> {
  /** Its name in the log: `key.move`. */
  readonly name: string;
  /** What undo calls it: `move 3 keys`. */
  label(args: Args, shot: Shot): string;
  apply(shot: Shot, args: Args): Shot;
}

/** A command as it is run: whatever it does, cycles stay closed (see `sealed`). */
export const defineCommand = <Args>(command: Command<Args>): Command<Args> => ({
  ...command,
  apply: (shot, args) => sealed(shot, command.apply(shot, args)),
});

/** Runs a command. Null when it changes nothing. @throws Refused where it cannot be done */
export function perform<Args>(
  shot: Shot,
  command: Command<Args>,
  args: Args,
): { shot: Shot; edit: UndoableEdit } | null {
  const next = command.apply(shot, args);
  return editBetween(shot, next, command.name, command.label(args, shot));
}

/** The edit that leads from one version of a shot to another. */
export function editBetween(
  before: Shot,
  after: Shot,
  command: string,
  label: string,
): { shot: Shot; edit: UndoableEdit } | null {
  const { patches, inverse } = difference(before, after);
  if (patches.length === 0) return null;
  return { shot: after, edit: { id: newId(), command, label, patches, inverse } };
}

/** The edit that takes another back, and can itself be taken back. */
export const inverseOf = (edit: UndoableEdit, verb: 'undo' | 'redo'): UndoableEdit => ({
  id: newId(),
  command: verb,
  label: `${verb} ${edit.label}`,
  patches: edit.inverse,
  inverse: edit.patches,
});

export const applyEdit = <S extends ShotDocument>(shot: S, edit: Pick<Edit, 'patches'>): S =>
  applyPatches(shot, edit.patches);
