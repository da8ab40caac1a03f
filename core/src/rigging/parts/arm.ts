import { direction, minus, times } from '../../pose/vectors.ts';
import type { RigPart } from '../../rig/plan.ts';
import { type Dressing, limbDials, sideOf } from '../dressing.ts';
import { addLimb } from './limb.ts';

/** An arm or a wing: its hand is reached with, in the space of the chest. */
export function addArm(make: Dressing, part: Extract<RigPart, { kind: 'arm' }>): void {
  const [upper, lower, end] = part.joints;
  const at = make.joint(end).place;
  const side = sideOf(at);
  const word = (text: string) => (part.which === '' ? text : `${part.which} ${text}`);
  const id = (text: string) => word(text).replace(/ (.)/g, (_, letter: string) => letter.toUpperCase());
  const name = part.which === '' ? 'arm' : `${part.which} arm`;
  const full = side.mark === '' ? name : `${name} ${side.mark}`;
  const onwards = direction(minus(at, make.joint(lower).place), [side.out, 0, 0]);
  const girth = make.figure.girth(end);
  const carrier = carrierOf(make, upper);
  const control = make.control(side, {
    id: id('hand'),
    name: word('hand'),
    form: 'halo',
    reach: girth,
    off: [...times(onwards, girth * 0.7)],
    place: [...at],
    in: carrier === null ? null : { is: 'joint', id: carrier },
    move: 'xyz',
    turn: 'xyz',
    dials: [...limbDials],
    stands: [end],
    holds: end,
  });
  const own = addLimb(make, {
    side,
    id: `${id('arm')}${side.mark}`,
    name: full,
    joints: [upper, lower, end],
    bend: word('elbow'),
    bends: [0, 0, -1],
    along: direction([0.55 * side.out, -0.75, 0.35], [0, -1, 0]),
    follows: 0,
    dials: control,
    target: { is: 'control', id: control },
  });
  make.sets.push({ id: `${id('arm')}${side.mark}`, name: full, side: side.side, controls: [control, ...own] });
}

/** What carries a hand: the joint in the middle that its arm hangs on, over a shoulder or straight. */
function carrierOf(make: Dressing, upper: string): string | null {
  let id = make.joint(upper).parent;
  while (id !== null && sideOf(make.joint(id).place).side !== 'centre') id = make.joint(id).parent;
  return id;
}
