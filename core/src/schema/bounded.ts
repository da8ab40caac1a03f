import { z } from 'zod';
import { Table } from '../table/table.ts';
import { MOST_PROBLEMS } from './problem.ts';

/**
 * Lists and records from outside. How many parts they have is looked at before any of them is, and after a few that are wrong no more
 * are looked at: to refuse what is far too much, or wrong from end to end, costs no more than to say so.
 */

type Context = z.core.ParsePayload;

/** Takes over what is wrong with a part. @returns whether enough is known */
function told(context: Context, key: PropertyKey, error: z.ZodError): boolean {
  for (const issue of error.issues)
    context.issues.push({ ...issue, path: [key, ...issue.path], input: undefined } as z.core.$ZodRawIssue);
  return context.issues.length >= MOST_PROBLEMS;
}

const wrong = (context: Context, message: string) =>
  void context.issues.push({ code: 'custom', message, input: undefined } as z.core.$ZodRawIssue);

/** A list of at most so many parts. */
export function listOf<Item extends z.ZodType>(item: Item, most: number, least = 0) {
  return z.unknown().transform((given, context): z.infer<Item>[] => {
    const out: z.infer<Item>[] = [];
    if (!Array.isArray(given)) wrong(context, 'is not a list');
    else if (given.length > most) wrong(context, `has ${given.length} parts; ${most} are the most`);
    else if (given.length < least) wrong(context, `has ${given.length} parts; ${least} are the least`);
    else {
      for (let i = 0; i < given.length; i++) {
        const parsed = item.safeParse(given[i]);
        if (parsed.success) out.push(parsed.data);
        else if (told(context, i, parsed.error)) break;
      }
    }
    return out;
  });
}

/** What keys and records of a table must be, and how many there may be. */
export interface TableShape<Value extends z.ZodType = z.ZodType> {
  readonly key: z.ZodType<string>;
  readonly value: Value;
  readonly most: number;
}

/** The records of a document by key, held as a table. */
export function tableOf<Value extends z.ZodType>({ key, value, most }: TableShape<Value>) {
  return z.unknown().transform((given, context): Table<z.infer<Value>> => {
    const entries = given instanceof Table ? given.entries() : entriesOf(given);
    if (!entries) wrong(context, 'is not a record of parts by their names');
    else if (entries.length > most) wrong(context, `has ${entries.length} parts; ${most} are the most`);
    else return Table.of(parsedEntries(entries, key, value, context));
    return Table.empty();
  });
}

/** A small record, held as a plain object. */
export function recordOf<Key extends z.ZodType<string>, Value extends z.ZodType>(key: Key, value: Value, most: number) {
  return z.unknown().transform((given, context): Record<string, z.infer<Value>> => {
    const entries = entriesOf(given);
    if (!entries) wrong(context, 'is not a record of parts by their names');
    else if (entries.length > most) wrong(context, `has ${entries.length} parts; ${most} are the most`);
    else return Object.fromEntries(parsedEntries(entries, key, value, context));
    return {};
  });
}

const entriesOf = (given: unknown): [string, unknown][] | null =>
  typeof given === 'object' && given !== null && !Array.isArray(given) ? Object.entries(given) : null;

function parsedEntries<Value extends z.ZodType>(
  entries: readonly (readonly [string, unknown])[],
  key: z.ZodType<string>,
  value: Value,
  context: Context,
): [string, z.infer<Value>][] {
  const out: [string, z.infer<Value>][] = [];
  for (const [name, part] of entries) {
    if (name === '__proto__') {
      wrong(context, 'has a part with a name the language keeps for itself');
      break;
    }
    const named = key.safeParse(name);
    if (!named.success && told(context, name, named.error)) break;
    if (!named.success) continue;
    const parsed = value.safeParse(part);
    if (parsed.success) out.push([name, parsed.data]);
    else if (told(context, name, parsed.error)) break;
  }
  return out;
}
