import type { RequestHandler } from 'express';
import { Refused } from './refusal.ts';

/**
 * Keeps other web sites out. A page elsewhere can make a browser talk to loopback: under a name of its own (so the Host
 * must be ours), or by a form or a fetch (so the Origin of whatever writes must be ours).
 * @param port called for each request: a server on port 0 learns its port only when it listens
 */
export function guard(port: () => number, moreOrigins: readonly string[]): RequestHandler {
  return (request, _response, next) => {
    const hosts = ['localhost', '127.0.0.1', '[::1]'].map((name) => `${name}:${port()}`);
    if (!hosts.includes(request.headers.host ?? '')) {
      throw new Refused(403, 'This server answers only under localhost and 127.0.0.1.');
    }
    const { origin } = request.headers;
    const reads = request.method === 'GET' || request.method === 'HEAD';
    const ours = [...hosts.map((host) => `http://${host}`), ...moreOrigins];
    if (origin !== undefined && !reads && !ours.includes(origin)) {
      throw new Refused(403, 'Another web site may not change anything here.');
    }
    if (!reads && request.headers['sec-fetch-site'] === 'cross-site' && !moreOrigins.includes(origin ?? '')) {
      throw new Refused(403, 'Another web site may not change anything here.');
    }
    next();
  };
}
