import { compose } from '../pose/affine.ts';
import type { Channel } from '../schema/channel.ts';
import type { Rig, RigControl } from './definition.ts';

/** A rig with its parts looked up by name and its rest worked out. */
export interface CompiledRig {
  readonly rig: Rig;
  readonly jointAt: ReadonlyMap<string, number>;
  readonly controlAt: ReadonlyMap<string, number>;
  /** The joints' matrices at rest in the rig's space, 16 numbers each. */
  readonly rests: Float64Array;
  /** The box round the body at rest, in the rig's space, metres. */
  readonly bounds: readonly [number, number, number, number, number, number];
  readonly dials: ReadonlyMap<string, readonly Channel[]>;
}

const compiled = new WeakMap<Rig, CompiledRig>();

/** A rig made ready; done once for each version. */
export function compileRig(rig: Rig): CompiledRig {
  const known = compiled.get(rig);
  if (known) return known;
  const rests = new Float64Array(rig.joints.length * 16);
  rig.joints.forEach((joint, j) => {
    const [x, y, z] = joint.place;
    const length = Math.hypot(...joint.turn);
    compose(
      rests,
      j * 16,
      Float64Array.from(joint.turn, (v) => v / length),
      0,
      1,
      x,
      y,
      z,
    );
  });
  const made: CompiledRig = {
    rig,
    jointAt: new Map(rig.joints.map((joint, j) => [joint.id, j])),
    controlAt: new Map(rig.controls.map((control, c) => [control.id, c])),
    rests,
    bounds: boundsAtRest(rig),
    dials: new Map(rig.controls.map((control) => [control.id, dialChannels(control)])),
  };
  compiled.set(rig, made);
  return made;
}

const dialChannels = (control: RigControl): Channel[] =>
  control.dials.map(({ id, label, unit, min, max, initial, everyday }) => ({
    id,
    group: label,
    label: '',
    unit,
    initial,
    min,
    max,
    everyday,
  }));

function boundsAtRest(rig: Rig): CompiledRig['bounds'] {
  const box: [number, number, number, number, number, number] = [0, 0, 0, 0, 0, 0];
  for (const { positions } of rig.meshes) {
    for (let i = 0; i < positions.length; i++) {
      const c = i % 3;
      box[c] = Math.min(box[c], positions[i] / 1e4);
      box[c + 3] = Math.max(box[c + 3], positions[i] / 1e4);
    }
  }
  return box;
}

/** Whether a control leaves a standard channel free: `move.x`, `turn.y`… */
export function isOpen(control: RigControl, channel: string): boolean {
  const dot = channel.indexOf('.');
  if (channel === 'orientation') return control.rotation === 'orientation' || control.turn === 'xyz';
  if (dot < 0) return channel === 'visible';
  const group = channel.slice(0, dot);
  const axis = channel.slice(dot + 1);
  return (group === 'move' || group === 'turn' || group === 'size') && control[group].includes(axis);
}
