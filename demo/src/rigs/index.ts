import { type NewPose, type Rig, Rigs } from '@varrup/core';
import { glove } from './glove.ts';
import { goat } from './goat.ts';
import { gull } from './gull.ts';
import { porter } from './porter.ts';
import { glovePoses } from './poses/glove.ts';
import { goatPoses } from './poses/goat.ts';
import { porterPoses } from './poses/porter.ts';
import { boathook, lantern, moth, sack, standIn } from './small.ts';
import { toolbox } from './toolbox.ts';

/** A rig of the harbour: its versions, oldest first, and the poses its book begins with. */
interface HarbourRig {
  readonly id: string;
  readonly versions: readonly { readonly version: number; readonly make: () => Rig }[];
  readonly poses: () => NewPose[];
}

const one = (id: string, make: () => Rig, poses: () => NewPose[] = () => []): HarbourRig => ({
  id,
  versions: [{ version: 1, make }],
  poses,
});

/** Every rig that comes with Varrup. A new one is a file beside this one and a line here. */
export const harbour: readonly HarbourRig[] = [
  {
    id: 'porter',
    versions: [
      { version: 1, make: () => porter(1) },
      { version: 2, make: () => porter(2) },
    ],
    poses: porterPoses,
  },
  one('goat', goat, goatPoses),
  one('glove', glove, glovePoses),
  one('gull', gull),
  one('toolbox', toolbox),
  one('moth', moth),
  one('lantern', lantern),
  one('boathook', boathook),
  one('sack', sack),
  one('stand-in-box', () => standIn('box')),
  one('stand-in-cone', () => standIn('cone')),
  one('stand-in-ball', () => standIn('ball')),
];

let made: Rigs | undefined;

/** All the harbour's rigs, for whoever reads its shots without the library's database. They are made when first asked for. */
export function harbourRigs(): Rigs {
  made ??= Rigs.of(harbour.flatMap(({ versions }) => versions.map(({ make }) => make())));
  return made;
}
