import type { Rig } from '@varrup/core';
import { add, along, egg, hoop, loft, together, turned, type Vector } from './make/forms.ts';
import { alongChain, bothSides, driven, on, RigMaker } from './make/maker.ts';
import { angleDial, dial, paints } from './make/parts.ts';

/** The harbour's small things, and the stand-ins for crowds and planning. */

/** The moth: it flaps by shape alone. */
export function moth(): Rig {
  const maker = new RigMaker();
  maker.joint('body', null, [0, 0.1, 0], { kind: 'control', control: 'body' });
  maker.control({
    id: 'body',
    name: 'moth',
    side: 'centre',
    form: 'ring',
    reach: 0.07,
    move: 'xyz',
    turn: 'xyz',
    dials: [dial('flap', 'flap', { min: -1 }), dial('fold', 'fold'), angleDial('feelers', 'feelers', -30, 30)],
  });
  maker.joint('feelers', 'body', [0, 0.108, 0.045], {
    kind: 'dials',
    turn: [driven('-up', { up: 'body.feelers' }), null, null],
  });
  maker.solid(
    'trunk',
    'body',
    paints.grey,
    along(
      [0, 0.3, 0.55, 0.8, 1].map((t, i) => ({
        at: [0, 0.1 - 0.012 * (1 - t), -0.055 + 0.1 * t] as Vector,
        wide: [0.007, 0.014, 0.017, 0.016, 0.012][i],
        deep: [0.007, 0.013, 0.017, 0.016, 0.012][i],
      })),
      [1, 0, 0],
      16,
    ),
  );
  maker.solid(
    'eyes',
    'body',
    paints.ink,
    together(...bothSides.map((s) => egg(on(s, [0.009, 0.106, 0.05]), [0.006, 0.006, 0.006], 2, 10))),
  );
  maker.solid(
    'feelers',
    'feelers',
    paints.dark,
    together(
      ...bothSides.map((s) =>
        turned(
          on(s, [0.005, 0.11, 0.05]),
          on(s, [0.028, 0.135, 0.085]),
          [
            [0, 0.002],
            [1, 0.0012],
          ],
          6,
        ),
      ),
    ),
  );
  for (const side of bothSides) {
    const m = side.mark;
    maker.solid(`wing${m}`, 'body', { colour: '#d8c7a4', finish: 'felt' }, wing(side.out));
    const bent =
      (degrees: number, sag: number) =>
      (p: Vector): Vector | null => {
        const out = Math.abs(p[0]) - 0.01;
        if (out <= 0) return null;
        // Bent more and more towards the tip, and the tip behind the root: it drags.
        const angle = ((degrees * Math.PI) / 180) * (0.75 + (0.25 * out) / 0.14);
        const drag = sag * (out / 0.14) ** 2;
        return [
          side.out * (0.01 + out * Math.cos(angle)),
          p[1] + out * Math.sin(angle) - Math.sign(degrees) * drag,
          p[2] - Math.abs(drag) * 0.6,
        ];
      };
    maker.target(`up${m}`, `wing ${m} up`, driven('max(0, flap)', { flap: 'body.flap' }), bent(68, 0.02));
    maker.target(`down${m}`, `wing ${m} down`, driven('max(0, -flap)', { flap: 'body.flap' }), bent(-46, 0.016));
    maker.target(`fold${m}`, `wing ${m} folded`, driven('fold', { fold: 'body.fold' }), (p) => {
      const out = Math.abs(p[0]) - 0.01;
      return out <= 0 ? null : [side.out * (0.01 + out * 0.34), p[1] + 0.012 * (out / 0.14), p[2] - out * 0.72];
    });
  }
  maker.sets.push({ id: 'moth', name: 'moth', side: 'centre', controls: ['body'] });
  return maker.make({ id: 'moth', version: 1, name: 'Moth', changes: 'The first moth.' });
}

/** One wing, thin and wide, in many rings so that it bends well. */
function wing(out: 1 | -1) {
  const rings = Array.from({ length: 12 }, (_, i) => {
    const t = i / 11;
    const chord = 0.05 * Math.sin(Math.PI * (0.18 + 0.76 * t)) ** 0.7 + 0.004;
    return {
      at: [out * (0.008 + 0.142 * t), 0.108, 0.008 + 0.02 * Math.sin(t * 2.2) - 0.012 * t] as Vector,
      u: [0, 0, chord * 1.05] as Vector,
      v: [0, 0.0016, 0] as Vector,
    };
  });
  return loft(rings, 18);
}

