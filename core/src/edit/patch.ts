import { z } from 'zod';

/** Changes to a document in the shape of RFC 6902 (JSON Patch), with the three operations that are enough. */
const PointerSchema = z
  .string()
  .max(400)
  .regex(/^(\/[^/]*)*$/, 'is not a JSON pointer')
  .refine((p) => !/(^|\/)(__proto__|constructor|prototype)(\/|$)/.test(p), 'names a part no document has');

export const PatchSchema = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('add'), path: PointerSchema, value: z.json() }),
  z.strictObject({ op: z.literal('replace'), path: PointerSchema, value: z.json() }),
  z.strictObject({ op: z.literal('remove'), path: PointerSchema }),
]);
export type Patch = z.infer<typeof PatchSchema>;

type Json = z.infer<ReturnType<typeof z.json>>;
type Dictionary = { readonly [key: string]: Json };

/**
 * The patches that make `after` of `before`. Parts that are the same object are passed over unread, so for immutable
 * documents the cost is that of what changed. In a list only the run between the equal ends is touched, so a key put
 * among ten thousand is one patch.
 */
export function diff(before: unknown, after: unknown): Patch[] {
  const patches: Patch[] = [];
  compare(before as Json, after as Json, '', patches);
  return patches;
}

function compare(before: Json, after: Json, path: string, out: Patch[]): void {
  if (before === after) return;
  if (Array.isArray(before) && Array.isArray(after)) {
    compareLists(before, after, path, out);
    return;
  }
  if (isDictionary(before) && isDictionary(after)) {
    compareDictionaries(before, after, path, out);
    return;
  }
  out.push({ op: 'replace', path, value: after });
}

const isDictionary = (value: Json): value is Dictionary =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function compareDictionaries(before: Dictionary, after: Dictionary, path: string, out: Patch[]): void {
  for (const key of Object.keys(before)) {
    if (!Object.hasOwn(after, key)) out.push({ op: 'remove', path: `${path}/${escaped(key)}` });
  }
  for (const key of Object.keys(after)) {
    const at = `${path}/${escaped(key)}`;
    if (Object.hasOwn(before, key)) compare(before[key], after[key], at, out);
    else out.push({ op: 'add', path: at, value: after[key] });
  }
}

/** Lists in which more parts than this change are replaced. */
const MANY = 24;

function compareLists(before: readonly Json[], after: readonly Json[], path: string, out: Patch[]): void {
  const shorter = Math.min(before.length, after.length);
  let head = 0;
  while (head < shorter && same(before[head], after[head])) head++;
  let tail = 0;
  while (tail < shorter - head && same(before[before.length - 1 - tail], after[after.length - 1 - tail])) tail++;
  const common = shorter - head - tail;
  // Where nearly all of a long list is new, it is sent whole: a patch for every part of it says no less and costs more.
  if (common > MANY && head + tail < common / 4) {
    out.push({ op: 'replace', path, value: after as Json });
    return;
  }
  for (let i = head; i < head + common; i++) compare(before[i], after[i], `${path}/${i}`, out);
  for (let i = before.length - tail - 1; i >= head + common; i--) out.push({ op: 'remove', path: `${path}/${i}` });
  for (let i = head + common; i < after.length - tail; i++)
    out.push({ op: 'add', path: `${path}/${i}`, value: after[i] });
}

/** Whether two values say the same. */
function same(a: Json, b: Json): boolean {
  if (a === b) return true;
  if (Array.isArray(a)) return Array.isArray(b) && a.length === b.length && a.every((v, i) => same(v, b[i]));
  if (!isDictionary(a) || Array.isArray(b) || !isDictionary(b)) return false;
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((k) => Object.hasOwn(b, k) && same(a[k], b[k]));
}

const escaped = (key: string) => key.replaceAll('~', '~0').replaceAll('/', '~1');

/** Says which patch could not be applied, and why. */
export class PatchError extends Error {
  readonly index: number;
  readonly pointer: string;
  constructor(index: number, patch: Patch, why: string) {
    super(`Patch ${index + 1} (${patch.op} ${patch.path || 'the document'}) ${why}.`);
    this.index = index;
    this.pointer = patch.path;
  }
}

/**
 * Applies patches in order and returns the new document; the old one stays as it is, and what no patch touches is shared
 * between the two.
 * @throws PatchError when a patch does not fit; then nothing has changed
 */
export function applyPatches<T>(document: T, patches: readonly Patch[]): T {
  let result = document as Json;
  // Parts made in this call may be changed in place: a hundred patches to one list copy it once.
  const fresh = new Set<object>();
  patches.forEach((patch, index) => {
    const keys = patch.path
      .split('/')
      .slice(1)
      .map((k) => k.replaceAll('~1', '/').replaceAll('~0', '~'));
    const fail = (why: string): never => {
      throw new PatchError(index, patch, why);
    };
    result = applyAt(result, keys, 0, patch, fresh, fail);
  });
  return result as T;
}

function applyAt(
  value: Json,
  keys: readonly string[],
  depth: number,
  patch: Patch,
  fresh: Set<object>,
  fail: (why: string) => never,
): Json {
  if (depth === keys.length) return patch.op === 'remove' ? fail('would remove the whole document') : patch.value;
  if (typeof value !== 'object' || value === null) return fail('leads through something that has no parts');
  const key = keys[depth];
  const leaf = depth === keys.length - 1;
  const copy = fresh.has(value) ? value : ((Array.isArray(value) ? [...value] : { ...value }) as object);
  fresh.add(copy);
  if (Array.isArray(copy)) {
    const list = copy as Json[];
    const index = /^(0|[1-9]\d*)$/.test(key) ? Number(key) : -1;
    const exists = index >= 0 && index < list.length;
    if (!leaf) {
      if (!exists) fail('leads to a place the list does not have');
      list[index] = applyAt(list[index], keys, depth + 1, patch, fresh, fail);
    } else if (patch.op === 'add') {
      if (index < 0 || index > list.length) fail('adds beyond the end of the list');
      list.splice(index, 0, patch.value);
    } else {
      if (!exists) fail('names a place the list does not have');
      if (patch.op === 'remove') list.splice(index, 1);
      else list[index] = patch.value;
    }
    return list;
  }
  const dictionary = copy as Record<string, Json>;
  if (!Object.hasOwn(dictionary, key) && !(leaf && patch.op === 'add')) fail('names a part that is not there');
  if (!leaf) dictionary[key] = applyAt(dictionary[key], keys, depth + 1, patch, fresh, fail);
  else if (patch.op === 'remove') delete dictionary[key];
  else dictionary[key] = patch.value;
  return dictionary;
}
