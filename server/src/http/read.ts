import { IdSchema, problemsOf } from '@varrup/core';
import type { Request } from 'express';
import type { z } from 'zod';
import { readJson } from './json.ts';
import { notFound, Refused, refusedFor } from './refusal.ts';

/** The bytes of a body. @throws Refused (400) where there are none of the right kind */
export function bytesOf(request: Request): Buffer {
  if (!Buffer.isBuffer(request.body)) throw new Refused(400, 'The body must be JSON (Content-Type: application/json).');
  return request.body;
}

/** What was sent, by its schema. @throws Refused (400, 413) that says what is wrong and where */
export function parseBody<S extends z.ZodType>(schema: S, bytes: Uint8Array): z.infer<S> {
  const parsed = schema.safeParse(readJson(bytes));
  if (!parsed.success) throw refusedFor(400, 'What was sent is wrong at', problemsOf(parsed.error));
  return parsed.data;
}

/** The body of a request by its schema. @throws Refused (400, 413) */
export const readBody = <S extends z.ZodType>(schema: S, request: Request): z.infer<S> =>
  parseBody(schema, bytesOf(request));

/** What the address asks for, by its schema. @throws Refused (400) */
export function readQuery<S extends z.ZodType>(schema: S, request: Request): z.infer<S> {
  const parsed = schema.safeParse(request.query);
  if (!parsed.success) throw refusedFor(400, 'The address asks for something wrong at', problemsOf(parsed.error));
  return parsed.data;
}

/** An id from the address. What is not even an id names nothing. */
export function readId(request: Request, what: string, parameter = 'id'): string {
  const parsed = IdSchema.safeParse(request.params[parameter]);
  if (!parsed.success) throw notFound(what);
  return parsed.data;
}
