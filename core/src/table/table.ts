/**
 * Records of a document by key: curves by path, members by id. A table never changes; the next one shares with it whatever is the same,
 * so putting one record among tens of thousands costs what one record costs, and what differs between two is found without
 * looking at what does not.
 *
 * Records lie in pages of 64. Which place a key has is noted once for all tables that come of one another (`Places`, which only
 * grows); each table says by itself whether a record lies there. As JSON it is a plain object.
 */
const PAGE_BITS = 6;
const WITHIN = (1 << PAGE_BITS) - 1;

/** Tables with more places than this whose places are mostly empty are laid out anew. */
const SPARSE = 4096;

/** The places of keys. A place, once given, is never given to another key. */
class Places {
  readonly keys: string[] = [];
  readonly of = new Map<string, number>();

  /** The place of a key, a new one if it has none. */
  give(key: string): number {
    const known = this.of.get(key);
    if (known !== undefined) return known;
    const place = this.keys.length;
    this.keys.push(key);
    this.of.set(key, place);
    return place;
  }
}

type Page<T> = readonly (T | undefined)[];

/** The record of a key in pages, if there is one. */
function lookUp<T>(places: Places, pages: readonly Page<T>[], key: string): T | undefined {
  const place = places.of.get(key);
  return place === undefined ? undefined : pages[place >> PAGE_BITS]?.[place & WITHIN];
}

/** Records by key, in either of the two forms they come in. */
type Records<T> = Readonly<Record<string, T>> | readonly (readonly [string, T])[];

const listed = <T>(records: Records<T>): readonly (readonly [string, T])[] =>
  Array.isArray(records) ? records : Object.entries(records as Readonly<Record<string, T>>);

function found<T>(value: T | undefined, key: string): T {
  if (value === undefined) throw new Error(`There is no "${key}" here.`);
  return value;
}

export class Table<T> {
  readonly #places: Places;
  readonly #pages: readonly Page<T>[];
  readonly size: number;

  private constructor(places: Places, pages: readonly Page<T>[], size: number) {
    this.#places = places;
    this.#pages = pages;
    this.size = size;
  }

  /** A table of these records; of a key that comes twice the last. */
  static of<T>(records: Records<T>): Table<T> {
    return Table.empty<T>().withAll(records);
  }

  static empty<T>(): Table<T> {
    return new Table<T>(new Places(), [], 0);
  }

