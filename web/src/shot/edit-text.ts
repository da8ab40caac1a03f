import type { Edit, Patch } from '@varrup/core';

/**
 * Edits as JSON, written once. The journal, the server and the threads that follow the shot all get the same text: to copy the objects
 * of an edit that changes every key takes each of them longer than to write them down does.
 */
const texts = new WeakMap<readonly Patch[], string>();

export function patchText(patches: readonly Patch[]): string {
  const known = texts.get(patches);
  if (known !== undefined) return known;
  const text = JSON.stringify(patches);
  texts.set(patches, text);
  return text;
}

export function editText({ patches, ...words }: Edit): string {
  return `${JSON.stringify(words).slice(0, -1)},"patches":${patchText(patches)}}`;
}
