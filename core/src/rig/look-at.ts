import { compose, scaleOf, swing, turnOf, turnTimes } from '../pose/affine.ts';
import type { FrameNumbers, Operation } from './operation.ts';

const swung = new Float64Array(4);
const turn = new Float64Array(4);

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
    const dx = world[this.#at + 12] - world[j + 12];
    const dy = world[this.#at + 13] - world[j + 13];
    const dz = world[this.#at + 14] - world[j + 14];
    if (dx * dx + dy * dy + dz * dz < 1e-12) return;
    swing(
      swung,
      0,
      world[j] * x + world[j + 4] * y + world[j + 8] * z,
      world[j + 1] * x + world[j + 5] * y + world[j + 9] * z,
      world[j + 2] * x + world[j + 6] * y + world[j + 10] * z,
      dx,
      dy,
      dz,
      share,
    );
    turnOf(turn, 0, world, j);
    turnTimes(turn, 0, swung, 0, turn, 0);
    compose(world, j, turn, 0, scaleOf(world, j), world[j + 12], world[j + 13], world[j + 14]);
  }
}