  get(key: string): T | undefined {
    return lookUp(this.#places, this.#pages, key);
  }

  /** The record of a key that is known to be there. @throws where it is not */
  at(key: string): T {
    return found(this.get(key), key);
  }

  has(key: string): boolean {
    return this.get(key) !== undefined;
  }

  keys(): string[] {
    return this.#collect((key) => key);
  }

  values(): T[] {
    return this.#collect((_, value) => value);
  }

  entries(): [string, T][] {
    return this.#collect((key, value) => [key, value]);
  }

  [Symbol.iterator](): IterableIterator<[string, T]> {
    return this.entries()[Symbol.iterator]();
  }

  #collect<R>(make: (key: string, value: T) => R): R[] {
    const out: R[] = [];
    const { keys } = this.#places;
    this.#pages.forEach((page, p) => {
      for (let i = 0; i < page.length; i++) {
        const value = page[i];
        if (value !== undefined) out.push(make(keys[(p << PAGE_BITS) + i], value));
      }
    });
    return out;
  }

  /** This table with a record put in, or in place of another. */
  with(key: string, value: T): Table<T> {
    const draft = this.edit();
    draft.set(key, value);
    return draft.done();
  }

  /** This table with many records put in. */
  withAll(records: Records<T>): Table<T> {
    const draft = this.edit();
    for (const [key, value] of listed(records)) draft.set(key, value);
    return draft.done();
  }

  without(key: string): Table<T> {
    return this.withoutAll([key]);
  }

  /** This table with none of these keys. */
  withoutAll(keys: Iterable<string>): Table<T> {
    const draft = this.edit();
    for (const key of keys) draft.delete(key);
    return draft.done();
  }

  /** Those of the records that are to stay; this very table where all are. */
  filter(stays: (value: T, key: string) => boolean): Table<T> {
    const draft = this.edit();
    for (const [key, value] of this) if (!stays(value, key)) draft.delete(key);
    return draft.done();
  }

  /** Each record as `change` makes it; this very table where that leaves all as they are. */
  map(change: (value: T, key: string) => T): Table<T> {
    const draft = this.edit();
    for (const [key, value] of this) draft.set(key, change(value, key));
    return draft.done();
  }

  /** A draft to put many changes into; this table stays as it is. */
  edit(): TableDraft<T> {
    return new TableDraft(this, this.#places, this.#pages, { next: (pages, size) => this.#next(pages, size) });
  }

  #next(pages: readonly Page<T>[], size: number): Table<T> {
    const next = new Table(this.#places, pages, size);
    const places = this.#places.keys.length;
    return places > SPARSE && size < places / 4 ? Table.of(next.entries()) : next;
  }

  /** Tells what is not the same record in another table. Undefined stands for none. */
  changesTo(next: Table<T>, tell: (key: string, before: T | undefined, after: T | undefined) => void): void {
    if (next === this) return;
    if (next.#places !== this.#places) {
      for (const [key, value] of this) if (next.get(key) !== value) tell(key, value, next.get(key));
      for (const [key, value] of next) if (!this.has(key)) tell(key, undefined, value);
      return;
    }
    const { keys } = this.#places;
    const pages = Math.max(this.#pages.length, next.#pages.length);
    for (let p = 0; p < pages; p++) {
      const before = this.#pages[p];
      const after = next.#pages[p];
      if (before === after) continue;
      const length = Math.max(before?.length ?? 0, after?.length ?? 0);
      for (let i = 0; i < length; i++) {
        if (before?.[i] !== after?.[i]) tell(keys[(p << PAGE_BITS) + i], before?.[i], after?.[i]);
      }
    }
  }

  toJSON(): Record<string, T> {
    return Object.fromEntries(this.entries());
  }
}

/** Makes a table of a draft's pages. */
interface Maker<T> {
  next(pages: readonly Page<T>[], size: number): Table<T>;
}

/** Changes to a table, put into pages of its own: each page is copied once, however many of its records change. */
export class TableDraft<T> {
  readonly #source: Table<T>;
  readonly #places: Places;
  readonly #pages: Page<T>[];
  readonly #maker: Maker<T>;
  /** Which of the pages are copies already. */
  readonly #own = new Set<number>();
  #size: number;

  constructor(source: Table<T>, places: Places, pages: readonly Page<T>[], maker: Maker<T>) {
    this.#source = source;
    this.#places = places;
    this.#pages = pages.slice();
    this.#maker = maker;
    this.#size = source.size;
  }

  get(key: string): T | undefined {
    return lookUp(this.#places, this.#pages, key);
  }

  /** @throws where there is no such record */
  at(key: string): T {
    return found(this.get(key), key);
  }

  has(key: string): boolean {
    return this.get(key) !== undefined;
  }

  set(key: string, value: T): void {
    const place = this.#places.give(key);
    const before = this.#pages[place >> PAGE_BITS]?.[place & WITHIN];
    if (before === value) return;
    if (before === undefined) this.#size++;
    this.#write(place, value);
  }

  delete(key: string): void {
    const place = this.#places.of.get(key);
    if (place === undefined || this.get(key) === undefined) return;
    this.#size--;
    this.#write(place, undefined);
  }

  #write(place: number, value: T | undefined): void {
    const p = place >> PAGE_BITS;
    while (this.#pages.length <= p) this.#pages.push([]);
    if (!this.#own.has(p)) {
      this.#pages[p] = this.#pages[p].slice();
      this.#own.add(p);
    }
    const page = this.#pages[p] as (T | undefined)[];
    while (page.length < (place & WITHIN)) page.push(undefined);
    page[place & WITHIN] = value;
  }

  /** The table as it is now; the one it was made of where nothing was put in or taken out. */
  done(): Table<T> {
    if (this.#own.size === 0) return this.#source;
    this.#own.clear();
    return this.#maker.next(this.#pages.slice(), this.#size);
  }
}
