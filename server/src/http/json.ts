import { Refused } from './refusal.ts';

/** Reads JSON from outside, which was counted when it came in. @throws Refused (400) where it is none */
export function readJson(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new Refused(400, 'What was sent is not JSON.');
  }
}
