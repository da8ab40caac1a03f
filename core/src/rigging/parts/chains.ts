import { plus, times, type Vector } from '../../pose/vectors.ts';
import type { RigPart } from '../../rig/plan.ts';
import { type Dressing, dial, sideOf } from '../dressing.ts';

/** A tail: one control bends it from its root, another the tip. */
export function addTail(make: Dressing, part: Extract<RigPart, { kind: 'tail' }>): void {
  const [root] = part.joints;
  const at = make.joint(root).place;
  const side = sideOf(at);
  const { parent } = make.joint(root);
  const stem = make.has('tail') ? make.joint(root).id : 'tail';
  const half = part.joints.length === 1 ? 1 : Math.max(1, Math.floor(part.joints.length / 2));
  const groups = [part.joints.slice(0, half), part.joints.slice(half)].filter((g) => g.length > 0);
  const controls = groups.map((joints, g) => {
    const before = g === 0 ? parent : groups[0][groups[0].length - 1];
    const control = make.control(stem === 'tail' ? sideOf([0, 0, 0]) : side, {
      id: g === 0 ? stem : `${stem}Tip`,
      name: g === 0 ? (stem === 'tail' ? 'tail' : make.joint(root).name) : 'tail tip',
      form: 'fan',
      reach: make.figure.girth(joints[0]) * 1.4,
      faces: 'x',
      place: [...make.joint(joints[0]).place],
      in: before === null ? null : { is: 'joint', id: before },
      turn: 'xyz',
    });
    for (const joint of joints) make.by.set(joint, { kind: 'share', control, share: 1 / joints.length });
    return control;
  });
  make.sets.push({ id: stem, name: stem === 'tail' ? 'tail' : make.joint(root).name, side: side.side, controls });
}

/** Something to look at, before the face, for eyes and head. */
export function addLook(make: Dressing, part: Extract<RigPart, { kind: 'look' }>): void {
  const places = part.joints.map((id) => make.joint(id).place);
  const middle = times(
    places.reduce((sum, p) => plus(sum, p), [0, 0, 0] as Vector),
    1 / places.length,
  );
  const look = make.control(sideOf([0, 0, 0]), {
    id: 'look',
    name: 'look at',
    form: 'cross',
    reach: 0.04 * make.height,
    faces: 'z',
    place: [0, middle[1], middle[2] + Math.max(0.6 * make.height, 0.3)],
    in: make.has('body') ? { is: 'control', id: 'body' } : null,
    move: 'xyz',
    dials: [dial('eyes', 'eyes', { initial: 1 })],
  });
  make.leave(part.joints);
  for (const joint of part.joints) make.looks.push({ joint, at: look, share: `${look}.eyes` });
}

/** Joints that dials turn: one control before them has all dials. */
export function addDials(make: Dressing, parts: readonly Extract<RigPart, { kind: 'dial' }>[]): void {
  if (parts.length === 0) return;
  const [first] = parts;
  const { place, parent } = make.joint(first.joints[0]);
  const before = plus(place, [0, 0, 0.18 * make.height]);
  const dials = parts.map((part, d) => dial(`d${d + 1}`, part.label));
  const control = make.control(sideOf([0, 0, 0]), {
    id: 'face',
    name: 'face',
    form: 'pin',
    reach: 0.03 * make.height,
    faces: 'z',
    place: [0, before[1], before[2]],
    in: parent === null ? null : { is: 'joint', id: parent },
    dials,
  });
  parts.forEach((part, d) => {
    const turn = (['x', 'y', 'z'] as const).map((axis) =>
      axis === part.axis
        ? { text: `amount * ${part.degrees}`, inputs: [{ name: 'amount', path: `${control}.d${d + 1}` }] }
        : null,
    );
    make.by.set(part.joints[0], {
      kind: 'dials',
      turn: turn as [(typeof turn)[0], (typeof turn)[0], (typeof turn)[0]],
      move: [null, null, null],
      size: [null, null, null],
    });
  });
  make.sets.push({ id: 'face', name: 'face', side: 'centre', controls: [control] });
}
