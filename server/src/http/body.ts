import { mediaLimits } from '@varrup/core';
import type { Request, RequestHandler } from 'express';
import { arriving } from './arrival.ts';
import { Counting } from './counting.ts';
import { Places } from './places.ts';
import { Refused } from './refusal.ts';

/**
 * Each route says which body it takes; without one of these a body is not even read. JSON comes as bytes, counted while it comes in.
 * Packed bodies are refused: a little can unpack to very much.
 */
const jsonBytes =
  (limit: number): RequestHandler =>
  async (request, _response, next) => {
    if (!request.is('application/json')) return next();
    const counting = new Counting();
    request.body = await wholeOf(request, limit, (chunk) => counting.take(chunk));
    next();
  };

/** The bytes of a request. @throws Refused (400, 408, 411, 413, 415) as soon as they are too many, or what they hold is too much */
async function wholeOf(
  request: Request,
  limit: number,
  look: (chunk: Buffer) => void,
  still?: () => void,
): Promise<Buffer> {
  const said = lengthOf(request);
  if (said > limit) throw new Refused(413, 'What was sent is too large.');
  const bytes = Buffer.allocUnsafeSlow(said);
  let size = 0;
  for await (const chunk of arriving(request, still)) {
    look(chunk);
    chunk.copy(bytes, size);
    size += chunk.length;
    // A large body comes as fast as it is taken: between its pieces others have their turn.
    if (said > LARGE) await new Promise(setImmediate);
  }
  return bytes;
}

/** How long a body says it is. @throws Refused (411, 415) */
function lengthOf(request: Request): number {
  const { 'content-length': length, 'content-encoding': encoding = 'identity' } = request.headers;
  if (encoding !== 'identity') throw new Refused(415, 'What was sent is packed in a way the server does not read.');
  if (length === undefined) throw new Refused(411, 'What is sent must say how long it is (Content-Length).');
  return Number(length);
}

const KB = 1024;
const MB = 1024 * KB;

/** Names and the like. */
export const smallBody = jsonBytes(16 * KB);

/** A pose: every channel of a rig, once. */
export const poseBody = jsonBytes(512 * KB);

const LARGE = 1_000_000;
/** Large bodies on their way in at once; and those that are there and read. */
const coming = new Places(6, 2);
const held = new Places(2, 2);

/** Documents and edits: a shot of 200,000 keys with all their handles is some 40 MB. */
export const documentBody: RequestHandler = async (request, response, next) => {
  if (!request.is('application/json')) return next();
  const counting = new Counting();
  const isLarge = lengthOf(request) > LARGE;
  const leave = isLarge ? await coming.take(request, response) : undefined;
  request.body = await wholeOf(request, 64 * MB, (chunk) => counting.take(chunk), leave);
  leave?.();
  if (isLarge) await held.take(request, response);
  next();
};

/** Sounds, pictures and footage that come in at once. */
const media = new Places(12, 6);

/** A sound, a picture or footage: it is taken as it comes, and says before how long it is. Its bytes are the body. */
export const mediaBody: RequestHandler = async (request, response, next) => {
  if (lengthOf(request) > mediaLimits.bytes.footage)
    throw new Refused(413, `It is larger than ${mediaLimits.bytes.footage / 1e6} MB.`);
  request.body = arriving(request, await media.take(request, response));
  next();
};

const raw =
  (limit: number): RequestHandler =>
  async (request, _response, next) => {
    request.body = await wholeOf(request, limit, () => {});
    next();
  };

export const posterBody = raw(mediaLimits.poster);
export const waveformBody = raw(mediaLimits.waveform);

export const pictureBody = raw(MB);
