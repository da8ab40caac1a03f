import type { Recipe } from '../document/recipe.ts';
import type { Shot } from '../document/shot.ts';
import { memberWords } from '../document/words.ts';
import { defineCommand } from '../edit/edit.ts';
import { kitOf } from './kits.ts';
import { cook, withoutKeysOf } from './recipe.ts';

/** Writes a kit's keys, for the first time or with other settings. What cannot be written changes nothing. */
export const applyRecipe = defineCommand<{ recipe: Recipe; replace: boolean }>({
  name: 'recipe.apply',
  label: ({ recipe }, shot) => `${kitOf(recipe.kit)?.name ?? recipe.kit} for ${memberWords(shot, [recipe.member])}`,
  apply: (shot, { recipe, replace }) => cook(shot, recipe, replace).shot,
});

/** Forgets a recipe. Its untouched keys go with it, or stay as keys like any other. */
export const removeRecipe = defineCommand<{ id: string; keys: 'take' | 'keep' }>({
  name: 'recipe.remove',
  label: ({ id, keys }, shot) => {
    const recipe = shot.recipes.get(id);
    const name = recipe ? (kitOf(recipe.kit)?.name ?? recipe.kit) : 'a recipe';
    return keys === 'take' ? `take back ${name}` : `make the keys of ${name} plain`;
  },
  apply(shot, { id, keys }) {
    const recipe = shot.recipes.get(id);
    if (!recipe) return shot;
    const recipes = shot.recipes.without(id);
    const next: Shot = keys === 'take' ? withoutKeysOf(shot, recipe) : shot;
    return { ...next, recipes };
  },
});
