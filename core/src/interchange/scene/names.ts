/** What names may hold where they go: letters and figures of the Latin alphabet, and the underscore. */
const PLAIN = /^[A-Za-z][A-Za-z0-9_]*$/;
const LONGEST = 60;

/** Whether every receiver takes a name as it is. */
export const isPlain = (name: string): boolean => PLAIN.test(name) && name.length <= LONGEST;

/** A name as every receiver takes it: accents go, what is no letter or figure becomes an underscore, and it begins with a letter. */
export function plainName(name: string): string {
  const plain = fileStem(name);
  return /^[A-Za-z]/.test(plain) ? plain : `n_${plain}`.slice(0, LONGEST).replace(/_$/, '');
}

/** A name as every system takes it for a file, which may begin with a figure. */
export const fileStem = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .slice(0, LONGEST);

/** Gives out names, each once: where one is taken, the next gets a number. */
export class Names {
  readonly #taken = new Set<string>();
  readonly #clean: boolean;

  /** @param clean whether names are made plain, see {@link plainName} */
  constructor(clean: boolean) {
    this.#clean = clean;
  }

  give(wanted: string): string {
    const name = this.#clean ? plainName(wanted) : wanted;
    let free = name;
    for (let n = 2; this.#taken.has(free); n++) free = `${name}_${n}`;
    this.#taken.add(free);
    return free;
  }
}
