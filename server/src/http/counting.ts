import { limits, MAX_KEYS } from '@varrup/core';
import { Refused } from './refusal.ts';

/** Documents and edits nest about ten deep. The schemas walk down recursively, so what goes deeper stays outside. */
const MAX_DEPTH = 40;

/** A shot of 200,000 keys with all their handles has some 2.6 million parts. */
const MAX_PARTS = 3_000_000;

/** No list in a document or an edit is longer than that of a curve's keys. */
const MAX_IN_LIST = MAX_KEYS;

/** No record has more names than a shot has curves. */
const MAX_NAMES = limits.curves;

/** Records with more names than this are large: as those by key in a document, which has no more than so many in all of them. */
const LARGE_RECORD = 1_000;
const MAX_IN_LARGE_RECORDS = 120_000;

/** No text in a document or an edit is as long as this, in bytes. */
const MAX_TEXT = 100_000;

const [QUOTE, BACKSLASH, COLON, COMMA, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [...'"\\:,[]{}'].map((c) =>
  c.charCodeAt(0),
);

/**
 * Counts JSON in its bytes while they come in, before anything is made of them: how deep it nests, how many parts it has, and how large
 * they are. What is too much is refused at the byte where it becomes so, and the rest is not even kept.
 */
export class Counting {
  #depth = 0;
  #parts = 0;
  #inLarge = 0;
  /** How many names the record, and how many commas the list, at each depth has so far. */
  readonly #names = new Int32Array(MAX_DEPTH + 1);
  readonly #commas = new Int32Array(MAX_DEPTH + 1);
  /** How many bytes of a text are behind; below 0 it is none. */
  #text = -1;
  /** The next byte belongs to the one before, which was a backslash. */
  #escaped = false;

  /** Takes the next bytes. @throws Refused (400, 413) that says what there is too much of */
  take(bytes: Uint8Array): void {
    let i = this.#text >= 0 ? this.#throughText(bytes, 0) + 1 : 0;
    for (; i < bytes.length; i++) {
      const byte = bytes[i];
      if (byte === QUOTE) {
        this.#text = 0;
        i = this.#throughText(bytes, i + 1);
      } else if (byte === COMMA) this.#comma();
      else if (byte === COLON) this.#name();
      else if (byte === OPEN || byte === OPEN_LIST) this.#open();
      else if (byte === CLOSE || byte === CLOSE_LIST) this.#depth = Math.max(0, this.#depth - 1);
    }
  }

  #name(): void {
    const names = ++this.#names[this.#depth];
    if (names <= LARGE_RECORD) return;
    if (names > MAX_NAMES) tooMuch(MAX_NAMES, 'names in a record');
    if (++this.#inLarge > MAX_IN_LARGE_RECORDS) tooMuch(MAX_IN_LARGE_RECORDS, 'names');
  }

  #comma(): void {
    this.#part();
    if (++this.#commas[this.#depth] >= MAX_IN_LIST)
      throw new Refused(413, `What was sent has a list of more than ${MAX_IN_LIST.toLocaleString('en')}.`);
  }

  #open(): void {
    this.#part();
    if (++this.#depth > MAX_DEPTH) throw new Refused(400, `What was sent is nested more than ${MAX_DEPTH} deep.`);
    this.#names[this.#depth] = 0;
    this.#commas[this.#depth] = 0;
  }

  #part(): void {
    if (++this.#parts > MAX_PARTS) tooMuch(MAX_PARTS, 'parts');
  }

  /** Goes on in a text. @returns where it ends, or the last of the bytes */
  #throughText(bytes: Uint8Array, start: number): number {
    let i = start;
    if (this.#escaped && i < bytes.length) i++;
    // A text that is too long is found out at the latest at the end of these bytes.
    while (i < bytes.length && bytes[i] !== QUOTE) i += bytes[i] === BACKSLASH ? 2 : 1;
    this.#escaped = i > bytes.length;
    this.#text += Math.min(i, bytes.length) - start;
    if (this.#text > MAX_TEXT) throw new Refused(413, `What was sent has a text of more than ${MAX_TEXT / 1000} KB.`);
    if (i < bytes.length) this.#text = -1;
    return i;
  }
}

function tooMuch(most: number, what: string): never {
  throw new Refused(413, `What was sent has more than ${most.toLocaleString('en')} ${what}.`);
}
