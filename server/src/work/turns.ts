import { setTimeout } from 'node:timers/promises';

/** So many are let in together, at most: the last of them should not wait long for the first. */
const TOGETHER = 64;
/** Where so many were done together, the others of the house have so many milliseconds before the next. */
const CROWD = 8;
const PAUSE_MS = 8;

interface Waiting<Given, Result> {
  /** What can be done together with others; null for what is done alone. */
  readonly given: Given | null;
  readonly alone: () => Promise<unknown>;
  readonly done: (result: Result) => void;
  readonly failed: (error: unknown) => void;
}

/**
 * Lets those who change the same thing wait for each other here, and not each with a connection of the database: whoever changes something
 * else finds one free. Those that have gathered while others were at it are done together.
 */
export class Turns<Given, Result> {
  readonly #together: (id: string, given: readonly Given[]) => Promise<readonly (Result | Error)[]>;
  readonly #queues = new Map<string, Waiting<Given, Result>[]>();

  /** @param together does what several ask for; gives for each its result, or an error for it alone */
  constructor(together: (id: string, given: readonly Given[]) => Promise<readonly (Result | Error)[]>) {
    this.#together = together;
  }

  /** Waits for its turn and is done, perhaps with others. */
  take(id: string, given: Given): Promise<Result> {
    return new Promise((done, failed) => this.#enter(id, { given, alone: nothing, done, failed }));
  }

  /** Waits for its turn and is done by itself. */
  alone<T>(id: string, work: () => Promise<T>): Promise<T> {
    return new Promise<T>((done, failed) =>
      this.#enter(id, { given: null, alone: work, done: done as (result: unknown) => void, failed }),
    );
  }

  #enter(id: string, waiting: Waiting<Given, Result>): void {
    const queue = this.#queues.get(id);
    if (queue) queue.push(waiting);
    else {
      this.#queues.set(id, [waiting]);
      void this.#run(id);
    }
  }

  async #run(id: string): Promise<void> {
    const queue = this.#queues.get(id)!;
    while (queue.length > 0) {
      const alone = queue.findIndex((waiting) => waiting.given === null);
      const count = alone === 0 ? 1 : Math.min(TOGETHER, alone < 0 ? queue.length : alone);
      await this.#do(id, queue.splice(0, count));
      if (count >= CROWD) await setTimeout(PAUSE_MS);
    }
    this.#queues.delete(id);
  }

  async #do(id: string, group: readonly Waiting<Given, Result>[]): Promise<void> {
    try {
      const [{ given, alone }] = group;
      if (given === null) return group[0].done((await alone()) as Result);
      const results = await this.#together(
        id,
        group.map((waiting) => waiting.given!),
      );
      for (const [i, { done, failed }] of group.entries()) {
        const result = results[i];
        if (result instanceof Error) failed(result);
        else done(result);
      }
    } catch (error) {
      for (const { failed } of group) failed(error);
    }
  }
}

const nothing = async (): Promise<void> => {};
