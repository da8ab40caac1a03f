import {
  applyRecipe,
  changeChannels,
  clipAtWork,
  curvesOf,
  findingsOf,
  perform,
  type Recipe,
  type Shot,
  Table,
  takeUpClip,
} from '@varrup/core';
import { nightFerry } from '@varrup/demo';
import { median, report, row } from './row.ts';

/** The gait kit written anew for a change of a dial, and all checks on one round of what it wrote. */

const shots = nightFerry.shots();
const shotCalled = (number: string): Shot => shots.find((s) => s.name.startsWith(number))!;

/** A shot with only one of its rigs, and the recipe of its gait. */
function walking(number: string, rig: string): { shot: Shot; recipe: Recipe } {
  const given = shotCalled(number);
  // Whose walk lies by, to be played on a track, takes it up.
  const walk = given.clips.values().find((c) => c.rig === rig && /walk/i.test(c.name));
  const all = clipAtWork(given, rig) ? given : takeUpClip.apply(given, { id: walk!.id });
  const members = all.members.values().filter((m) => m.id === rig || m.parent === rig);
  const recipe = all.recipes.values().find((r) => r.member === rig)!;
  const clip = clipAtWork(all, rig)!;
  const span = { first: clip.first, last: clip.first + clip.length };
  const shot: Shot = {
    ...all,
    members: Table.of(members.map((m) => [m.id, m])),
    curves: Table.of(curvesOf(all, members)),
    recipes: Table.of({ [recipe.id]: recipe }),
    clips: Table.of({ [clip.id]: clip }),
    range: span,
    play: span,
  };
  return { shot, recipe };
}

/** A dial is turned a little further each time, so that nothing worked out before serves again. */
function turnDial({ shot, recipe }: { shot: Shot; recipe: Recipe }): () => unknown {
  let turned = 0;
  return () => {
    turned += 0.01;
    const settings = { ...recipe.settings, bob: Number(recipe.settings.bob) + (turned % 1) };
    return applyRecipe.apply(shot, { recipe: { ...recipe, settings }, replace: false });
  };
}

const porter = walking('02', 'in-place');
const goat = walking('03', 'goat');

/** A pose of a walk whose feet are held is changed: all of it is held and mirrored anew. */
function posing({ shot }: { shot: Shot }): () => unknown {
  let turned = 0;
  const foot = shot.curves.keys().find((path) => /footR\.turn\.x$/.test(path))!;
  return () => {
    turned += 0.001;
    const frame = clipAtWork(shot, shot.recipes.values()[0].member)!.first + 18;
    return perform(shot, changeChannels, { frame, values: { [foot]: 0.1 + (turned % 0.2) }, autoKey: 'every' });
  };
}

report([
  row('a foot rolled in its stance, two legs, held anew', await median(posing(porter)), 'ms', 10),
  row('gait, a dial turned, two legs', await median(turnDial(porter)), 'ms', 30),
  row('gait, a dial turned, four legs', await median(turnDial(goat)), 'ms', 30),
  row('all checks on a walk cycle, two legs', await median(() => findingsOf({ ...porter.shot })), 'ms', 50),
  row('all checks on a walk cycle, four legs', await median(() => findingsOf({ ...goat.shot })), 'ms', 50),
]);
