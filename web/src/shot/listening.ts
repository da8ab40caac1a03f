import { type Present, PresentSchema } from '@varrup/core';
import { api } from '../api/client.ts';
import { person } from './person.ts';

interface Events {
  /** The shot has got to a revision, whoever has changed it. */
  changed(revision: number): void;
  /** Who is there besides this browser. */
  present(others: readonly Present[]): void;
}

const PICKS_REST = 250;

/**
 * Hears from the server what happens to a shot. One window of a browser listens for all of them, since a browser keeps few lines open to
 * one server; it tells the others (see `Neighbours`). Where the line breaks the browser makes it anew and hears first how far the shot is.
 */
export class Listening {
  readonly #shot: string;
  readonly #window: string;
  readonly #on: Events;
  #leave: () => void = () => {};
  #rest: ReturnType<typeof setTimeout> | undefined;
  #picked: readonly string[] = [];
  #isListening = false;

  constructor(shot: string, window: string, on: Events) {
    this.#shot = shot;
    this.#window = window;
    this.#on = on;
    const left = new Promise<void>((leave) => {
      this.#leave = leave;
    });
    let isOver = false;
    void left.then(() => {
      isOver = true;
    });
    void navigator.locks.request(`varrup-listens-${shot}`, async () => {
      if (isOver) return;
      const close = this.#listen();
      await left;
      close();
    });
  }

  /** Others are picked here. */
  picks(ids: readonly string[]): void {
    this.#picked = ids.slice(0, 50);
    clearTimeout(this.#rest);
    this.#rest = setTimeout(() => this.#tell(), PICKS_REST);
  }

  close(): void {
    clearTimeout(this.#rest);
    this.#leave();
  }

  #listen(): () => void {
    const source = new EventSource(`/api/shots/${this.#shot}/events?window=${this.#window}&person=${person()}`);
    source.addEventListener('open', () => this.#tell());
    source.addEventListener('changed', ({ data }) => this.#on.changed(Number(data)));
    source.addEventListener('here', ({ data }) => {
      const parsed = PresentSchema.safeParse(JSON.parse(data));
      if (parsed.success) this.#on.present(parsed.data.filter(({ window }) => window !== this.#window));
    });
    this.#isListening = true;
    return () => {
      this.#isListening = false;
      source.close();
      this.#on.present([]);
    };
  }

  /** Who is not heard of is no worse off: the next pick tells again. */
  #tell(): void {
    if (this.#isListening)
      void api.here(this.#shot, { window: this.#window, picked: [...this.#picked] }).catch(() => {});
  }
}
