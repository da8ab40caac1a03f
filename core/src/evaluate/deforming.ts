import type { DeformInput } from '../deform/define.ts';
import { PARAMETERS } from '../deform/define.ts';
import { deformers } from '../deform/kinds.ts';
import { deformChannel, type MemberDeformer } from '../document/deformer.ts';
import { boundsOf } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { lowestOf } from '../surface/support.ts';
import type { Elsewhere, Reader } from './elsewhere.ts';
import type { Frame } from './frame.ts';
import type { Layout } from './layout.ts';

/** One deformer in its place. */
interface PlacedDeformer {
  readonly prepare: (settings: MemberDeformer['settings'], input: DeformInput, out: Float64Array, at: number) => void;
  readonly settings: MemberDeformer['settings'];
  readonly slot: number;
  readonly parent: number;
  /** Where its channels begin in the values. */
  readonly at: number;
  readonly bounds: DeformInput['bounds'];
  readonly lowest: DeformInput['lowest'];
  /** The move of its member at other moments, where it may follow the path. */
  readonly move: readonly Reader[] | null;
}

/** Lays all deformers out, in the order their parameters have in a frame. */
export function placeDeformers(shot: Shot, layout: Layout, elsewhere: Elsewhere): PlacedDeformer[] {
  return layout.deformers.map(({ slot, deformer }) => {
    const id = layout.ids[slot];
    const member = shot.members.at(id);
    const kind = deformers[deformer.kind];
    const first = layout.channelAt[slot].get(deformChannel(deformer.id, kind.channels[0].id))!;
    const follows = kind.channels.some((c) => c.id === 'follow');
    return {
      prepare: kind.prepare as PlacedDeformer['prepare'],
      settings: deformer.settings,
      slot,
      parent: layout.space[slot],
      at: layout.base[slot] + first,
      bounds: boundsOf(member, shot.rigs),
      lowest: lowestOf(member, shot.rigs),
      move: follows ? ['x', 'y', 'z'].map((c) => elsewhere.of(`${id}.move.${c}`)) : null,
    };
  });
}

const local = new Float64Array(3);
const input: { -readonly [K in keyof DeformInput]: DeformInput[K] } = {
  values: new Float64Array(0),
  at: 0,
  world: new Float64Array(0),
  worldAt: 0,
  bounds: [0, 0, 0, 0, 0, 0],
  lowest: () => 0,
  velocity: new Float64Array(3),
};

/** Works out what every deformer does at a moment. The world's matrices must be there already. */
export function prepareDeformers(placed: readonly PlacedDeformer[], time: number, frame: Frame): void {
  input.values = frame.values;
  input.world = frame.world;
  for (let d = 0; d < placed.length; d++) {
    const p = placed[d];
    input.at = p.at;
    input.worldAt = p.slot * 16;
    input.bounds = p.bounds;
    input.lowest = p.lowest;
    if (p.move) writeVelocity(p.move, p.parent, time, frame.world);
    p.prepare(p.settings, input, frame.deform, d * PARAMETERS);
  }
}

/** The way a member goes around a moment, turned into the world. Its carriers are taken as standing. */
function writeVelocity(move: readonly Reader[], parent: number, time: number, world: Float64Array): void {
  for (let i = 0; i < 3; i++) local[i] = move[i].at(time + 0.5) - move[i].at(time - 0.5);
  const w = parent * 16;
  for (let r = 0; r < 3; r++) {
    input.velocity[r] =
      parent < 0 ? local[r] : world[w + r] * local[0] + world[w + 4 + r] * local[1] + world[w + 8 + r] * local[2];
  }
}

export type { PlacedDeformer };
