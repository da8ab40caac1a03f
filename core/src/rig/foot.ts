import { multiply } from '../pose/affine.ts';
import type { RigFoot } from './definition.ts';
import type { FrameNumbers, Operation } from './operation.ts';

const roll = new Float64Array(16);

/**
 * A foot that rolls over its heel, the tip of its toe and its edges, and lifts its heel over the ball. It makes two maps from
 * the rig at rest to the world: of the sole that stays on the ground, and of what lifts with the heel.
 */
export class Foot implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #control: number;
  readonly #offset: Float64Array;
  readonly #sole: number;
  readonly #lift: number;
  readonly #foot: RigFoot;
  readonly #dials: Readonly<Record<'heel' | 'ball' | 'toe' | 'bank', number>>;

  constructor(
    foot: RigFoot,
    control: number,
    offset: Float64Array,
    sole: number,
    lift: number,
    dials: Readonly<Record<'heel' | 'ball' | 'toe' | 'bank', number>>,
  ) {
    this.reads = [control];
    this.writes = [sole, lift];
    this.#control = control * 16;
    this.#offset = offset;
    this.#sole = sole * 16;
    this.#lift = lift * 16;
    this.#foot = foot;
    this.#dials = dials;
  }

  run({ world, values }: FrameNumbers): void {
    const { heel, ball, toe, inner, outer } = this.#foot;
    const dials = this.#dials;
    const sole = this.#sole;
    multiply(world, sole, world, this.#control, this.#offset, 0);
    // To the outside the inner edge comes up, whichever side that is.
    const bank = values[dials.bank];
    const outwards = outer[0] >= inner[0] ? -1 : 1;
    if (bank !== 0) this.#turn(world, sole, 2, outwards * bank, bank > 0 ? outer : inner);
    if (values[dials.heel] !== 0) this.#turn(world, sole, 0, -values[dials.heel], heel);
    if (values[dials.toe] !== 0) this.#turn(world, sole, 0, values[dials.toe], toe);
    for (let i = 0; i < 16; i++) world[this.#lift + i] = world[sole + i];
    if (values[dials.ball] !== 0) this.#turn(world, this.#lift, 0, values[dials.ball], ball);
  }

  /** Turns a map about x (0) or z (2) through a point. */
  #turn(world: Float64Array, at: number, axis: 0 | 2, angle: number, through: readonly [number, number, number]): void {
    const c = Math.cos(angle);
    const s = Math.sin(angle);
    const x = through[0];
    const y = through[1];
    const z = through[2];
    roll.fill(0);
    roll[15] = 1;
    if (axis === 0) {
      roll[0] = 1;
      roll[5] = c;
      roll[6] = s;
      roll[9] = -s;
      roll[10] = c;
      roll[13] = y - (c * y - s * z);
      roll[14] = z - (s * y + c * z);
    } else {
      roll[0] = c;
      roll[1] = s;
      roll[4] = -s;
      roll[5] = c;
      roll[10] = 1;
      roll[12] = x - (c * x - s * y);
      roll[13] = y - (s * x + c * y);
    }
    multiply(world, at, world, at, roll, 0);
  }
}
