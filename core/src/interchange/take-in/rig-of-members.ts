import type { Shot } from '../../document/shot.ts';
import type { Media } from '../../media/index.ts';
import { bake } from '../bake/bake.ts';
import { usualChoices } from '../bake/choices.ts';
import { rigOfScene, type TakenRig } from './rig-of-scene.ts';

/**
 * Makes a rig of some of a shot's cast as they stand at its first frame that plays: forms, groups with all that belongs to them, bodies. Each is
 * a joint with its form on it; what is carried hangs on what carries it.
 * @throws Refused where none of them has a form, or more than a rig can be
 */
export function rigOfMembers(
  shot: Shot,
  members: readonly string[],
  about: { readonly id: string; readonly name: string },
  media: Media,
): TakenRig {
  const choices = {
    ...usualChoices,
    members: [...members],
    frames: null,
    clips: [],
    rate: shot.rate,
    plainNames: false,
  };
  const { scene } = bake(shot, choices, undefined, media);
  return rigOfScene(scene, { ...about, rate: shot.rate });
}
