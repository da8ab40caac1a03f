import { PARAMETERS } from '../deform/define.ts';
import { channelOffset } from '../document/channels.ts';
import type { Layout } from './layout.ts';

/**
 * The numbers of one moment: every channel's value, every orientation and every member's matrix in the world.
 * The arrays are reused from frame to frame; copy what must last.
 */
export class Frame {
  readonly layout: Layout;
  /** Number channels, a block a slot; then what rigs work out from their dials. */
  readonly values: Float64Array;
  /** Unit quaternions, four a slot; only meaningful for members that turn by orientation. */
  readonly orientations: Float64Array;
  /** Matrices, 16 a node, column by column: members by slot, then joints of rigs and what helps to place them. */
  readonly world: Float64Array;
  /** What each deformer does, `PARAMETERS` numbers each; see `deformPoints`. */
  readonly deform: Float64Array;
  /** The rest of the program that wrote it last: what stands in it before the curves. */
  rest: object | null = null;
  /** The frame these numbers are of. */
  at = Number.NaN;

  constructor(layout: Layout) {
    const n = layout.ids.length;
    this.layout = layout;
    this.values = new Float64Array(layout.numberCount);
    this.orientations = new Float64Array(n * 4);
    this.world = new Float64Array(layout.nodeCount * 16);
    this.deform = new Float64Array(layout.deformers.length * PARAMETERS);
    for (let i = 15; i < layout.nodeCount * 16; i += 16) this.world[i] = 1;
  }

  /** A channel's value, or undefined where the member or channel does not exist. */
  value(member: string, channel: string): number | undefined {
    const slot = this.layout.slotOf.get(member);
    if (slot === undefined) return undefined;
    const place = this.layout.channelAt[slot].get(channel);
    return place === undefined ? undefined : this.values[this.layout.base[slot] + place];
  }

  /** Whether a member and all that carry it are visible. */
  isVisible(slot: number): boolean {
    for (let at = slot; at >= 0; at = this.layout.parent[at]) {
      if (this.values[this.layout.base[at] + channelOffset.visible] < 0.5) return false;
    }
    return true;
  }
}
