import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { type CompiledRig, compileRig } from './compiled.ts';
import type { Rig, RigControl } from './definition.ts';

/** A link to a rig, as shots have it. */
export interface RigLink {
  readonly rig: string;
  readonly version: number;
}

/** A link as a text: what rigs are filed under. */
export const linkName = ({ rig, version }: RigLink): string => `${rig}@${version}`;

const hashes = new WeakMap<Rig, string>();

/** What a definition is known by: SHA-256 of its JSON, in hexadecimal. Two that differ in anything have two. */
export function rigHash(rig: Rig): string {
  const known = hashes.get(rig);
  if (known) return known;
  const made = bytesToHex(sha256(utf8ToBytes(JSON.stringify(rig))));
  hashes.set(rig, made);
  return made;
}

/**
 * The rigs at hand where a shot is read and worked on: those its links lead to. They are handed in with the document and go with
 * it; nobody else knows them. A value like any other: more rigs are another value.
 */
export class Rigs {
  static readonly none = new Rigs(new Map());
  readonly #known: ReadonlyMap<string, CompiledRig>;

  private constructor(known: ReadonlyMap<string, CompiledRig>) {
    this.#known = known;
  }

  static of(rigs: readonly Rig[]): Rigs {
    return Rigs.none.with(rigs);
  }

  /**
   * These rigs and more; these very ones where all are there already.
   * @throws where one goes by a name and version that another one has here
   */
  with(rigs: readonly Rig[]): Rigs {
    const fresh = rigs.filter((rig) => !this.#has(rig));
    if (fresh.length === 0) return this;
    return new Rigs(new Map([...this.#known, ...fresh.map((rig) => [nameOf(rig), compileRig(rig)] as const)]));
  }

  #has(rig: Rig): boolean {
    const there = this.#known.get(nameOf(rig))?.rig;
    if (there === undefined || there === rig) return there !== undefined;
    if (rigHash(there) !== rigHash(rig))
      throw new Error(`There are two rigs called ${rig.id}, version ${rig.version}, and they differ.`);
    return true;
  }

  /** Those that some links lead to; the others are let go. */
  only(links: readonly RigLink[]): Rigs {
    const names = new Set(links.map(linkName));
    return new Rigs(new Map([...this.#known].filter(([name]) => names.has(name))));
  }

  get list(): Rig[] {
    return [...this.#known.values()].map((compiled) => compiled.rig);
  }

  find(link: RigLink): CompiledRig | undefined {
    return this.#known.get(linkName(link));
  }

  /** @throws where the rig is not at hand */
  at(link: RigLink): CompiledRig {
    const found = this.find(link);
    if (!found) throw new Error(`The rig ${link.rig}, version ${link.version}, is not here.`);
    return found;
  }

  /** A control of a linked rig; undefined where the rig is not at hand or has none of that name. */
  control(link: RigLink & { readonly control: string }): RigControl | undefined {
    const found = this.find(link);
    const at = found?.controlAt.get(link.control);
    return at === undefined ? undefined : found?.rig.controls[at];
  }

  /** The definition of a member that is a control; undefined for others, and where the rig is not at hand. */
  controlOf(member: MaybeControl): RigControl | undefined {
    return member.kind === 'control' && 'control' in member.shape ? this.control(member.shape) : undefined;
  }

  /** Rigs are no part of a document: it links them. */
  toJSON(): undefined {
    return undefined;
  }
}

/** As much of a member as says whether it is a control of a rig, and of which. */
interface MaybeControl {
  readonly kind: string;
  readonly shape: object | (RigLink & { readonly control: string });
}

const nameOf = (rig: Rig) => linkName({ rig: rig.id, version: rig.version });
