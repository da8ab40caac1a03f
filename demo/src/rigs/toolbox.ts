import type { Rig } from '@varrup/core';
import { add, egg, hoop, together, turned, type Vector } from './make/forms.ts';
import { type BodySide, bothSides, driven, on, RigMaker } from './make/maker.ts';
import { addLimb, angleDial, limbDials, paints, sided } from './make/parts.ts';

const hinge: Vector = [0, 0.31, -0.125];
const chain = [0, 1, 2, 3, 4].map((i): Vector => [0, 0.235 - 0.008 * i, -0.15 - 0.042 * i]);

/** The toolbox: a tin chest on four stubby legs, with a lid that bites and a key on a chain that wags. */
export function toolbox(): Rig {
  const maker = new RigMaker();
  maker.joint('body', null, [0, 0.2, 0], { kind: 'control', control: 'body' });
  maker.joint('lid', 'body', hinge, {
    kind: 'dials',
    turn: [driven('-open', { open: 'lid.open' }), null, driven('askew', { askew: 'lid.askew' })],
  });
  maker.control({
    id: 'body',
    name: 'body',
    side: 'centre',
    form: 'square',
    reach: 0.3,
    move: 'xyz',
    turn: 'xyz',
    size: 'xyz',
  });
  maker.control({
    id: 'lid',
    name: 'lid',
    side: 'centre',
    form: 'pin',
    reach: 0.06,
    faces: 'z',
    place: [0, 0.36, 0.2],
    in: { is: 'joint', id: 'lid' },
    dials: [angleDial('open', 'open', -4, 115), angleDial('askew', 'askew', -20, 20, { mirror: -1 })],
  });
  for (const [end, z] of [
    ['fore', 0.1],
    ['hind', -0.09],
  ] as const)
    for (const side of bothSides) leg(maker, end, z, side);
  wag(maker);
  chest(maker);
  maker.sets.push(
    { id: 'body', name: 'body, lid', side: 'centre', controls: ['body', 'lid'] },
    { id: 'key', name: 'key', side: 'centre', controls: ['chain', 'chainTip'] },
    ...(['fore', 'hind'] as const).map((end) => ({
      id: `${end}Legs`,
      name: `${end} legs`,
      side: 'centre' as const,
      controls: bothSides.flatMap(({ mark: m }) => [
        `${end}Foot${m}`,
        `${end}Knee${m}`,
        ...['Upper', 'Lower', 'Foot'].map((j) => `${end}${j}Joint${m}`),
      ]),
    })),
  );
  return maker.make({ id: 'toolbox', version: 1, name: 'Toolbox', changes: 'The first toolbox.' });
}

function leg(maker: RigMaker, end: 'fore' | 'hind', z: number, side: BodySide): void {
  const m = side.mark;
  const places = [
    [0.17, 0.14, z],
    [0.182, 0.082, z + 0.036],
    [0.18, 0.026, z],
  ].map((p) => on(side, p as unknown as Vector)) as [Vector, Vector, Vector];
  const names = ['Upper', 'Lower', 'Foot'].map((n) => `${end}${n}`) as [string, string, string];
  for (const [i, name] of names.entries())
    maker.joint(`${name}${m}`, i === 0 ? 'body' : `${names[i - 1]}${m}`, places[i]);
  maker.control({
    id: `${end}Foot${m}`,
    name: sided(`${end} foot`, side),
    side: side.side,
    partner: `${end}Foot${side.other}`,
    form: 'ring',
    reach: 0.065,
    off: [0, -0.026, 0.01],
    move: 'xyz',
    turn: 'xyz',
    dials: limbDials,
    stands: [`${end}Foot${m}`],
  });
  addLimb(maker, {
    side,
    id: end,
    name: `${end} leg`,
    joints: names,
    words: [`${end} thigh`, `${end} shin`, `${end} ankle`],
    hand: [`${end}Foot`, `${end} foot`],
    pole: [`${end}Knee`, `${end} knee`],
    away: 0.14,
    along: [0, -1, 0],
    follows: 0.5,
    carrier: 'body',
    size: 0.05,
  });
  maker.solid(
    `${end}Upper${m}`,
    `${end}Upper${m}`,
    paints.iron,
    turned(
      places[0],
      places[1],
      [
        [0, 0.03],
        [1, 0.026],
      ],
      14,
    ),
  );
  maker.solid(
    `${end}Lower${m}`,
    `${end}Lower${m}`,
    paints.iron,
    turned(
      places[1],
      places[2],
      [
        [0, 0.026],
        [0.8, 0.024],
      ],
      14,
    ),
  );
  maker.solid(
    `${end}Foot${m}`,
    `${end}Foot${m}`,
    paints.brass,
    egg(add(places[2], [0, -0.006, 0.012]), [0.036, 0.02, 0.046], 2.4, 18),
  );
}

