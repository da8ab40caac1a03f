import type { RigDraft, RigMesh } from '../rig/definition.ts';
import { rigLimits } from '../rig/definition.ts';
import type { RigPart } from '../rig/plan.ts';
import type { Build } from './build.ts';
import { Dressing, sideOf } from './dressing.ts';
import { addArm } from './parts/arm.ts';
import { addDials, addLook, addTail } from './parts/chains.ts';
import { addLeg } from './parts/leg.ts';
import { addHead, addTrunk } from './parts/trunk.ts';

type PartOf<K extends RigPart['kind']> = Extract<RigPart, { kind: K }>;

/**
 * The rig that a build makes: each part gets the controls that work it, as large as the body is there; every joint that belongs to none has a
 * control of its own.
 * @param about its version, and what is new in it
 */
export function dressed(build: Build, about: { readonly version: number; readonly changes: string }): RigDraft {
  const make = new Dressing(build);
  const parts = <K extends RigPart['kind']>(kind: K) => build.parts.filter((p): p is PartOf<K> => p.kind === kind);
  for (const part of parts('trunk').slice(0, 1)) addTrunk(make, part);
  for (const part of parts('head').slice(0, 1)) addHead(make, part);
  for (const part of parts('leg')) addLeg(make, part);
  for (const part of parts('arm')) addArm(make, part);
  for (const part of parts('tail')) addTail(make, part);
  for (const part of parts('look').slice(0, 1)) addLook(make, part);
  addDials(make, parts('dial'));
  const rest = build.joints.filter((joint) => !make.isMoved(joint.id));
  const own = rest.map((joint) =>
    // What nothing carries is moved as well as turned.
    make.own(joint.id, joint.parent === null ? { move: 'xyz' } : {}),
  );
  if (own.length > 0)
    make.sets.push({ id: 'joints', name: 'joints', side: 'centre', controls: own.slice(0, rigLimits.controls) });
  shapeDials(make, build.meshes);
  make.pair();
  const { controls, limbs, feet, spines, looks, sets } = make;
  return {
    id: build.id,
    name: build.name,
    ...about,
    joints: build.joints.map(({ id, parent, place, turn }) => ({
      id,
      parent,
      place: [...place],
      turn: [...turn],
      by: make.by.get(id) ?? undefined,
    })),
    controls,
    limbs,
    feet,
    spines,
    looks,
    meshes: build.meshes as RigDraft['meshes'],
    sets,
    plan: {
      joints: Object.fromEntries(build.joints.map(({ id, name, axes, limits }) => [id, { name, turn: axes, limits }])),
      parts: build.parts,
    },
  };
}

/** Each shape target of a body keeps the dial that it is worked by. */
function shapeDials(make: Dressing, meshes: readonly RigMesh[]): void {
  const dials = new Map<string, Map<string, string>>();
  for (const { targets } of meshes)
    for (const { name, by } of targets)
      for (const { path } of by.inputs) {
        const [control, dial] = path.split('.');
        if (make.has(control)) continue;
        const own = dials.get(control) ?? new Map<string, string>();
        dials.set(control, own.set(dial, own.get(dial) ?? name));
      }
  let row = 0;
  for (const [id, own] of dials) {
    const top = make.height * (1.05 + 0.04 * row++);
    make.control(sideOf([0, 0, 0]), {
      id,
      name: id.replace(/\d+$/, '') === 'shapes' ? 'shapes' : id,
      form: 'diamond',
      reach: 0.03 * make.height,
      place: [0, top, 0],
      in: make.has('body') ? { is: 'control', id: 'body' } : null,
      dials: [...own].map(([dial, label]) => ({ id: dial, label, min: -2, max: 2 })),
    });
    make.sets.push({ id, name: id, side: 'centre', controls: [id] });
  }
}
