import { mediaLimits } from '@varrup/core';
import express, { type Request, type RequestHandler } from 'express';
import { Counting } from './counting.ts';
import { Refused } from './refusal.ts';

/**
 * Each route says which body it takes; without one of these a body is not even read. JSON comes as bytes, counted while it comes in.
 * Packed bodies are refused: a little can unpack to very much.
 */
const jsonBytes =
  (limit: number): RequestHandler =>
  async (request, _response, next) => {
    if (!request.is('application/json')) return next();
    request.body = await bytesOf(request, limit);
    next();
  };

/** The bytes of a request. @throws Refused (400, 413, 415) as soon as they are too many, or what they hold is too much */
async function bytesOf(request: Request, limit: number): Promise<Buffer> {
  const { 'content-length': length, 'content-encoding': encoding = 'identity' } = request.headers;
  if (encoding !== 'identity') throw new Refused(415, 'What was sent is packed in a way the server does not read.');
  const tooLarge = () => new Refused(413, 'What was sent is too large.');
  if (length === undefined) throw new Refused(411, 'What is sent must say how long it is (Content-Length).');
  const said = Number(length);
  if (said > limit) throw tooLarge();
  return new Promise((done, refuse) => {
    const counting = new Counting();
    let bytes: Buffer | null = Buffer.allocUnsafeSlow(said);
    let size = 0;
    request.on('data', (chunk: Buffer) => {
      try {
        if (bytes) counting.take(chunk);
        if (bytes) chunk.copy(bytes, size);
        size += chunk.length;
      } catch (error) {
        // What still comes is let go, so that the answer can be heard.
        bytes = null;
        refuse(error);
      }
      // A large body comes as fast as it is taken: between its pieces others have their turn.
      request.pause();
      setImmediate(() => request.resume());
    });
    request.once('end', () => bytes && done(bytes));
    request.once('close', () => refuse(new Refused(400, 'The connection broke before all had been sent.')));
  });
}

const KB = 1024;
const MB = 1024 * KB;

/** Names and the like. */
export const smallBody = jsonBytes(16 * KB);

/** A pose: every channel of a rig, once. */
export const poseBody = jsonBytes(512 * KB);

/** Large bodies that are held at once, at most: the others wait before theirs is read. */
const MOST_AT_ONCE = 2;
const LARGE = 1_000_000;
const waiting: (() => void)[] = [];
let held = 0;

const readLarge = jsonBytes(64 * MB);

/** Lets a large body in when there is room for it. */
const inTurn =
  (read: RequestHandler): RequestHandler =>
  async (request, response, next) => {
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
    return read(request, response, next);
  };

/** Documents and edits: a shot of 200,000 keys with all their handles is some 40 MB. */
export const documentBody = inTurn(readLarge);

/** Sounds, pictures and footage that come in at once, at most. */
const MOST_COMING = 6;
let coming = 0;

/** A sound, a picture or footage: it is taken as it comes, and says before how long it is. */
export const mediaBody: RequestHandler = (request, response, next) => {
  const { 'content-length': length, 'content-encoding': encoding = 'identity' } = request.headers;
  if (encoding !== 'identity') throw new Refused(415, 'What was sent is packed in a way the server does not read.');
  if (length === undefined) throw new Refused(411, 'What is sent must say how long it is (Content-Length).');
  if (Number(length) > mediaLimits.bytes.footage)
    throw new Refused(413, `It is larger than ${mediaLimits.bytes.footage / 1e6} MB.`);
  if (coming >= MOST_COMING)
    throw new Refused(429, 'Others are bringing in as much as can come at once: try again soon.');
  coming++;
  response.once('close', () => coming--);
  next();
};

const raw = (limit: number): RequestHandler => express.raw({ type: () => true, limit, inflate: false });

export const posterBody = raw(mediaLimits.poster);
export const waveformBody = raw(mediaLimits.waveform);

export const pictureBody = raw(MB);
