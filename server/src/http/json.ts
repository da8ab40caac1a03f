import { Refused } from './refusal.ts';

/** Documents and edits nest about ten deep. The schemas walk down recursively, so what goes deeper stays outside. */
const MAX_DEPTH = 40;

/** A shot of 200,000 keys with all their handles has some 2.6 million parts. */
const MAX_PARTS = 3_000_000;

/** Records with more names than this are large: as those by key in a document, which has no more than so many in all of them. */
const LARGE_RECORD = 1_000;
const MAX_IN_LARGE_RECORDS = 120_000;

/** No text in a document or an edit is as long as this, in bytes. */
const MAX_TEXT = 100_000;

const [QUOTE, BACKSLASH, COLON, COMMA, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [...'"\\:,[]{}'].map((c) =>
  c.charCodeAt(0),
);

/**
 * Reads JSON from outside. How deep it nests, how many parts it has and how large they are is counted in the bytes, before anything is
 * made of them.
 * @throws Refused (400, 413) that says what is wrong
 */
export function readJson(bytes: Uint8Array): unknown {
  count(bytes);
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new Refused(400, 'What was sent is not JSON.');
  }
}

function count(bytes: Uint8Array): void {
  /** How many names the record at each depth has so far. */
  const names = new Int32Array(MAX_DEPTH + 1);
  let depth = 0;
  let parts = 0;
  let inLarge = 0;
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i];
    if (byte === QUOTE) i = endOfText(bytes, i);
    else if (byte === COMMA) parts++;
    else if (byte === COLON) {
      if (++names[depth] > LARGE_RECORD && ++inLarge > MAX_IN_LARGE_RECORDS) tooMuch(MAX_IN_LARGE_RECORDS, 'names');
    } else if (byte === OPEN || byte === OPEN_LIST) {
      parts++;
      if (++depth > MAX_DEPTH) throw new Refused(400, `What was sent is nested more than ${MAX_DEPTH} deep.`);
      names[depth] = 0;
    } else if (byte === CLOSE || byte === CLOSE_LIST) depth = Math.max(0, depth - 1);
    if (parts > MAX_PARTS) tooMuch(MAX_PARTS, 'parts');
  }
}

/** Where a text ends that begins at a quote. */
function endOfText(bytes: Uint8Array, start: number): number {
  let i = start + 1;
  while (i < bytes.length && bytes[i] !== QUOTE) {
    i += bytes[i] === BACKSLASH ? 2 : 1;
    if (i - start > MAX_TEXT) throw new Refused(413, `What was sent has a text of more than ${MAX_TEXT / 1000} KB.`);
  }
  return i;
}

function tooMuch(most: number, what: string): never {
  throw new Refused(413, `What was sent has more than ${most.toLocaleString('en')} ${what}.`);
}
