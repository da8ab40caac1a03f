import { z } from 'zod';
import { Table, type TableDraft } from '../table/table.ts';

type Json = string | number | boolean | null | Json[] | { [key: string]: Json };

/** Changes to a document in the shape of RFC 6902 (JSON Patch), with the three operations that are enough. */
export type Patch =
  | { readonly op: 'add' | 'replace'; readonly path: string; readonly value: Json }
  | { readonly op: 'remove'; readonly path: string };

/**
 * Patches from outside. They are looked at by hand: an edit may have hundreds of thousands. What is put in is looked at where it is put; it has
 * been read as JSON, so JSON is what it is.
 */
export const PatchesSchema = z.unknown().transform((given, context): Patch[] => {
  const say = (path: (string | number)[], message: string) =>
    void context.issues.push({ code: 'custom', message, path, input: undefined });
  if (!Array.isArray(given)) say([], 'is not a list');
  else if (given.length < 1 || given.length > MAX_PATCHES)
    say([], `has ${given.length} parts; 1 to ${MAX_PATCHES} it may have`);
  else {
    for (let i = 0; i < given.length; i++) {
      const wrong = problemOf(given[i]);
      if (!wrong) continue;
      say([i, ...wrong.path], wrong.sentence);
      break;
    }
  }
  return given as Patch[];
});

/** Lists of which nearly all is new are sent whole, so that a few patches a curve are the most there are. */
export const MAX_PATCHES = 200_000;

const LONGEST_POINTER = 400;
const POINTER = /^(\/[^/]*)*$/;
const NO_PART = /(^|\/)(__proto__|constructor|prototype)(\/|$)/;

/** What is wrong with a patch, and at which part of it; null where nothing is. */
function problemOf(given: unknown): { path: string[]; sentence: string } | null {
  const at = (name: string, sentence: string) => ({ path: [name], sentence });
  if (typeof given !== 'object' || given === null) return { path: [], sentence: 'is not a patch' };
  const { op, path, value } = given as { op?: unknown; path?: unknown; value?: unknown };
  if (op !== 'add' && op !== 'replace' && op !== 'remove') return at('op', 'is none of add, replace and remove');
  if (typeof path !== 'string' || path.length > LONGEST_POINTER || !POINTER.test(path))
    return at('path', 'is not a JSON pointer');
  if (NO_PART.test(path)) return at('path', 'names a part no document has');
  if ((op === 'remove') !== (value === undefined)) return at('value', op === 'remove' ? 'is not needed' : 'is missing');
  const parts = op === 'remove' ? 2 : 3;
  return Object.keys(given).length === parts ? null : { path: [], sentence: 'has parts that no patch has' };
}

type Dictionary = { readonly [key: string]: Json };

/** The way from one version of a document to another, and back. */
export interface Difference {
  readonly patches: Patch[];
  /** Undoes the patches, in the order in which they are to be applied. */
  readonly inverse: Patch[];
}

/**
 * What makes `after` of `before`, and the way back, both out of one walk. Parts that are the same object are passed over unread and
 * unnamed, so for immutable documents the cost is that of what changed. In a list only the run between the equal ends is touched, so a
 * key put among ten thousand is one patch. What is no JSON, as the rigs a shot has at hand, is no part of the document.
 */
export function difference(before: unknown, after: unknown): Difference {
  const walk = new Walk();
  if (before !== after) walk.compare(before as Part, after as Part, '');
  return { patches: walk.patches, inverse: walk.inverse.reverse() };
}

/** What a document consists of: JSON, with tables for records by key. */
type Part = Json | Table<Json>;

class Walk {
  readonly patches: Patch[] = [];
  /** The way back, last step first. */
  readonly inverse: Patch[] = [];

  /** Compares two parts that are not the same object. */
  compare(before: Part, after: Part, path: string): void {
    if (before instanceof Table && after instanceof Table) {
      before.changesTo(after, (key, a, b) => this.#compareEntry(a, b, `${path}/${escaped(key)}`));
    } else if (Array.isArray(before) && Array.isArray(after)) this.#compareLists(before, after, path);
    else if (isDictionary(before) && isDictionary(after)) this.#compareDictionaries(before, after, path);
    else if (isJson(before) && isJson(after)) this.#replace(before, after, path);
  }

  #compareEntry(before: Json | undefined, after: Json | undefined, path: string): void {
    if (before === undefined) this.#add(after!, path);
    else if (after === undefined) this.#remove(before, path);
    else this.compare(before, after, path);
  }