function wag(maker: RigMaker): void {
  const names = ['link1', 'link2', 'link3', 'link4'];
  for (const [i, name] of names.entries()) {
    maker.joint(name, i === 0 ? 'body' : names[i - 1], chain[i], {
      kind: 'share',
      control: i < 2 ? 'chain' : 'chainTip',
      share: 0.5,
    });
  }
  const both = { side: 'centre', form: 'fan', reach: 0.05, faces: 'y', turn: 'xyz' } as const;
  maker.control({
    ...both,
    id: 'chain',
    name: 'chain',
    place: chain[0],
    off: [0, 0.05, -0.03],
    in: { is: 'joint', id: 'body' },
  });
  maker.control({
    ...both,
    id: 'chainTip',
    name: 'key',
    place: chain[2],
    off: [0, 0.05, -0.03],
    in: { is: 'joint', id: 'link2' },
  });
  for (const [i, name] of names.entries()) {
    const middle = add(chain[i], [0, -0.004, -0.021]);
    const link = hoop(middle, i % 2 === 0 ? [1, 0, 0] : [0, 1, 0], 0.02, 0.0065, 16);
    if (i < 3) maker.solid(name, name, paints.tin, link);
  }
  const key = chain[3];
  maker.solid(
    'key',
    'link4',
    paints.brass,
    together(
      hoop(add(key, [0, -0.006, -0.05]), [1, 0, 0], 0.036, 0.0105, 22),
      turned(
        add(key, [0, -0.014, -0.085]),
        add(key, [0, -0.036, -0.19]),
        [
          [0, 0.011],
          [1, 0.01],
        ],
        12,
      ),
      egg(add(key, [0, -0.055, -0.178]), [0.009, 0.026, 0.015], 4, 12),
      egg(add(key, [0, -0.047, -0.146]), [0.009, 0.02, 0.011], 4, 12),
    ),
  );
}

function chest(maker: RigMaker): void {
  const tin = { colour: '#3f6f78', finish: 'tin' } as const;
  maker.solid('tray', 'body', tin, egg([0, 0.215, 0], [0.245, 0.094, 0.135], 7, 40));
  maker.solid('inside', 'body', paints.ink, egg([0, 0.298, 0.002], [0.222, 0.013, 0.117], 6, 28));
  maker.solid('tongue', 'body', paints.red, egg([0, 0.306, 0.05], [0.086, 0.012, 0.066], 2.4, 22));
  maker.solid('palate', 'lid', paints.red, egg([0, 0.314, 0.004], [0.218, 0.014, 0.114], 6, 28));
  // What the lid hangs on: barrels along its back, so that it is seen to be held however far it opens.
  maker.solid(
    'hinges',
    'body',
    paints.brass,
    together(
      ...[-0.16, 0.16].map((x) =>
        turned(
          [x - 0.045, hinge[1], hinge[2] - 0.016],
          [x + 0.045, hinge[1], hinge[2] - 0.016],
          [
            [0, 0.02],
            [1, 0.02],
          ],
          14,
        ),
      ),
    ),
  );
  maker.solid(
    'band',
    'body',
    paints.brass,
    together(...[-0.16, 0.16].map((x) => egg([x, 0.213, 0], [0.015, 0.097, 0.1385], 9, 28))),
  );
  maker.solid('lid', 'lid', tin, egg([0, 0.348, 0.001], [0.249, 0.042, 0.139], 5, 40));
  maker.solid(
    'lidBand',
    'lid',
    paints.brass,
    together(...[-0.16, 0.16].map((x) => egg([x, 0.35, 0.001], [0.015, 0.0445, 0.1425], 6, 28))),
  );
  const tooth = (x: number, y: number, up: 1 | -1) =>
    turned(
      [x, y, 0.126],
      [x, y + 0.024 * up, 0.13],
      [
        [0, 0.0135],
        [0.6, 0.008],
        [1, 0.002],
      ],
      10,
    );
  maker.solid(
    'teeth',
    'body',
    paints.white,
    together(...[-0.2, -0.12, -0.04, 0.04, 0.12, 0.2].map((x) => tooth(x, 0.298, 1))),
  );
  maker.solid(
    'fangs',
    'lid',
    paints.white,
    together(...[-0.165, -0.085, 0, 0.085, 0.165].map((x) => tooth(x, 0.318, -1))),
  );
  maker.solid(
    'eyes',
    'lid',
    paints.brass,
    together(...[-0.09, 0.09].map((x) => egg([x, 0.372, 0.118], [0.03, 0.03, 0.022], 2, 20))),
  );
  maker.solid(
    'pupils',
    'lid',
    paints.ink,
    together(...[-0.084, 0.084].map((x) => egg([x, 0.372, 0.137], [0.012, 0.015, 0.008], 2, 14))),
  );
  maker.solid('handle', 'lid', paints.dark, hoop([0, 0.392, 0], [0, 0, 1], 0.062, 0.011, 26, 3));
  maker.solid('lock', 'body', paints.brass, egg([0, 0.24, 0.136], [0.034, 0.036, 0.012], 3, 16));
  maker.solid('hole', 'body', paints.ink, egg([0, 0.238, 0.148], [0.008, 0.014, 0.004], 2, 10));
}
