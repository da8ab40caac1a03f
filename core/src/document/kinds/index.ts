import { arch } from './arch.ts';
import { ball } from './ball.ts';
import { block } from './block.ts';
import { box } from './box.ts';
import { camera } from './camera.ts';
import { capsule } from './capsule.ts';
import { cone } from './cone.ts';
import { control } from './control.ts';
import { cylinder } from './cylinder.ts';
import { group } from './group.ts';
import { lettering } from './lettering.ts';
import { light } from './light.ts';
import { piece } from './piece.ts';
import { plane } from './plane.ts';
import { plank } from './plank.ts';
import { rig } from './rig.ts';
import { ring } from './ring.ts';
import { rope } from './rope.ts';
import { sky } from './sky.ts';
import { steps } from './steps.ts';
import { tube } from './tube.ts';
import { wedge } from './wedge.ts';

/** Every kind of cast member. The order is that of the "bring in" menu. */
export const kinds = {
  ball,
  box,
  cylinder,
  cone,
  capsule,
  tube,
  ring,
  arch,
  plank,
  rope,
  lettering,
  wedge,
  steps,
  plane,
  block,
  piece,
  group,
  camera,
  light,
  sky,
  rig,
  control,
} as const;

export type KindName = keyof typeof kinds;
/** Kinds that can be brought in by themselves; rigs come from the library, and controls with them; pieces of what is broken. */
export const simpleKinds = (Object.keys(kinds) as KindName[]).filter(
  (name): name is Exclude<KindName, 'rig' | 'control' | 'piece'> =>
    name !== 'rig' && name !== 'control' && name !== 'piece',
);
export type { Bounds, Kind, KindChannel } from './kind.ts';