/** The lantern: a chain, a lamp of tin and glass, and three tassels. */
export function lantern(): Rig {
  const maker = new RigMaker();
  const links = Array.from({ length: 6 }, (_, i): Vector => [0, -0.05 * i, 0]);
  const names = links.map((_, i) => `link${i + 1}`);
  for (const [i, name] of names.entries()) {
    maker.joint(name, i === 0 ? null : names[i - 1], links[i], {
      kind: 'share',
      control: 'chain',
      share: 1 / names.length,
    });
  }
  const lamp: Vector = [0, -0.31, 0];
  maker.joint('lamp', 'link6', lamp, { kind: 'control', control: 'lamp' });
  const turns = { side: 'centre', form: 'fan', turn: 'xyz' } as const;
  maker.control({ ...turns, id: 'chain', name: 'chain', reach: 0.08, off: [0, 0.02, 0], faces: 'z', place: [0, 0, 0] });
  maker.control({
    ...turns,
    form: 'ring',
    id: 'lamp',
    name: 'lamp',
    reach: 0.15,
    off: [0, -0.12, 0],
    in: { is: 'joint', id: 'link6' },
  });
  maker.solid('hook', 'link1', paints.iron, hoop([0, 0.03, 0], [0, 0, 1], 0.03, 0.008, 18));
  for (const [i, name] of names.entries()) {
    maker.solid(
      name,
      name,
      paints.iron,
      hoop(add(links[i], [0, -0.025, 0]), i % 2 ? [1, 0, 0] : [0, 0, 1], 0.021, 0.006, 16, 2),
    );
  }
  maker.solid(
    'roof',
    'lamp',
    paints.tin,
    turned(
      [0, -0.3, 0],
      [0, -0.37, 0],
      [
        [0, 0.016],
        [0.4, 0.055],
        [0.85, 0.105],
        [1, 0.108],
      ],
      26,
    ),
  );
  maker.solid('glass', 'lamp', paints.glow, egg([0, -0.45, 0], [0.082, 0.076, 0.082], 2.6, 26));
  maker.solid(
    'ribs',
    'lamp',
    paints.iron,
    together(
      ...[0, 1, 2, 3, 4, 5].map((k) => {
        const [x, z] = [Math.cos((k * Math.PI) / 3) * 0.088, Math.sin((k * Math.PI) / 3) * 0.088];
        return turned(
          [x, -0.38, z],
          [x, -0.52, z],
          [
            [0, 0.006],
            [1, 0.006],
          ],
          8,
        );
      }),
    ),
  );
  maker.solid(
    'foot',
    'lamp',
    paints.tin,
    turned(
      [0, -0.518, 0],
      [0, -0.545, 0],
      [
        [0, 0.1],
        [0.6, 0.088],
        [1, 0.04],
      ],
      26,
    ),
  );
  for (const [k, word] of ['front', 'left', 'right'].entries()) {
    const angle = [Math.PI / 2, -Math.PI / 6, (7 * Math.PI) / 6][k];
    const [x, z] = [Math.cos(angle) * 0.082, Math.sin(angle) * 0.082];
    const own = [0, 1, 2, 3].map((i) => `${word}${i + 1}`);
    const places = own.map((_, i): Vector => [x, -0.545 - 0.045 * i, z]);
    for (const [i, name] of own.entries()) {
      maker.joint(name, i === 0 ? 'lamp' : own[i - 1], places[i], { kind: 'share', control: word, share: 0.34 });
    }
    maker.control({
      ...turns,
      id: word,
      name: `${word} tassel`,
      reach: 0.035,
      off: [0, -0.19, 0],
      faces: 'z',
      place: places[0],
      in: { is: 'joint', id: 'lamp' },
    });
    maker.soft(
      word,
      paints.red,
      along(
        [0, 0.15, 0.3, 0.6, 0.85, 1].map((t, i) => ({
          at: [x, -0.545 - 0.15 * t, z] as Vector,
          wide: [0.007, 0.008, 0.017, 0.014, 0.016, 0.018][i],
          deep: [0.007, 0.008, 0.017, 0.014, 0.016, 0.018][i],
        })),
        [1, 0, 0],
        12,
      ),
      alongChain(maker, own, 1),
    );
  }
  maker.sets.push(
    { id: 'lamp', name: 'chain, lamp', side: 'centre', controls: ['chain', 'lamp'] },
    { id: 'tassels', name: 'tassels', side: 'centre', controls: ['front', 'left', 'right'] },
  );
  return maker.make({ id: 'lantern', version: 1, name: 'Lantern', changes: 'The first lantern.' });
}

