import { emptyShot, type RecipeSettings, type Shot } from '../document/index.ts';
import { addMember, type NewMember, newMember } from '../edit/index.ts';
import { applyRecipe } from '../kit/commands.ts';
import { firstSettings, kitOf } from '../kit/index.ts';

/** Small sets for tests: something to bounce, and something to bounce on. */

export const RADIUS = 0.2;

export function shotWith(...wanted: readonly NewMember[]): Shot {
  const long = { ...emptyShot('s', 'S'), range: { first: 1, last: 240 }, play: { first: 1, last: 240 } };
  return wanted.reduce((shot, w) => addMember.apply(shot, { member: newMember(shot, w) }), long);
}

export const ball = (values: Record<string, number> = {}): NewMember => ({
  kind: 'ball',
  id: 'ball',
  name: 'Float',
  shape: { radius: RADIUS },
  values: { 'move.y': RADIUS, ...values },
});

/** Four steps of half a metre down towards +X, the top one 0.8 m high, its edge at 0. */
export const stairs: NewMember = {
  kind: 'steps',
  id: 'stairs',
  name: 'Stairs',
  shape: { count: 4, tread: 0.5, rise: 0.2, depth: 4 },
  values: { 'move.x': 1 },
};

/** A slope of one in four that goes down towards +X, from x = -2 to x = 6. */
export const slope: NewMember = {
  kind: 'wedge',
  id: 'slope',
  name: 'Slope',
  shape: { width: 8, height: 2, depth: 4 },
  values: { 'move.x': 2 },
};

/** A shot with a recipe written on the ball, under the kit's own name. */
export function withKit(shot: Shot, kit: string, settings: RecipeSettings = {}, replace = false): Shot {
  const member = shot.members.at('ball');
  const first = firstSettings(kitOf(kit)!, shot, member, 1, null);
  const recipe = { id: kit, kit, member: 'ball', settings: { ...first, ...settings }, written: {} };
  return applyRecipe.apply(shot, { recipe, replace });
}
