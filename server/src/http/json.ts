import { Refused } from './refusal.ts';

/** Documents and edits nest about ten deep. The schemas walk down recursively, so what goes deeper stays outside. */
const MAX_DEPTH = 40;

/** A shot of 200,000 keys with all their handles has some 2.6 million parts. */
const MAX_PARTS = 3_000_000;

const [QUOTE, BACKSLASH, COMMA, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [...'"\\,[]{}'].map((c) => c.charCodeAt(0));

/**
 * Reads JSON from outside. How deep it nests and how many parts it has is counted in the bytes, before anything is made of them.
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
  let depth = 0;
  let parts = 0;
  let inText = false;
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i];
    if (inText) {
      if (byte === BACKSLASH) i++;
      else if (byte === QUOTE) inText = false;
      continue;
    }
    if (byte === QUOTE) inText = true;
    else if (byte === COMMA) parts++;
    else if (byte === OPEN || byte === OPEN_LIST) {
      parts++;
      if (++depth > MAX_DEPTH) throw new Refused(400, `What was sent is nested more than ${MAX_DEPTH} deep.`);
    } else if (byte === CLOSE || byte === CLOSE_LIST) depth--;
    if (parts > MAX_PARTS)
      throw new Refused(413, `What was sent has more than ${MAX_PARTS.toLocaleString('en')} parts.`);
  }
}
