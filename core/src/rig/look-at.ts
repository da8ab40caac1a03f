import { composeFrom, scaleOf, swingFrom, turnOf, turnTimes } from '../pose/affine.ts';
import type { FrameNumbers, Operation } from './operation.ts';

const swung = new Float64Array(4);
const turn = new Float64Array(4);
/** The joint's front and the way to what it looks at, three numbers each. */
const ways = new Float64Array(6);
const place = new Float64Array(4);

/** Turns a joint's front (+Z at rest) towards a control, by a share: eyes that look, a head that follows. */
export class LookAt implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #joint: number;
  readonly #at: number;
  readonly #share: number;
  readonly #front: readonly [number, number, number];

  /** @param front the rig's forward in the joint's own space @param share its place in the values */
  constructor(joint: number, at: number, front: readonly [number, number, number], share: number) {
    this.reads = [at, joint];
    this.writes = [joint];
    this.#joint = joint * 16;
    this.#at = at * 16;
    this.#front = front;
    this.#share = share;
  }

  run({ world, values }: FrameNumbers): void {
    const share = Math.min(1, Math.max(0, values[this.#share]));
    if (share === 0) return;
    const j = this.#joint;
    const x = this.#front[0];
    const y = this.#front[1];
    const z = this.#front[2];
    for (let c = 0; c < 3; c++) {
      ways[c] = world[j + c] * x + world[j + 4 + c] * y + world[j + 8 + c] * z;
      place[c] = world[j + 12 + c];
      ways[3 + c] = world[this.#at + 12 + c] - place[c];
    }
    if (ways[3] * ways[3] + ways[4] * ways[4] + ways[5] * ways[5] < 1e-12) return;
    place[3] = scaleOf(world, j);
    swingFrom(swung, 0, ways, 0, ways, 3, share);
    turnOf(turn, 0, world, j);
    turnTimes(turn, 0, swung, 0, turn, 0);
    composeFrom(world, j, turn, 0, place, 0);
  }
}
