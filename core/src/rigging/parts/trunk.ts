import { between, type Vector } from '../../pose/vectors.ts';
import type { RigPart } from '../../rig/plan.ts';
import { type Dressing, sideOf } from '../dressing.ts';

const centre = sideOf([0, 0, 0]);

/** A spine takes so many joints at least; with fewer each is turned by itself. */
const SPINE = 3;

/** Body, hips and chest, with a spine between them. */
export function addTrunk(make: Dressing, part: Extract<RigPart, { kind: 'trunk' }>): void {
  const [hips] = part.joints;
  const chest = part.joints[part.joints.length - 1];
  const [low, high] = [make.joint(hips).place, make.joint(chest).place];
  const lies = Math.abs(high[2] - low[2]) > Math.abs(high[1] - low[1]);
  const faces = lies ? 'z' : 'y';
  const girth = Math.max(make.figure.girth(hips), make.figure.girth(chest));
  const place: Vector = lies ? between(low, high, 0.5) : low;
  const body = make.control(centre, {
    id: 'body',
    name: 'body',
    form: 'square',
    reach: girth * 1.5,
    place: [...place],
    move: 'xyz',
    turn: 'xyz',
  });
  const end = (id: string, joint: string, carrier: string | null) =>
    make.control(centre, {
      id,
      name: id,
      form: 'ring',
      reach: make.figure.girth(joint) * 1.2,
      faces,
      place: [...make.joint(joint).place],
      in: carrier === null ? { is: 'control', id: body } : { is: 'joint', id: carrier },
      move: 'xyz',
      turn: 'xyz',
    });
  const controls = [body, end('hips', hips, null)];
  if (part.joints.length >= SPINE) {
    controls.push(end('chest', chest, null));
    make.spines.push({
      id: 'spine',
      joints: [...part.joints],
      from: { is: 'control', id: 'hips' },
      to: { is: 'control', id: 'chest' },
    });
    make.leave(part.joints);
  } else {
    make.by.set(hips, { kind: 'control', control: 'hips' });
    if (chest !== hips) {
      controls.push(end('chest', chest, hips));
      make.by.set(chest, { kind: 'control', control: 'chest' });
    }
  }
  // What the hips hang on goes with the whole body.
  for (let up = make.joint(hips).parent; up !== null; up = make.joint(up).parent)
    make.by.set(up, { kind: 'control', control: body });
  make.sets.push({ id: 'body', name: 'body', side: 'centre', controls });
}

/** Neck and head: the head keeps its heading while the neck bends between the two. */
export function addHead(make: Dressing, part: Extract<RigPart, { kind: 'head' }>): void {
  const head = part.joints[part.joints.length - 1];
  const carrier = make.joint(part.joints[0]).parent;
  const girth = make.figure.girth(head);
  const more = { id: 'head', name: 'head', form: 'ring', reach: girth * 1.15 } as const;
  if (part.joints.length >= SPINE && carrier !== null) {
    make.control(centre, {
      ...more,
      place: [...make.joint(head).place],
      in: { is: 'joint', id: carrier },
      move: 'xyz',
      turn: 'xyz',
    });
    make.spines.push({
      id: 'neck',
      joints: [...part.joints],
      from: { is: 'joint', id: carrier },
      to: { is: 'control', id: 'head' },
    });
    make.leave(part.joints);
    addToBody(make, ['head']);
    return;
  }
  const own = part.joints.map((joint) => make.own(joint, joint === head ? more : { turn: 'xyz' }));
  if (make.by.get(head)?.kind === 'control') make.by.set(head, { kind: 'control', control: 'head' });
  addToBody(make, own);
}

function addToBody(make: Dressing, controls: readonly string[]): void {
  const set = make.sets.find((s) => s.id === 'body');
  if (set) set.controls = [...set.controls, ...controls];
}