/** The boathook: a long pole that bends a little, with an iron hook; it is held at its middle. */
export function boathook(): Rig {
  const maker = new RigMaker();
  const names = ['grip', 'shaft1', 'shaft2', 'tip'];
  const places: Vector[] = [
    [0, 0, 0],
    [0, 0.3, 0],
    [0, 0.6, 0],
    [0, 0.9, 0],
  ];
  for (const [i, name] of names.entries()) {
    maker.joint(
      name,
      i === 0 ? null : names[i - 1],
      places[i],
      i === 0 ? { kind: 'control', control: 'pole' } : { kind: 'share', control: 'bend', share: 0.34 },
    );
  }
  maker.control({
    id: 'pole',
    name: 'boathook',
    side: 'centre',
    form: 'ring',
    reach: 0.09,
    place: [0, 0, 0],
    move: 'xyz',
    turn: 'xyz',
  });
  maker.control({
    id: 'bend',
    name: 'bend',
    side: 'centre',
    form: 'fan',
    reach: 0.07,
    faces: 'x',
    place: [0, 0.3, 0],
    off: [0, 0.5, 0],
    in: { is: 'joint', id: 'grip' },
    turn: 'xyz',
  });
  maker.soft(
    'shaft',
    paints.wood,
    along(
      Array.from({ length: 12 }, (_, i) => ({
        at: [0, -0.85 + (1.72 * i) / 11, 0] as Vector,
        wide: 0.018,
        deep: 0.018,
      })),
      [1, 0, 0],
      14,
    ),
    alongChain(maker, names, 1),
  );
  maker.solid(
    'socket',
    'tip',
    paints.iron,
    turned(
      [0, 0.85, 0],
      [0, 1.0, 0],
      [
        [0, 0.024],
        [0.6, 0.02],
        [1, 0.008],
      ],
      14,
    ),
  );
  maker.solid(
    'hook',
    'tip',
    paints.iron,
    along(
      [0, 0.25, 0.5, 0.75, 1].map((t) => ({
        at: [0, 0.93 - 0.055 * Math.sin(t * 3.2) + 0.02 * t, 0.02 + 0.085 * Math.sin(t * 1.7)] as Vector,
        wide: 0.012 - 0.007 * t,
        deep: 0.012 - 0.007 * t,
      })),
      [1, 0, 0],
      12,
    ),
  );
  maker.solid(
    'band',
    'grip',
    paints.red,
    turned(
      [0, -0.06, 0],
      [0, 0.06, 0],
      [
        [0, 0.021],
        [1, 0.021],
      ],
      14,
    ),
  );
  maker.sets.push({ id: 'pole', name: 'boathook', side: 'centre', controls: ['pole', 'bend'] });
  return maker.make({ id: 'boathook', version: 1, name: 'Boathook', changes: 'The first boathook.' });
}

