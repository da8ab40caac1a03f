import type { CompiledCurve } from '../../curve/compile.ts';
import { Block, type Seated } from './block.ts';
import { BLOCK } from './chunk.ts';

/** Any number of curves, in blocks. All blocks but the last are full. */
export class Blocks {
  readonly #blocks: Block[] = [];

  /** Writes the values of a moment to their places. */
  run(time: number, values: Float64Array): void {
    const blocks = this.#blocks;
    for (let b = 0; b < blocks.length; b++) blocks[b].run(time, values);
  }

  /** Gives a curve the next seat. */
  add(seated: Seated): void {
    let last = this.#blocks.at(-1);
    if (!last || last.count === BLOCK) {
      last = new Block();
      this.#blocks.push(last);
    }
    seated.seat.index = (this.#blocks.length - 1) * BLOCK + last.count;
    last.put(last.count, seated);
  }

  /** Puts another curve in a seat. */
  replace(index: number, curve: CompiledCurve, target: number): void {
    this.#of(index).replace(index % BLOCK, curve, target);
  }

  /** Lets a curve write to another place of the values. */
  aim(index: number, target: number): void {
    this.#of(index).aim(index % BLOCK, target);
  }

  /** Takes a curve out; the last one comes in its seat. */
  remove(index: number): void {
    const block = this.#blocks.at(-1)!;
    const last = block.pop();
    if (block.count === 0) this.#blocks.pop();
    if (last.seat.index === index) return;
    last.seat.index = index;
    this.#of(index).put(index % BLOCK, last);
  }

  #of(index: number): Block {
    return this.#blocks[Math.floor(index / BLOCK)];
  }
}
