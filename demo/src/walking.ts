import {
  applyRecipe,
  bringRig,
  changeChannels,
  clipAtWork,
  firstSettings,
  kitOf,
  newRigMembers,
  type Recipe,
  renameClip,
  type Shot,
  setTravel,
} from '@varrup/core';

type Settings = Recipe['settings'];

/** Where somebody of the cast stands and faces, metres and degrees. */
export interface Stands {
  readonly rig: string;
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly at: readonly [x: number, y: number, z: number];
  readonly facing: number;
}

/** Brings a rig of the harbour in and puts it somewhere. */
export function withRig(shot: Shot, { rig, id, name, version, at, facing }: Stands): Shot {
  const brought = bringRig.apply(shot, newRigMembers(shot, { rig, version, id, name }));
  const places = {
    [`${id}.move.x`]: at[0],
    [`${id}.move.y`]: at[1],
    [`${id}.move.z`]: at[2],
    [`${id}.turn.y`]: (facing * Math.PI) / 180,
  };
  const values = Object.fromEntries(Object.entries(places).filter(([, v]) => v !== 0));
  return changeChannels.apply(brought, { frame: 1, values, autoKey: 'off' });
}

/** The settings of a gait as its card would have them: a choice sets what it stands for, and then single dials may differ. */
export function gaitSettings(shot: Shot, rig: string, choices: Settings, dials: Settings = {}): Settings {
  const kit = kitOf('gait')!;
  let settings: Settings = firstSettings(kit, shot, shot.members.at(rig), 1, null);
  for (const [name, value] of Object.entries(choices)) {
    settings = { ...settings, ...kit.chosen?.(shot, shot.members.at(rig), name, String(value)), [name]: value };
  }
  return { ...settings, ...dials };
}

/** Lets a rig walk: the keys of a gait, in a clip of a name. */
export function withGait(
  shot: Shot,
  rig: string,
  { name, settings, travelling }: { name: string; settings: Settings; travelling: boolean },
): Shot {
  const recipe: Recipe = {
    id: `${rig}-${name.toLowerCase().replaceAll(' ', '-')}`,
    kit: 'gait',
    member: rig,
    settings,
    written: {},
  };
  const walking = applyRecipe.apply(shot, { recipe, replace: false });
  const { id } = clipAtWork(walking, rig)!;
  return setTravel.apply(renameClip.apply(walking, { id, name }), { id, change: { travelling } });
}
