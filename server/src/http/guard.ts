import type { RequestHandler } from 'express';
import { Refused } from './refusal.ts';

/** What whoever writes says of itself; a page elsewhere cannot, without asking first and being refused. */
export const MARK = 'x-varrup';

/**
 * Keeps other web sites out. A page elsewhere can make a browser talk to loopback: under a name of its own (so the Host
 * must be ours), or by a form or a fetch (so whatever writes must bear our mark, and say nothing of another site).
 * @param port called for each request: a server on port 0 learns its port only when it listens
 */
export function guard(port: () => number, moreOrigins: readonly string[]): RequestHandler {
  return (request, _response, next) => {
    const names = ['localhost', '127.0.0.1', '[::1]'];
    // The web's own port is left out of addresses.
    const hosts = names.map((name) => (port() === 80 ? name : `${name}:${port()}`));
    if (!hosts.includes(request.headers.host ?? '')) {
      throw new Refused(403, 'This server answers only under localhost and 127.0.0.1.');
    }
    const { origin } = request.headers;
    const reads = request.method === 'GET' || request.method === 'HEAD';
    const ours = [...hosts.map((host) => `http://${host}`), ...moreOrigins];
    if (reads) return next();
    if (request.headers[MARK] === undefined) {
      throw new Refused(403, 'Whoever changes something here must say so: the request needs the header X-Varrup.');
    }
    const known = moreOrigins.includes(origin ?? '');
    const site = request.headers['sec-fetch-site'];
    const foreign =
      (origin !== undefined && !ours.includes(origin)) ||
      (site !== undefined && site !== 'same-origin' && site !== 'none' && !known) ||
      (request.headers.referer !== undefined && !ours.includes(originOf(request.headers.referer)));
    if (foreign) throw new Refused(403, 'Another web site may not change anything here.');
    next();
  };
}

/** The origin of an address; empty where it is none. */
function originOf(address: string): string {
  try {
    return new URL(address).origin;
  } catch {
    return '';
  }
}
