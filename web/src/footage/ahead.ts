/** What decodes footage: its pictures one after another from a number on. Each is there until the next is asked for. */
export interface Decoder<Sample> {
  from(picture: number): AsyncGenerator<readonly [picture: number, sample: Sample]>;
  /** How many are decoded ahead: fewer where they are large. */
  readonly ahead: number;
}

/** Who keeps pictures to be looked at. */
export interface Keeper<Sample> {
  keep(picture: number, sample: Sample): void;
  drop(picture: number): void;
}

/** Pictures that are kept: some four seconds. */
const KEPT = 96;
/** How many are decoded before the one that is wanted where it goes back: a decoder only goes forwards. */
const BACK = 16;
/** To go on decoding over so many is quicker than to begin anew. */
const SKIP = 30;
/** Where it has to begin anew while it goes forwards it begins so far ahead: what is looked at has gone on by the time it is there. */
const LEAD = 16;

/** A decoder that is under way: the number of the picture that comes next, and those to come. */
interface Under<Sample> {
  at: number;
  readonly pictures: AsyncGenerator<readonly [picture: number, sample: Sample]>;
}

/**
 * Has pictures of footage decoded before they are looked at. Those near the one that is looked at are decoded along with it, so that
 * stepping and playing do not wait for each; while it plays one decoder goes on. Where that falls behind it leaves out what has gone by,
 * and where it has fallen far behind it begins anew ahead of what plays.
 */
export class Ahead<Sample> {
  readonly #decoder: Decoder<Sample>;
  readonly #keeper: Keeper<Sample>;
  readonly #kept = new Set<number>();
  #running: Promise<void> | null = null;
  #under: Under<Sample> | null = null;
  #wanted: number | null = null;
  /** What was looked at last, and whether that lay further on than what was before. */
  #last = 0;
  #forwards = true;
  /** Whether it plays, and was not just brought somewhere else. */
  #goesOn = false;
  /** The number after the last picture, once that is known. */
  #end = Number.POSITIVE_INFINITY;

  constructor(decoder: Decoder<Sample>, keeper: Keeper<Sample>) {
    this.#decoder = decoder;
    this.#keeper = keeper;
  }

  /**
   * A picture is looked at: it comes, if it is not there, and those to come after it before they are needed.
   * @returns when nothing is decoded any more; rejects where it cannot be decoded
   */
  look(picture: number): Promise<void> {
    if (picture !== this.#last) this.#goTo(picture);
    const isThere = this.#kept.has(picture);
    if (!isThere || (this.#forwards && !this.#kept.has(picture + this.#decoder.ahead / 2))) this.#ask(picture);
    return this.#running ?? Promise.resolve();
  }

  #goTo(picture: number): void {
    this.#goesOn = this.#forwards && picture > this.#last && picture - this.#last < SKIP;
    this.#forwards = picture > this.#last;
    this.#last = picture;
  }

  #ask(picture: number): void {
    this.#wanted = picture;
    this.#running ??= this.#run().finally(() => {
      this.#running = null;
    });
  }

  /** Decodes what is wanted, and what is wanted by then. */
  async #run(): Promise<void> {
    while (this.#wanted !== null) {
      const wanted = this.#wanted;
      this.#wanted = null;
      const has = this.#kept.has(wanted);
      const forwards = has || this.#forwards;
      const { ahead } = this.#decoder;
      const before = Math.min(BACK, ahead);
      const from = has ? this.#firstMissing(wanted) : forwards ? wanted + this.#leadFrom(wanted) : wanted - before;
      await this.#decode(Math.max(0, from), Math.min(this.#end - 1, wanted + (forwards ? ahead : 2)));
    }
  }

  /** How far ahead of what is wanted it goes on, where it has fallen so far behind that it begins anew. */
  #leadFrom(wanted: number): number {
    const behind = this.#under ? wanted - this.#under.at : 0;
    return this.#goesOn && behind > SKIP ? LEAD : 0;
  }

  #firstMissing(from: number): number {
    let at = from;
    while (this.#kept.has(at)) at++;
    return at;
  }

  async #decode(from: number, to: number): Promise<void> {
    if (from > to) return;
    if (!this.#under || this.#under.at > from || this.#under.at < from - SKIP) {
      await this.#under?.pictures.return(undefined);
      this.#under = { at: from, pictures: this.#decoder.from(from) };
    }
    const under = this.#under;
    while (under.at <= to) {
      const { value, done } = await under.pictures.next();
      if (done) {
        this.#end = under.at;
        this.#under = null;
        return;
      }
      const [picture, sample] = value;
      under.at = picture + 1;
      if (picture >= from && this.#mayBeLookedAt(picture)) this.#keep(picture, sample);
      // Whoever has gone elsewhere is not kept waiting.
      if (this.#wanted !== null && (this.#wanted < from || this.#wanted > to)) return;
    }
  }

  /** Whether a picture lies where one goes: what has gone by while it was decoded is not looked at any more. */
  #mayBeLookedAt(picture: number): boolean {
    const further = picture - this.#last;
    const { ahead } = this.#decoder;
    return this.#forwards ? further >= 0 && further <= ahead : further <= 2 && further >= -Math.min(BACK, ahead);
  }

  /** Keeps a picture, and lets go of those farthest from what is looked at. */
  #keep(picture: number, sample: Sample): void {
    if (this.#kept.has(picture)) return;
    this.#keeper.keep(picture, sample);
    this.#kept.add(picture);
    while (this.#kept.size > KEPT) {
      const far = [...this.#kept].reduce((a, b) => (Math.abs(b - this.#last) > Math.abs(a - this.#last) ? b : a));
      this.#kept.delete(far);
      this.#keeper.drop(far);
    }
  }
}
