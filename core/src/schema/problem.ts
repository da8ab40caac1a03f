import type { z } from 'zod';

/** Something wrong with a document: where (an RFC 6901 pointer) and what (a sentence without its subject). */
export interface Problem {
  readonly pointer: string;
  readonly sentence: string;
}

export type Parsed<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problems: Problem[] };

/** As many problems are told at once; more would not be read. */
export const MOST_PROBLEMS = 20;

/** A path of keys as an RFC 6901 pointer. */
export const pointer = (path: readonly PropertyKey[]): string =>
  path.map((p) => `/${String(p).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

/** Zod's issues as problems. */
export function problemsOf(error: z.ZodError): Problem[] {
  return error.issues.slice(0, MOST_PROBLEMS).map((issue) => ({
    pointer: pointer(issue.path),
    sentence: issue.message.charAt(0).toLowerCase() + issue.message.slice(1),
  }));
}

/** One line a problem, as a person reads it: `/members/a1/name: is empty`. */
export const problemText = (problem: Problem): string => `${problem.pointer || 'the document'}: ${problem.sentence}`;
