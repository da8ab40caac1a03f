import type { ControlMember } from '../document/casting.ts';
import { type Angles, anglesToQuaternion } from '../pose/angles.ts';
import { quaternionAbout, quaternionTurn } from '../pose/quaternion.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import type { Quaternion } from '../schema/numbers.ts';

/**
 * Where a foot touches the ground while its control turns it and its dials roll it. A foot turned up at the toe stands on its heel, one
 * turned down on its toe: the control must go up and on by as much, for what touches to stay where it is.
 */

/** What of a foot's control says how it stands. */
export const soleChannels = ['turn.x', 'turn.y', 'turn.z', 'heel', 'toe', 'bank'] as const;
export type SoleChannel = (typeof soleChannels)[number];

/** Points of a foot higher than this at rest are no part of its sole, metres. */
const SOLE = 0.01;

type Point = readonly [number, number, number];
type Vector = [x: number, y: number, z: number];

/** The sole of a foot, seen from its control. */
export interface Sole {
  /**
   * How far what touches the ground is from where it would be if the foot stood flat, turned as much about the upright axis. All zero
   * for a foot that only rolls by its dials: those turn it about what touches.
   * @param of what a channel is, radians
   */
  shift(of: (channel: SoleChannel) => number): Vector;
}

/** The sole of the foot that a control moves; null where it moves none, or is turned by one orientation. */
export function soleOf(compiled: CompiledRig, member: ControlMember): Sole | null {
  const { rig, controlAt } = compiled;
  const { control } = member.shape;
  const foot = rig.feet.find((f) => f.control === control);
  const at = controlAt.get(control);
  if (!foot || at === undefined || member.rotation !== 'angles') return null;
  const { place } = rig.controls[at];
  const { order } = member;
  const touching = [foot.heel, foot.toe, foot.ball, foot.inner, foot.outer].filter((p) => p[1] < SOLE);
  const outwards = foot.outer[0] >= foot.inner[0] ? -1 : 1;
  return {
    shift(of) {
      const turn: Angles = [of('turn.x'), of('turn.y'), of('turn.z')];
      const [heel, toe, bank] = [of('heel'), of('toe'), of('bank')];
      const whole = anglesToQuaternion(turn, order);
      const upright = anglesToQuaternion([0, turn[1], 0], order);
      let lowest: Vector | null = null;
      let shift: Vector = [0, 0, 0];
      for (const point of touching) {
        let rolled: Point = point;
        if (toe !== 0) rolled = turnedAbout(rolled, quaternionAbout([1, 0, 0], toe), foot.toe);
        if (heel !== 0) rolled = turnedAbout(rolled, quaternionAbout([1, 0, 0], -heel), foot.heel);
        if (bank !== 0)
          rolled = turnedAbout(rolled, quaternionAbout([0, 0, 1], outwards * bank), bank > 0 ? foot.outer : foot.inner);
        const now = quaternionTurn(whole, minus(rolled, place));
        if (lowest && now[1] >= lowest[1]) continue;
        lowest = now;
        shift = minus(now, quaternionTurn(upright, minus(point, place)));
      }
      return shift;
    },
  };
}

const minus = (a: Point, b: Point): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

function turnedAbout(point: Point, by: Quaternion, through: Point): Vector {
  const [x, y, z] = quaternionTurn(by, minus(point, through));
  return [x + through[0], y + through[1], z + through[2]];
}
