import type { Request, Response } from 'express';
import { MARK } from './guard.ts';
import { Refused } from './refusal.ts';

/** Who waits longer in line than so many others is sent away: it would be long. */
const MOST_WAITING = 200;

interface Waiting {
  readonly who: string;
  readonly enter: () => void;
}

/** Places for what is large on its way in: some in the house, and fewer for each person, so that nobody holds them all. */
export class Places {
  readonly #house: number;
  readonly #each: number;
  readonly #taken = new Map<string, number>();
  #count = 0;
  #waiting: Waiting[] = [];

  constructor(house: number, each: number) {
    this.#house = house;
    this.#each = each;
  }

  /** Waits for a place. It is given back by calling what is returned, once or more often, and when the response is over. @throws Refused (429) */
  async take(request: Request, response: Response): Promise<() => void> {
    const who = personOf(request);
    if (!this.#isFree(who)) await this.#wait(who, response);
    this.#count++;
    this.#taken.set(who, (this.#taken.get(who) ?? 0) + 1);
    let held = true;
    const leave = () => {
      if (!held) return;
      held = false;
      this.#leave(who);
    };
    response.once('close', leave);
    // Who has gone away while waiting does not close once more.
    if (response.closed) leave();
    return leave;
  }

  #isFree(who: string): boolean {
    return this.#count < this.#house && (this.#taken.get(who) ?? 0) < this.#each;
  }

  #wait(who: string, response: Response): Promise<void> {
    if (this.#waiting.length >= MOST_WAITING)
      throw new Refused(429, 'Others are sending as much as can come at once: try again soon.');
    return new Promise((enter) => {
      const waiting = { who, enter };
      this.#waiting.push(waiting);
      response.once('close', () => {
        if (!this.#waiting.includes(waiting)) return;
        this.#waiting = this.#waiting.filter((other) => other !== waiting);
        enter();
      });
    });
  }

  #leave(who: string): void {
    this.#count--;
    const left = this.#taken.get(who)! - 1;
    if (left > 0) this.#taken.set(who, left);
    else this.#taken.delete(who);
    const next = this.#waiting.findIndex((waiting) => this.#isFree(waiting.who));
    if (next >= 0) this.#waiting.splice(next, 1)[0].enter();
  }
}

/** Who sends something, as the desk says with each request. */
const personOf = (request: Request): string => String(request.headers[MARK] ?? '');
