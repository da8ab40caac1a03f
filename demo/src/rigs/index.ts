import { learnRig, type NewPose, type Rig } from '@varrup/core';
import { porter } from './porter.ts';

/** A rig of the harbour: its versions, oldest first, and the poses its book begins with. */
interface HarbourRig {
  readonly id: string;
  readonly versions: readonly { readonly version: number; readonly make: () => Rig }[];
  readonly poses: () => NewPose[];
}

/** Every rig that comes with Varrup. A new one is a file beside this one and a line here. */
export const harbour: readonly HarbourRig[] = [
  {
    id: 'porter',
    versions: [
      { version: 1, make: () => porter(1) },
      { version: 2, make: () => porter(2) },
    ],
    poses: () => [],
  },
];

let learnt = false;

/** Makes all the harbour's rigs known, for whoever reads its shots without the library's database. */
export function learnHarbour(): void {
  if (learnt) return;
  for (const { versions } of harbour) for (const { make } of versions) learnRig(make());
  learnt = true;
}
