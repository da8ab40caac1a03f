import { ball } from './ball.ts';
import { block } from './block.ts';
import { box } from './box.ts';
import { camera } from './camera.ts';
import { cone } from './cone.ts';
import { cylinder } from './cylinder.ts';
import { group } from './group.ts';
import { light } from './light.ts';
import { plane } from './plane.ts';
import { steps } from './steps.ts';
import { wedge } from './wedge.ts';

/** Every kind of cast member. The order is that of the "bring in" menu. */
export const kinds = { ball, box, cylinder, cone, wedge, steps, plane, block, group, camera, light } as const;

export type KindName = keyof typeof kinds;
export const kindNames = Object.keys(kinds) as KindName[];
export type { Bounds, Kind, KindChannel } from './kind.ts';
