import type { Build } from './build.ts';

const LONGEST = 24;

/** Names and ids of parts: each once. */
export class Names {
  readonly #names: Set<string>;
  readonly #ids: Set<string>;

  constructor({ joints }: Pick<Build, 'joints'>) {
    this.#names = new Set(joints.map((j) => j.name));
    this.#ids = new Set(joints.map((j) => j.id));
  }

  /** A name with the id that goes with it; numbered where another has it already, before the side it ends with. */
  give(wanted: string): { name: string; id: string } {
    const [, stem, side] = /^(.*?)( [LR])?$/s.exec(wanted.trim().slice(0, 80)) ?? ['', wanted, ''];
    let name = `${stem}${side ?? ''}`;
    for (let n = 2; this.#names.has(name); n++) name = `${stem} ${n}${side ?? ''}`;
    const id = this.#free(idOfName(name));
    this.#names.add(name);
    this.#ids.add(id);
    return { name, id };
  }

  #free(stem: string): string {
    let id = stem;
    for (let n = 2; this.#ids.has(id); n++) id = `${stem}${n}`;
    return id;
  }
}

/** A name as an id: letters and figures, a small letter first. */
export function idOfName(name: string): string {
  const words = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .split(/[^A-Za-z0-9]+/)
    .filter(Boolean);
  const camel = words
    .map((word, i) => (i === 0 ? word[0].toLowerCase() : word[0].toUpperCase()) + word.slice(1))
    .join('');
  return (/^[a-zA-Z]/.test(camel) ? camel : `part${camel}`).slice(0, LONGEST);
}
