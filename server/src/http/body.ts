import express, { type RequestHandler } from 'express';

/**
 * Each route says which body it takes; without one of these a body is not even read. Bodies come as bytes: what is in them is counted
 * before it is read. Packed ones are refused: a little can unpack to very much.
 */
const jsonBytes = (limit: string) => express.raw({ type: 'application/json', limit, inflate: false });

/** Names and the like. */
export const smallBody = jsonBytes('16kb');

/** A pose: every channel of a rig, once. */
export const poseBody = jsonBytes('512kb');

/** Large bodies that are held at once, at most: the others wait before theirs is read. */
const MOST_AT_ONCE = 2;
const LARGE = 1_000_000;
const waiting: (() => void)[] = [];
let held = 0;

const readLarge = jsonBytes('64mb');

/** Documents and edits: a shot of 200,000 keys with all their handles is some 40 MB. A large one is let in when there is room for it. */
export const documentBody: RequestHandler = async (request, response, next) => {
  const length = Number(request.headers['content-length'] ?? Number.POSITIVE_INFINITY);
  if (length > LARGE) {
    if (held >= MOST_AT_ONCE) await new Promise<void>((turn) => waiting.push(turn));
    held++;
    const leave = () => {
      held--;
      waiting.shift()?.();
    };
    // Who has gone away while waiting does not close once more.
    if (response.closed) return leave();
    response.once('close', leave);
  }
  readLarge(request, response, next);
};

export const pictureBody = express.raw({ type: () => true, limit: '1mb', inflate: false });
