import type { NumberCurve } from '../../curve/key.ts';
import { channelPath } from '../../document/channels.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { channelValue } from '../../evaluate/channel-value.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../../pose/angles.ts';
import type { RotationOrder } from '../../pose/rotation-order.ts';
import { defineCommand } from '../edit.ts';

/** Flips: angles that jump by nearly a whole turn between two keys, though the pose hardly changes. */

const TURN = ['turn.x', 'turn.y', 'turn.z'] as const;
const DEGREE = Math.PI / 180;

/** Angles that change by more than this all together, though they could say the same with less than `ENOUGH`, flip. */
const JUMP = 315 * DEGREE;
const ENOUGH = 120 * DEGREE;
/** One angle that goes round further than this spins: nobody flips by a turn and a half. */
const SPIN = 540 * DEGREE;

export interface Flip {
  readonly member: string;
  /** The keys it lies between. */
  readonly from: number;
  readonly to: number;
  /** The largest change of one angle, in radians. */
  readonly jump: number;
}

interface TurnKeys {
  readonly frames: readonly number[];
  readonly triples: readonly Angles[];
}

/** A member's turn keyed as three angles on the same frames; null where it is not. */
function turnKeys(shot: Shot, id: string): TurnKeys | null {
  const member = shot.members.get(id);
  if (member?.rotation !== 'angles') return null;
  const curves = TURN.map((c) => shot.curves.get(channelPath(id, c)) as NumberCurve | undefined);
  const animated = curves.filter((c) => c !== undefined);
  const frames = animated[0]?.keys.map((k) => k.frame) ?? [];
  const together = animated.every(
    (c) => c.keys.length === frames.length && c.keys.every((k, i) => k.frame === frames[i]),
  );
  if (frames.length < 2 || !together) return null;
  const triples = frames.map(
    (frame, i) =>
      curves.map(
        (c, axis) => c?.keys[i].value ?? (channelValue(shot, channelPath(id, TURN[axis]), frame) as number),
      ) as Angles,
  );
  return { frames, triples };
}

const apart = (a: Readonly<Angles>, b: Readonly<Angles>) =>
  Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + Math.abs(a[2] - b[2]);

/** A turn that is alone between two keys and faster than this, in radians a frame, nobody meant. */
const TOO_FAST = 30 * DEGREE;

/**
 * Whether the turn flips on its way to key `i`. A whole number of exact turns is a spin somebody meant, and so is a fast turn
 * among turns as fast: what does not fit the keys around it is a flip.
 */
function flips(order: RotationOrder, { frames, triples }: TurnKeys, i: number): boolean {
  const [from, to] = [triples[i - 1], triples[i]];
  if (apart(from, to) < JUMP || from.some((a, c) => Math.abs(a - to[c]) > SPIN)) return false;
  const nearest = quaternionToAngles(anglesToQuaternion(to, order), order, from);
  const little = apart(nearest, from);
  if (little >= ENOUGH || little <= 0.01 * DEGREE) return false;
  const rate = (a: Angles, b: Angles, gap: number) => a.map((v, c) => (b[c] - v) / gap) as Angles;
  const gap = frames[i] - frames[i - 1];
  const around = [i - 1, i + 1]
    .filter((k) => k > 0 && k < triples.length)
    .map((k) => rate(triples[k - 1], triples[k], frames[k] - frames[k - 1]));
  if (around.length === 0) return apart(from, to) / gap > TOO_FAST;
  const off = (r: Angles) => Math.min(...around.map((a) => apart(a, r)));
  return off(rate(from, nearest, gap)) < off(rate(from, to, gap));
}

/** Every flip of the members' turns. */
export function findFlips(shot: Shot, ids: readonly string[]): Flip[] {
  return ids.flatMap((id) => {
    const turn = turnKeys(shot, id);
    if (!turn) return [];
    const { frames, triples } = turn;
    return triples.slice(1).flatMap((to, i): Flip[] => {
      if (!flips(shot.members.at(id).order, turn, i + 1)) return [];
      const jump = Math.max(...to.map((a, c) => Math.abs(a - triples[i][c])));
      return [{ member: id, from: frames[i], to: frames[i + 1], jump }];
    });
  });
}

/** Takes the flips out of members' turns: from each on, the angles that say the same and are nearest. */
export const unrollTurns = defineCommand<{ ids: readonly string[] }>({
  name: 'member.unroll',
  label: ({ ids }, shot) => `unroll the turn of ${memberWords(shot, ids)}`,
  apply(shot, { ids }) {
    const flipping = new Set(findFlips(shot, ids).map((f) => f.member));
    const curves = shot.curves.edit();
    for (const id of flipping) {
      const straight = unrolled(turnKeys(shot, id)!, shot.members.at(id).order);
      TURN.forEach((c, axis) => {
        const path = channelPath(id, c);
        const curve = curves.get(path);
        // An angle that had no curve may have to move now, where the whole triple is said another way.
        if (curve?.type === 'number') {
          curves.set(path, { ...curve, keys: curve.keys.map((k, i) => ({ ...k, value: straight[i][axis] })) });
        }
      });
    }
    return flipping.size > 0 ? { ...shot, curves: curves.done() } : shot;
  },
});

function unrolled(turn: TurnKeys, order: RotationOrder): Angles[] {
  const { triples } = turn;
  const out: Angles[] = [triples[0]];
  for (let i = 1; i < triples.length; i++) {
    const last = out[i - 1];
    const meant = flips(order, turn, i) ? last : (last.map((a, c) => a + triples[i][c] - triples[i - 1][c]) as Angles);
    out.push(quaternionToAngles(anglesToQuaternion(triples[i], order), order, meant));
  }
  return out;
}
