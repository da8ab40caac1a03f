import type { RequestHandler } from 'express';
import type { Room } from '../work/room.ts';

/** Lets in what would be written only while there is room for it. Reading goes on, and so does saying who is there. */
export const roomFor =
  (room: Room): RequestHandler =>
  (request, _response, next) => {
    const reads = request.method === 'GET' || request.method === 'HEAD' || request.path.endsWith('/here');
    if (!reads) room.require(Number(request.headers['content-length'] ?? 0) || 0);
    next();
  };
