import type { Request } from 'express';
import { Refused } from './refusal.ts';

/** So long without a byte, in milliseconds, and a body has stopped coming. */
const PATIENCE = 10_000;
/** From then on it comes no slower than so many bytes a second, as seen over all the time that was waited for it. */
const SLOWEST = 2_000;
/** After so long without a byte others may have its place. */
const STILL = 1_000;
const LOOK_EVERY = 250;

/**
 * The bytes of a body as they come. What its reader does with them takes none of the sender's time.
 * @param still called when nothing has come for a second
 * @throws Refused (400, 408) where the connection breaks, or the body does not go on coming
 */
export async function* arriving(request: Request, still: () => void = () => {}): AsyncGenerator<Buffer> {
  const clock = new Clock(still);
  const chunks: AsyncIterator<Buffer> = request[Symbol.asyncIterator]();
  try {
    for (;;) {
      const next = await clock.wait(chunks.next());
      if (next.done) return;
      clock.came(next.value.length);
      yield next.value;
    }
  } catch (error) {
    if (error instanceof Refused) throw error;
    throw new Refused(400, 'The connection broke before all had been sent.');
  } finally {
    clock.stop();
  }
}

/** Measures how long a body is waited for. */
class Clock {
  readonly #still: () => void;
  readonly #timer: NodeJS.Timeout;
  #bytes = 0;
  #waited = 0;
  /** Since when the next bytes are waited for; null while they are not. */
  #since: number | null = null;
  #late: (error: Refused) => void = () => {};

  constructor(still: () => void) {
    this.#still = still;
    this.#timer = setInterval(() => this.#look(), LOOK_EVERY).unref();
  }

  /** Waits for something. @throws Refused (408) where it does not come in time */
  async wait<T>(something: Promise<T>): Promise<T> {
    const begun = performance.now();
    this.#since = begun;
    const late = new Promise<never>((_, refuse) => {
      this.#late = refuse;
    });
    try {
      return await Promise.race([something, late]);
    } finally {
      this.#waited += performance.now() - begun;
      this.#since = null;
    }
  }

  came(bytes: number): void {
    this.#bytes += bytes;
  }

  stop(): void {
    clearInterval(this.#timer);
  }

  #look(): void {
    if (this.#since === null) return;
    const still = performance.now() - this.#since;
    const waited = this.#waited + still;
    if (still > STILL) this.#still();
    const slow = waited > PATIENCE && this.#bytes < ((waited - PATIENCE) / 1000) * SLOWEST;
    if (still > PATIENCE || slow)
      this.#late(new Refused(408, 'What was sent stopped coming, or came too slowly. Send it again.'));
  }
}
