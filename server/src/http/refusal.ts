import type { Problem, Refusal } from '@varrup/core';
import type { ErrorRequestHandler, Request, RequestHandler } from 'express';
import type { Logger } from 'pino';

/** An answer in the 400s: what is wrong as a sentence, and where in what was sent. */
export class Refused extends Error {
  readonly status: number;
  readonly body: Refusal & Record<string, unknown>;

  constructor(status: number, sentence: string, more: { pointer?: string } & Record<string, unknown> = {}) {
    super(sentence);
    this.status = status;
    this.body = { error: sentence, ...more };
  }
}

export const notFound = (what: string) => new Refused(404, `There is no such ${what}.`);

/** The first of the problems as a refusal. */
export const refusedFor = (status: number, what: string, problems: readonly Problem[]) =>
  new Refused(status, `${what} ${problems[0].pointer || '(as a whole)'}: ${problems[0].sentence}.`, {
    pointer: problems[0].pointer,
  });

export const noSuchPath: RequestHandler = () => {
  throw notFound('address');
};

/** What body-parser throws, in our words. */
const bodySentences: Record<string, string> = {
  'entity.too.large': 'What was sent is too large.',
  'entity.parse.failed': 'What was sent is not JSON.',
  'encoding.unsupported': 'What was sent is packed in a way the server does not read.',
  'charset.unsupported': 'What was sent is not in UTF-8.',
  'request.aborted': 'The connection broke before all had been sent.',
};

/** What the log says of an error: what it is and where, never what was sent or kept. */
function described(error: unknown, request: Request) {
  const { method, route, params } = request;
  const [message, ...stack] = error instanceof Error ? (error.stack ?? error.message).split('\n') : [String(error)];
  return { method, route: route?.path ?? '', id: params?.id, reason: message.slice(0, 300), stack };
}

/** PostgreSQL's codes for: it is being started or ended, it takes no more connections, the connection broke. */
const AWAY = new Set(['57P01', '57P02', '57P03', '53300', '08000', '08003', '08006']);
/** And the system's. */
const BROKEN = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

/** A refusal for what the database cannot do now and will be able to do later; null for anything else. */
export function troubleOfDatabase(error: unknown): Refused | null {
  const { code, message = '' } = (error ?? {}) as { code?: string; message?: string };
  if (code === '53100' || /No space left on device/.test(message))
    return new Refused(
      507,
      "The server's disk is full. What was saved is kept, and saving goes on when there is room.",
    );
  if (
    AWAY.has(code ?? '') ||
    BROKEN.has(code ?? '') ||
    /Connection terminated|timeout exceeded when trying/.test(message)
  )
    return new Refused(503, 'The database does not answer now. What was saved is kept; try again soon.');
  return null;
}

/** The last handler: refusals as they are, everything else as one plain sentence, with the cause in the log only. */
export function answerErrors(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    if (error instanceof Refused) {
      // What stopped coming is not waited for any longer.
      if (error.status === 408) response.set('Connection', 'close').once('finish', () => request.destroy());
      response.status(error.status).json(error.body);
      return;
    }
    const { type, status } = (error ?? {}) as { type?: string; status?: number };
    if (typeof status === 'number' && status >= 400 && status < 500) {
      response.status(status).json({ error: bodySentences[type ?? ''] ?? 'What was sent cannot be read.' });
      return;
    }
    const trouble = troubleOfDatabase(error);
    if (trouble) {
      response.status(trouble.status).json(trouble.body);
      return;
    }
    log.error(described(error, request), 'request failed');
    response.status(500).json({ error: 'Something went wrong in the server. Nothing was changed; please try again.' });
  };
}
