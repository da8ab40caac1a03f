import type { RigDraft } from '../rig/definition.ts';
import { parseRig } from '../rig/problems.ts';
import { Rigs } from '../rig/rigs.ts';

/**
 * The smallest rig with one of everything: two legs with feet that roll, a spine, a head that looks and nods by formula, toes, shares and
 * a shape target. Its second version has lost the nod and gained a tail.
 */
type Place = [number, number, number];
type Control = RigDraft['controls'][number];
type Dial = NonNullable<Control['dials']>[number];

const dial = (id: string, max: number, more: Partial<Dial> = {}): Dial => ({ id, label: id, min: 0, max, ...more });
const roll = (id: string): Dial => dial(id, 2, { min: -2, unit: '°' });
const whole = { move: 'xyz', turn: 'xyz', form: 'ring', reach: 0.1 } as const;
const out = { L: 1, R: -1 } as const;

function leg(mark: 'L' | 'R') {
  const x = 0.1 * out[mark];
  const side = mark === 'L' ? ('left' as const) : ('right' as const);
  const other = mark === 'L' ? 'R' : 'L';
  const places: Record<'thigh' | 'shin' | 'foot', Place> = {
    thigh: [x, 1, 0],
    shin: [x, 0.52, 0.04],
    foot: [x, 0.08, 0],
  };
  const toes: Place = [x, 0.02, 0.12];
  const own = (id: string) => `${id}${mark}`;
  const control = (id: string, place: Place, more: Partial<Control>): Control => ({
    ...whole,
    id: own(id),
    name: `${id} ${side}`,
    side,
    partner: `${id}${other}`,
    place,
    ...more,
  });
  const dials = [
    dial('reach', 1, { initial: 1, everyday: false }),
    dial('soft', 0.3),
    dial('stretch', 1),
    ...['heel', 'ball', 'toe', 'bank'].map(roll),
  ];
  return {
    joints: [
      { id: own('thigh'), parent: 'hips', place: places.thigh },
      { id: own('shin'), parent: own('thigh'), place: places.shin },
      { id: own('foot'), parent: own('shin'), place: places.foot },
      { id: own('toes'), parent: own('foot'), place: toes, by: { kind: 'foot' as const, foot: own('foot') } },
    ],
    controls: [
      control('step', places.foot, { dials, stands: [own('foot')] }),
      control('knee', [x, 0.5, 0.6], { in: { is: 'along', id: own('leg') }, turn: '' }),
      control('thighTurn', places.thigh, { in: { is: 'joint', id: 'hips' }, move: '' }),
      control('shinTurn', places.shin, { in: { is: 'control', id: own('thighTurn') }, move: '' }),
      control('footTurn', places.foot, { in: { is: 'control', id: own('shinTurn') }, move: '' }),
    ],
    limb: {
      id: own('leg'),
      name: `${side} leg`,
      upper: own('thigh'),
      lower: own('shin'),
      end: own('foot'),
      target: { is: 'foot' as const, id: own('foot') },
      pole: own('knee'),
      joints: [own('thighTurn'), own('shinTurn'), own('footTurn')] as [string, string, string],
      dials: own('step'),
      along: [0, -1, 0] as Place,
      follows: 0.5,
    },
    foot: {
      id: own('foot'),
      control: own('step'),
      heel: [x, 0, -0.05] as Place,
      ball: toes,
      toe: [x, 0, 0.2] as Place,
      inner: [x - 0.04 * out[mark], 0, 0.1] as Place,
      outer: [x + 0.04 * out[mark], 0, 0.1] as Place,
    },
  };
}

function walker(version: 1 | 2) {
  const legs = [leg('L'), leg('R')];
  const centre = { ...whole, side: 'centre' as const };
  const nods = version === 1;
  const tail = { kind: 'share' as const, control: 'tail', share: 0.5 };
  const drafted: RigDraft = {
    id: 'walker',
    version,
    name: 'Walker',
    changes: nods ? 'The first.' : 'A tail, and no nod.',
    joints: [
      { id: 'hips', parent: null, place: [0, 1, 0], by: { kind: 'control', control: 'hips' } },
      { id: 'back', parent: 'hips', place: [0, 1.05, 0] },
      { id: 'waist', parent: 'back', place: [0, 1.25, 0.02] },
      { id: 'chest', parent: 'waist', place: [0, 1.45, 0] },
      {
        id: 'head',
        parent: 'chest',
        place: [0, 1.6, 0],
        ...(nods && {
          by: {
            kind: 'dials' as const,
            turn: [{ text: '20 * n', inputs: [{ name: 'n', path: 'chest.nod' }] }, null, null],
          },
        }),
      },
      ...(nods ? [] : [{ id: 'tail', parent: 'hips', place: [0, 1, -0.2] as Place, by: tail }]),
      ...legs.flatMap((l) => l.joints),
    ],
    controls: [
      { ...centre, id: 'hips', name: 'hips', place: [0, 1, 0], size: 'xyz', rotation: 'orientation' },
      {
        ...centre,
        id: 'chest',
        name: 'chest',
        place: [0, 1.45, 0],
        in: { is: 'control', id: 'hips' },
        dials: [dial('look', 1), ...(nods ? [dial('nod', 1)] : [])],
      },
      { ...centre, id: 'eyes', name: 'eyes', place: [0, 1.6, 1], turn: '' },
      ...(nods ? [] : [{ ...centre, id: 'tail', name: 'tail', place: [0, 1, -0.2] as Place, move: '' }]),
      ...legs.flatMap((l) => l.controls),
    ],
    limbs: legs.map((l) => l.limb),
    feet: legs.map((l) => l.foot),
    spines: [
      {
        id: 'spine',
        joints: ['back', 'waist', 'chest'],
        from: { is: 'control', id: 'hips' },
        to: { is: 'control', id: 'chest' },
      },
    ],
    looks: [{ joint: 'head', at: 'eyes', share: 'chest.look' }],
    meshes: [
      {
        id: 'body',
        colour: '#808080',
        finish: 'tin',
        positions: [-1000, 9000, -500, 1000, 9000, -500, 0, 15000, 0, 0, 9000, 800],
        triangles: [0, 1, 2, 1, 3, 2, 3, 0, 2, 0, 3, 1],
        skin: { kind: 'rigid', joint: 'chest' },
      },
    ],
    sets: [{ id: 'body', name: 'body', side: 'centre', controls: ['hips', 'chest'] }],
  };
  const parsed = parseRig(drafted);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.value;
}

/** Both versions of the walker. */
export const walkerRigs = Rigs.of([walker(1), walker(2)]);
