import {
  applyPatches,
  documentOf,
  linksIn,
  type Patch,
  type Rig,
  Rigs,
  rigHash,
  type Shot,
  trusted,
} from '@varrup/core';
import { patchText } from '../shot/edit-text.ts';
import { patchesBetween } from '../shot/lately.ts';

/**
 * A shot kept by another thread. It is carried over once, and from then on its mirror is fed with what changes: patches, and rigs that
 * come to be linked, each once, known by their hash. Documents and patches go as JSON, which is carried more quickly than objects.
 */
export type News =
  | { readonly document: string; readonly rigs: readonly Rig[] }
  | { readonly patches: string; readonly rigs: readonly Rig[] };

const written = (shot: Shot): string => JSON.stringify(documentOf(shot));

/** The whole of a shot, for a thread that has nothing of it. */
export const wholeOf = (shot: Shot): News => ({
  document: written(shot),
  rigs: shot.rigs.only(linksIn(shot)).list,
});

/** What the side that has the shot knows of its mirror. */
export class Mirror {
  #told: Shot | null = null;
  readonly #rigs = new Set<string>();

  /** What the other side must hear so that it has this very shot. The news must be sent, and in this order. */
  news(shot: Shot): News {
    const before = this.#told;
    this.#told = shot;
    const rigs = shot.rigs.only(linksIn(shot)).list.filter((rig) => !this.#rigs.has(rigHash(rig)));
    for (const rig of rigs) this.#rigs.add(rigHash(rig));
    if (before?.id !== shot.id) return { document: written(shot), rigs };
    return { patches: patchText(patchesBetween(before, shot)), rigs };
  }

  /** Forgets what was told: the next news are the whole shot. */
  forget(): void {
    this.#told = null;
    this.#rigs.clear();
  }
}

/** The other side: a shot as the news make it. */
export class Mirrored {
  #shot: Shot | null = null;
  #rigs = Rigs.none;

  hear(news: News): Shot {
    this.#rigs = this.#rigs.with(news.rigs);
    if ('document' in news) this.#shot = { ...trusted(JSON.parse(news.document)), rigs: this.#rigs };
    else if (this.#shot)
      this.#shot = { ...applyPatches(this.#shot, JSON.parse(news.patches) as Patch[]), rigs: this.#rigs };
    else throw new Error('Nothing can change in a shot that never came.');
    return this.#shot;
  }

  get shot(): Shot | null {
    return this.#shot;
  }
}