  #compareDictionaries(before: Dictionary, after: Dictionary, path: string): void {
    for (const key in before) {
      const there = Object.hasOwn(after, key);
      if (there && before[key] === after[key]) continue;
      const at = `${path}/${escaped(key)}`;
      if (there) this.compare(before[key], after[key], at);
      else this.#remove(before[key], at);
    }
    for (const key in after) if (!Object.hasOwn(before, key)) this.#add(after[key], `${path}/${escaped(key)}`);
  }

  #compareLists(before: readonly Json[], after: readonly Json[], path: string): void {
    const shorter = Math.min(before.length, after.length);
    let head = 0;
    while (head < shorter && same(before[head], after[head])) head++;
    let tail = 0;
    while (tail < shorter - head && same(before[before.length - 1 - tail], after[after.length - 1 - tail])) tail++;
    const common = shorter - head - tail;
    // Where nearly all of a long list is new, it is sent whole: a patch for every part of it says no less and costs more.
    if (common > MANY && head + tail < common / 4) {
      this.#replace(before as Json, after as Json, path);
      return;
    }
    for (let i = head; i < head + common; i++)
      if (before[i] !== after[i]) this.compare(before[i], after[i], `${path}/${i}`);
    for (let i = before.length - tail - 1; i >= head + common; i--) this.#remove(before[i], `${path}/${i}`);
    for (let i = head + common; i < after.length - tail; i++) this.#add(after[i], `${path}/${i}`);
  }

  #add(value: Json, path: string): void {
    this.patches.push({ op: 'add', path, value });
    this.inverse.push({ op: 'remove', path });
  }

  #remove(value: Json, path: string): void {
    this.patches.push({ op: 'remove', path });
    this.inverse.push({ op: 'add', path, value });
  }

  #replace(before: Json, after: Json, path: string): void {
    this.patches.push({ op: 'replace', path, value: after });
    this.inverse.push({ op: 'replace', path, value: before });
  }
}

/** Lists in which more parts than this change are replaced. */
const MANY = 4;

/** Plain objects; what has a class of its own is none. */
function isDictionary(value: Part): value is Dictionary {
  if (typeof value !== 'object' || value === null) return false;
  const prototype = Object.getPrototypeOf(value);
  return prototype === Object.prototype || prototype === null;
}

const isJson = (value: Part): value is Json =>
  typeof value !== 'object' || value === null || Array.isArray(value) || isDictionary(value);

/** Whether two values say the same. */
function same(a: Json, b: Json): boolean {
  if (a === b) return true;
  if (Array.isArray(a)) return Array.isArray(b) && a.length === b.length && a.every((v, i) => same(v, b[i]));
  if (!isDictionary(a) || !isDictionary(b)) return false;
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((k) => Object.hasOwn(b, k) && same(a[k], b[k]));
}

const escaped = (key: string) => (/[~/]/.test(key) ? key.replaceAll('~', '~0').replaceAll('/', '~1') : key);

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
  return new Applying().all(document as Part, patches) as T;
}

/** As many records may be put in by patches together: more than a document may hold. */
const MOST_ADDED = 120_000;

/** As many parts of lists may be moved by patches together: some tenths of a second. */
const MOST_MOVED = 100_000_000;

/** Parts made while patches are applied may be changed in place: a hundred patches to one list copy it once. */
class Applying {
  readonly #fresh = new Set<object>();
  /** Drafts of the tables that patches lead into, by the tables they stand for. */
  readonly #drafts = new Map<Table<Json>, TableDraft<Json>>();
  /** How many records have been put in. */
  #added = 0;
  /** How many parts of lists have been moved. */
  #moved = 0;
  /** The patch that is being applied. */
  #index = 0;
  #patch!: Patch;

  all(document: Part, patches: readonly Patch[]): Part {
    let result = document;
    patches.forEach((patch, index) => {
      this.#index = index;
      this.#patch = patch;
      result = this.#at(result, keysOf(patch.path), 0);
    });
    return this.#finished(result);
  }

