import { anatomyOf } from '../gait/anatomy.ts';
import { minus, type Vector } from '../pose/vectors.ts';
import { type CompiledRig, compileRig } from '../rig/compiled.ts';
import type { Rig } from '../rig/definition.ts';
import type { PoseValues } from '../rig/pose-book.ts';

/** A pose to try a rig in. */
export interface Stretch {
  readonly name: string;
  readonly values: PoseValues;
}

const DEGREES = Math.PI / 180;

/**
 * A few poses that show what a rig and its weights are worth: as far as it may come, for whatever it has. Each is of the whole rig; the first
 * is its rest.
 */
export function stretches(rig: Rig): Stretch[] {
  const compiled = compileRig(rig);
  const has = (id: string) => compiled.controlAt.has(id);
  const out: Stretch[] = [{ name: 'at rest', values: {} }];
  const anatomy = anatomyOf(compiled);
  const low = typeof anatomy === 'string' ? 0 : anatomy.legLength;
  if (has('body') && low > 0) {
    out.push({ name: 'crouch', values: { 'body.move.y': -0.32 * low } });
    out.push({ name: 'lean', values: { 'body.move.x': 0.16 * low, 'body.turn.z': -8 * DEGREES } });
  }
  if (typeof anatomy !== 'string') {
    const [leg] = anatomy.legs;
    const step = {
      [`${leg.control}.move.y`]: 0.35 * low,
      [`${leg.control}.move.z`]: 0.35 * low,
      [`${leg.control}.ball`]: 25 * DEGREES,
    };
    out.push({ name: 'one foot up', values: step });
  }
  if (has('chest')) out.push({ name: 'twist', values: { 'chest.turn.y': 45 * DEGREES, 'hips.turn.y': -20 * DEGREES } });
  if (has('chest'))
    out.push({ name: 'bow', values: { 'chest.turn.x': 40 * DEGREES, 'head.turn.x': has('head') ? 30 * DEGREES : 0 } });
  const hands = rig.limbs.filter((l) => l.target.is === 'control');
  if (hands.length > 0) {
    const up = hands.map(({ joints: [upper], dials }) => {
      const out = (compiled.rig.controls[compiled.controlAt.get(dials)!].place[0] >= 0 ? 1 : -1) * 80 * DEGREES;
      return { [`${dials}.reach`]: 0, [`${upper}.turn.z`]: out };
    });
    out.push({ name: 'arms up', values: Object.assign({}, ...up) });
    const bent = hands.map(({ lower: elbow, end, joints: [, lower], dials }) => {
      // Forwards: about y where the forearm lies sideways, about x where it hangs.
      const way = minus(placeOf(compiled, end), placeOf(compiled, elbow));
      const turn =
        Math.abs(way[0]) > Math.abs(way[1])
          ? { [`${lower}.turn.y`]: -90 * DEGREES * Math.sign(way[0]) }
          : { [`${lower}.turn.x`]: -90 * DEGREES };
      return { [`${dials}.reach`]: 0, ...turn };
    });
    out.push({ name: 'elbows bent', values: Object.assign({}, ...bent) });
  }
  if (has('tail'))
    out.push({
      name: 'tail',
      values: { 'tail.turn.y': 50 * DEGREES, ...(has('tailTip') ? { 'tailTip.turn.x': 40 * DEGREES } : {}) },
    });
  // A plain chain of joints is curled: every joint that turns about x, by a little.
  const plain = rig.joints.flatMap((j) => (j.by?.kind === 'control' && j.parent !== null ? [j.by.control] : []));
  const turns = plain.filter((id) => compiled.rig.controls[compiled.controlAt.get(id)!].turn.includes('x'));
  if (turns.length > 0)
    out.push({
      name: 'joints bent',
      values: Object.fromEntries(turns.slice(0, 200).map((id) => [`${id}.turn.x`, 25 * DEGREES])),
    });
  return out.map(({ name, values }) => ({ name, values: openOnly(rig, values) }));
}

const placeOf = ({ jointAt, rests }: CompiledRig, joint: string): Vector => {
  const at = jointAt.get(joint)! * 16 + 12;
  return [rests[at], rests[at + 1], rests[at + 2]];
};

/** Channels that the rig has: a locked one says nothing. */
function openOnly(rig: Rig, values: PoseValues): PoseValues {
  const controls = new Map(rig.controls.map((c) => [c.id, c]));
  return Object.fromEntries(
    Object.entries(values).filter(([path]) => {
      const [id, group, axis] = path.split('.');
      const control = controls.get(id);
      if (!control) return false;
      if (axis === undefined) return control.dials.some((d) => d.id === group);
      if (group === 'turn' && control.rotation === 'orientation') return false;
      return (group === 'move' || group === 'turn' || group === 'size') && control[group].includes(axis);
    }),
  );
}
