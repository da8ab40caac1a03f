/**
 * Decides between the full picture and a lighter draft. A few slow pictures in a row bring the draft; going back needs
 * many quick ones, so that it does not flicker between the two.
 */
export class Quality {
  draft = false;
  #slow = 0;
  #quick = 0;
  #count = 0;

  /** Whether this picture should be measured: the first few, and then every eighth, since measuring costs a wait. */
  wants(): boolean {
    return this.#count++ < 8 || this.#count % 8 === 0;
  }

  /** Notes how long a picture took, in milliseconds. Returns whether the quality changed. */
  took(ms: number): boolean {
    this.#slow = ms > 50 ? this.#slow + 1 : 0;
    this.#quick = ms < 10 ? this.#quick + 1 : 0;
    if (!this.draft && this.#slow >= 3) return this.#become(true);
    if (this.draft && this.#quick >= 60) return this.#become(false);
    return false;
  }

  #become(draft: boolean): boolean {
    this.draft = draft;
    this.#slow = 0;
    this.#quick = 0;
    return true;
  }
}