/** The sack: heavy at the bottom, tied at the neck, and soft between. */
export function sack(): Rig {
  const maker = new RigMaker();
  const places: Record<string, Vector> = {
    base: [0, 0.09, 0],
    middle: [0, 0.2, 0],
    upper: [0, 0.32, 0],
    neck: [0, 0.43, 0],
  };
  const names = Object.keys(places);
  for (const [i, name] of names.entries()) maker.joint(name, i === 0 ? null : names[i - 1], places[name]);
  const both = { side: 'centre', form: 'ring', move: 'xyz', turn: 'xyz', size: 'xyz' } as const;
  maker.control({ ...both, id: 'base', name: 'bottom', reach: 0.24 });
  maker.control({ ...both, id: 'neck', name: 'neck', reach: 0.12, in: { is: 'control', id: 'base' } });
  maker.control({
    id: 'tuft',
    name: 'tuft',
    side: 'centre',
    form: 'fan',
    reach: 0.05,
    faces: 'z',
    place: [0, 0.46, 0],
    off: [0, 0.08, 0],
    in: { is: 'joint', id: 'neck' },
    turn: 'xyz',
  });
  maker.joint('tuft', 'neck', [0, 0.46, 0], { kind: 'control', control: 'tuft' });
  maker.spines.push({
    id: 'sack',
    joints: names,
    from: { is: 'control', id: 'base' },
    to: { is: 'control', id: 'neck' },
  });
  const cloth = { colour: '#b79f77', finish: 'felt' } as const;
  maker.soft(
    'cloth',
    cloth,
    along(
      [
        { at: [0, 0.07, 0], wide: 0.17, deep: 0.15 },
        { at: [0, 0.12, 0], wide: 0.2, deep: 0.175 },
        { at: [0, 0.2, 0], wide: 0.198, deep: 0.172 },
        { at: [0, 0.28, 0], wide: 0.17, deep: 0.148 },
        { at: [0, 0.35, 0], wide: 0.115, deep: 0.102 },
        { at: [0, 0.4, 0], wide: 0.062, deep: 0.058 },
        { at: [0, 0.43, 0], wide: 0.046, deep: 0.044 },
      ],
      [1, 0, 0],
      30,
      2.3,
    ),
    alongChain(maker, names, 1),
  );
  maker.solid('cord', 'neck', paints.dark, hoop([0, 0.432, 0], [0, 1, 0], 0.048, 0.011, 22));
  maker.solid(
    'tuft',
    'tuft',
    cloth,
    along(
      [
        { at: [0, 0.44, 0], wide: 0.04, deep: 0.038 },
        { at: [0, 0.48, 0], wide: 0.06, deep: 0.05 },
        { at: [0, 0.52, 0], wide: 0.082, deep: 0.062 },
      ],
      [1, 0, 0],
      20,
      2.2,
    ),
  );
  maker.sets.push({ id: 'sack', name: 'sack', side: 'centre', controls: ['base', 'neck', 'tuft'] });
  return maker.make({ id: 'sack', version: 1, name: 'Sack', changes: 'The first sack.' });
}

const standIns = {
  box: {
    name: 'Box stand-in',
    body: egg([0, 0.55, 0], [0.22, 0.55, 0.14], 9, 24),
    head: egg([0, 1.32, 0.01], [0.14, 0.16, 0.14], 8, 20),
    colour: '#8f9a86',
  },
  cone: {
    name: 'Cone stand-in',
    body: turned(
      [0, 0.02, 0],
      [0, 1.1, 0],
      [
        [0, 0.27],
        [1, 0.06],
      ],
      26,
    ),
    head: egg([0, 1.3, 0.01], [0.15, 0.16, 0.15], 2, 20),
    colour: '#a98a72',
  },
  ball: {
    name: 'Ball stand-in',
    body: egg([0, 0.42, 0], [0.4, 0.42, 0.36], 2, 26),
    head: egg([0, 1.02, 0.02], [0.2, 0.2, 0.2], 2, 22),
    colour: '#7f93a0',
  },
} as const;

/** A figure of two pieces, for planning and for crowds. */
export function standIn(form: keyof typeof standIns): Rig {
  const { name, body, head, colour } = standIns[form];
  const maker = new RigMaker();
  const neck: Vector = form === 'ball' ? [0, 0.82, 0] : [0, 1.14, 0];
  maker.joint('body', null, [0, 0, 0], { kind: 'control', control: 'body' });
  maker.joint('head', 'body', neck, { kind: 'control', control: 'head' });
  maker.control({
    id: 'body',
    name: 'body',
    side: 'centre',
    form: 'square',
    reach: 0.36,
    off: [0, 0.5, 0],
    move: 'xyz',
    turn: 'xyz',
    size: 'xyz',
  });
  maker.control({
    id: 'head',
    name: 'head',
    side: 'centre',
    form: 'ring',
    reach: 0.2,
    off: [0, 0.18, 0],
    in: { is: 'joint', id: 'body' },
    move: 'xyz',
    turn: 'xyz',
  });
  maker.solid('body', 'body', { colour, finish: 'wood' }, body);
  maker.solid('head', 'head', paints.wood, head);
  const [, y, z] = form === 'ball' ? [0, 1.02, 0.22] : [0, 1.31, 0.16];
  maker.solid('nose', 'head', paints.red, egg([0, y, z], [0.03, 0.03, 0.035], 2, 12));
  maker.sets.push({ id: 'figure', name: 'figure', side: 'centre', controls: ['body', 'head'] });
  return maker.make({ id: `stand-in-${form}`, version: 1, name, changes: 'The first one.' });
}