  /** Counts the parts of lists that move up or down: a list put together from its front, part by part, would take for ever. */
  #move(parts: number): void {
    this.#moved += parts;
    if (this.#moved > MOST_MOVED) this.#fail('asks for too much: put the list in as a whole');
  }

  #fail(why: string): never {
    throw new PatchError(this.#index, this.#patch, why);
  }

  #at(value: Part, keys: readonly string[], depth: number): Part {
    const patch = this.#patch;
    if (depth === keys.length) {
      if (patch.op === 'remove') return this.#fail('would remove the whole document');
      // Records by key stay a table, however they come.
      return value instanceof Table && isDictionary(patch.value) ? Table.of(patch.value) : patch.value;
    }
    if (value instanceof Table) return this.#inTable(value, keys, depth);
    if (typeof value !== 'object' || value === null) return this.#fail('leads through something that has no parts');
    return Array.isArray(value) ? this.#inList(value, keys, depth) : this.#inDictionary(value, keys, depth);
  }

  #inTable(table: Table<Json>, keys: readonly string[], depth: number): Part {
    const draft = this.#drafts.get(table) ?? table.edit();
    this.#drafts.set(table, draft);
    const key = keys[depth];
    const there = draft.get(key);
    const leaf = depth === keys.length - 1;
    if (there === undefined && !(leaf && this.#patch.op === 'add')) return this.#fail('names a part that is not there');
    if (there === undefined && ++this.#added > MOST_ADDED) this.#fail('brings in more than a document holds');
    if (!leaf) draft.set(key, this.#at(there!, keys, depth + 1) as Json);
    else if (this.#patch.op === 'remove') draft.delete(key);
    else draft.set(key, this.#patch.value);
    return table;
  }

  #inList(value: Json[], keys: readonly string[], depth: number): Part {
    const list = this.#own(value);
    const key = keys[depth];
    const patch = this.#patch;
    const index = /^(0|[1-9]\d*)$/.test(key) ? Number(key) : -1;
    const exists = index >= 0 && index < list.length;
    if (depth < keys.length - 1) {
      if (!exists) this.#fail('leads to a place the list does not have');
      list[index] = this.#at(list[index], keys, depth + 1) as Json;
    } else if (patch.op === 'add') {
      if (index < 0 || index > list.length) this.#fail('adds beyond the end of the list');
      this.#move(list.length - index);
      list.splice(index, 0, patch.value);
    } else {
      if (!exists) this.#fail('names a place the list does not have');
      if (patch.op === 'remove') {
        this.#move(list.length - index);
        list.splice(index, 1);
      } else list[index] = patch.value;
    }
    return list;
  }

  #inDictionary(value: Dictionary, keys: readonly string[], depth: number): Part {
    const dictionary = this.#own(value) as Record<string, Json>;
    const key = keys[depth];
    const patch = this.#patch;
    const leaf = depth === keys.length - 1;
    if (!Object.hasOwn(dictionary, key) && !(leaf && patch.op === 'add')) this.#fail('names a part that is not there');
    if (leaf && patch.op === 'remove') delete dictionary[key];
    else if (Object.hasOwn(dictionary, key)) dictionary[key] = this.#at(dictionary[key], keys, depth + 1) as Json;
    else if (patch.op === 'add') dictionary[key] = patch.value;
    return dictionary;
  }

  /** A part that may be changed: the first time a copy. */
  #own<P extends Json[] | Dictionary>(value: P): P {
    if (this.#fresh.has(value)) return value;
    const copy = (Array.isArray(value) ? [...value] : { ...value }) as P;
    this.#fresh.add(copy);
    return copy;
  }

  /** The document with its drafts made into tables. Tables are parts of the document itself, never of what lies in one. */
  #finished(document: Part): Part {
    if (this.#drafts.size === 0 || !isDictionary(document)) return document;
    const whole = this.#own(document) as Record<string, Part>;
    for (const key in whole) {
      const part = whole[key];
      if (part instanceof Table) whole[key] = this.#drafts.get(part)?.done() ?? part;
    }
    return whole as Json;
  }
}

function keysOf(path: string): string[] {
  const keys = path.split('/');
  keys.shift();
  return path.includes('~') ? keys.map((k) => k.replaceAll('~1', '/').replaceAll('~0', '~')) : keys;
}
