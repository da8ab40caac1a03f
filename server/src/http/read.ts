import { IdSchema, problemsOf } from '@varrup/core';
import type { Request } from 'express';
import type { z } from 'zod';
import { notFound, Refused, refusedFor } from './refusal.ts';

/** Documents and edits nest about ten deep. The schemas walk down recursively, so what goes deeper stays outside. */
const MAX_DEPTH = 40;

/** Whether a JSON value nests deeper than a limit, found out without going any deeper than that. */
function deeperThan(value: unknown, limit: number): boolean {
  if (typeof value !== 'object' || value === null) return false;
  if (limit === 0) return true;
  return Object.values(value).some((part) => deeperThan(part, limit - 1));
}

/** The body of a request by its schema. @throws Refused (400) that says what is wrong and where */
export function readBody<S extends z.ZodType>(schema: S, request: Request): z.infer<S> {
  if (request.body === undefined) throw new Refused(400, 'The body must be JSON (Content-Type: application/json).');
  if (deeperThan(request.body, MAX_DEPTH))
    throw new Refused(400, `What was sent is nested more than ${MAX_DEPTH} deep.`);
  const parsed = schema.safeParse(request.body);
  if (!parsed.success) throw refusedFor(400, 'What was sent is wrong at', problemsOf(parsed.error));
  return parsed.data;
}

/** An id from the address. What is not even an id names nothing. */
export function readId(request: Request, what: string, parameter = 'id'): string {
  const parsed = IdSchema.safeParse(request.params[parameter]);
  if (!parsed.success) throw notFound(what);
  return parsed.data;
}
