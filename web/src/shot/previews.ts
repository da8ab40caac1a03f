import type { Command, Shot } from '@varrup/core';

/**
 * What hands are trying out. Each trial has an owner, and nobody else can keep or drop it. Where one begins over another, as a handle
 * dragged while a kit's card is open, the later one is shown; when it ends the earlier one is shown again, on the document as it
 * is then.
 */
export interface Preview {
  /** Shows what a command would do, in place of what this one showed before. */
  show<Args>(command: Command<Args>, args: Args): void;
  /** Makes what is shown an edit. Nothing where nothing of its own is shown. */
  keep(): void;
  /** Forgets what was shown. */
  drop(): void;
  /** Makes a command an edit at once, in place of what was shown. */
  make<Args>(command: Command<Args>, args: Args): void;
}

/** A trial that is under way: what it does to the document it is held against. */
export interface Trial {
  readonly owner: symbol;
  /** It is a draft: it stays, whatever else is done, until it is kept or left. */
  readonly stays: boolean;
  readonly command: string;
  /** What undo would call it. */
  label(shot: Shot): string;
  apply(shot: Shot): Shot;
}

export const trialOf = <Args>(owner: symbol, stays: boolean, command: Command<Args>, args: Args): Trial => ({
  owner,
  stays,
  command: command.name,
  label: (shot) => command.label(args, shot),
  apply: (shot) => command.apply(shot, args),
});

/** The trials under way, the one that is shown last. */
export class Trials {
  #list: Trial[] = [];

  get shown(): Trial | undefined {
    return this.#list.at(-1);
  }

  of(owner: symbol): Trial | undefined {
    return this.#list.find((t) => t.owner === owner);
  }

  /** Puts a trial in the place of its owner's last one, or over all others. */
  put(trial: Trial): void {
    const at = this.#list.findIndex((t) => t.owner === trial.owner);
    if (at < 0) this.#list.push(trial);
    else this.#list[at] = trial;
  }

  end(owner: symbol): void {
    this.#list = this.#list.filter((t) => t.owner !== owner);
  }

  clear(): void {
    this.#list = [];
  }

  /** A document as the draft on the table makes it; null where there is none, or it does not fit. */
  draftOn(document: Shot): Shot | null {
    const draft = this.#list.find((trial) => trial.stays);
    try {
      return draft?.apply(document) ?? null;
    } catch {
      return null;
    }
  }

  /** A document as the trial that is shown makes it. One that does not fit it any more is over. */
  on(document: Shot): Shot {
    for (;;) {
      const { shown } = this;
      if (!shown) return document;
      try {
        return shown.apply(document);
      } catch {
        this.end(shown.owner);
      }
    }
  }
}
