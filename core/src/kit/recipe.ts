import { resized } from '../clip/resized.ts';
import type { Curve, Key, NumberCurve } from '../curve/key.ts';
import { keyIndexAt } from '../curve/reshape.ts';
import { sameKey } from '../curve/same.ts';
import type { Clip } from '../document/clip.ts';
import type { Recipe } from '../document/recipe.ts';
import type { Shot } from '../document/shot.ts';
import { soundSettings } from './kit.ts';
import { kitOf } from './kits.ts';

/** Recipes: what a kit wrote stays adjustable, and what a hand has touched since stays the hand's. */

const written = new WeakMap<Shot['recipes'], Map<string, Map<number, Key>>>();

/** By path and frame, the keys that recipes have written. */
function writtenKeys(recipes: Shot['recipes']): Map<string, Map<number, Key>> {
  const known = written.get(recipes);
  if (known) return known;
  const all = new Map<string, Map<number, Key>>();
  for (const recipe of recipes.values()) {
    for (const [path, keys] of Object.entries(recipe.written)) {
      const own = all.get(path) ?? new Map<number, Key>();
      for (const key of keys) own.set(key.frame, key);
      all.set(path, own);
    }
  }
  written.set(recipes, all);
  return all;
}

/** Whether a key is as a recipe wrote it: no hand has touched it since. */
export function isUntouched(recipes: Shot['recipes'], path: string, key: Key): boolean {
  const there = writtenKeys(recipes).get(path)?.get(key.frame);
  return there !== undefined && sameKey(there, key);
}

/** What writing a recipe comes to. */
export interface RecipeResult {
  readonly shot: Shot;
  /** Keys of a hand among those of the recipe, or in their place: they stay unless they are to be replaced. */
  readonly inTheWay: number;
  /** The same of keys that other recipes have written. */
  readonly ofOthers: number;
  readonly problem: string | null;
  readonly note: string | null;
}

/**
 * Writes a recipe, new or with other settings. Its own untouched keys go; its new ones come, but for those in whose place a hand
 * has a key or took one away.
 * @param replace takes the hand's keys within the recipe's frames away as well
 */
export function cook(shot: Shot, recipe: Recipe, replace: boolean): RecipeResult {
  const last = lastOf.get(recipe);
  if (last?.shot === shot && last.replace === replace) return last.result;
  const result = cooked(shot, recipe, replace);
  lastOf.set(recipe, { shot, replace, result });
  return result;
}

/** What each recipe came to last: a card asks for what its preview has just shown. */
const lastOf = new WeakMap<Recipe, { shot: Shot; replace: boolean; result: RecipeResult }>();

function cooked(shot: Shot, recipe: Recipe, replace: boolean): RecipeResult {
  const failed = (problem: string): RecipeResult => ({ shot, inTheWay: 0, ofOthers: 0, problem, note: null });
  const kit = kitOf(recipe.kit);
  const member = shot.members.get(recipe.member);
  if (!kit || !member) return failed('There is no such kit, or nobody to use it on.');
  const old = shot.recipes.get(recipe.id) ?? null;
  const cleared = old ? withoutKeysOf(shot, old) : shot;
  const settings = soundSettings(kit, recipe.settings);
  const result = kit.write({ shot: cleared, member: cleared.members.at(recipe.member), settings });
  if ('problem' in result) return failed(result.problem);
  const ground = forClip(cleared, result.clip);
  const curves = ground.curves.edit();
  let [inTheWay, ofOthers] = [0, 0];
  for (const [path, keys] of Object.entries(result.keys)) {
    if (keys.length === 0) continue;
    const laid = layInto(ground.curves.get(path), keys, {
      span: result.clip ? spanOf(result.clip) : [keys[0].frame, keys[keys.length - 1].frame],
      gone: replace ? [] : missing(shot, path, old),
      replace,
    });
    for (const key of laid.inTheWay) {
      if (isUntouched(shot.recipes, path, key)) ofOthers++;
      else inTheWay++;
    }
    curves.set(path, laid.curve);
  }
  const made: Recipe = { ...recipe, settings, written: { ...result.keys } };
  return {
    shot: {
      ...ground,
      curves: curves.done(),
      clips: result.clip ? ground.clips.with(result.clip.id, result.clip) : ground.clips,
      members: result.member ? ground.members.with(member.id, result.member) : ground.members,
      recipes: shot.recipes.with(recipe.id, made),
    },
    inTheWay,
    ofOthers,
    problem: null,
    note: result.note ?? null,
  };
}

/** The shot with what a hand has in a clip brought to the length the clip will have. */
function forClip(shot: Shot, next: Clip | undefined): Shot {
  const now = next && shot.clips.get(next.id);
  return now && now.length !== next.length ? resized(shot, now, next.length) : shot;
}

/** The shot without a recipe's untouched keys; a channel that loses its last one has its constant value again. */
export function withoutKeysOf(shot: Shot, recipe: Recipe): Shot {
  const curves = shot.curves.edit();
  for (const [path, keys] of Object.entries(recipe.written)) {
    const curve = curves.get(path);
    if (curve?.type !== 'number') continue;
    const own = new Map(keys.map((k) => [k.frame, k]));
    const left = curve.keys.filter((k) => {
      const key = own.get(k.frame);
      return !key || !sameKey(key, k);
    });
    if (left.length === 0) curves.delete(path);
    else if (left.length < curve.keys.length) curves.set(path, { ...curve, keys: left });
  }
  return { ...shot, curves: curves.done() };
}

/** Frames where a recipe wrote a key and a hand has taken it away. */
function missing(shot: Shot, path: string, old: Recipe | null): number[] {
  const curve = shot.curves.get(path);
  const keys = old?.written[path] ?? [];
  return keys.filter((k) => !curve || keyIndexAt(curve.keys, k.frame) < 0).map((k) => k.frame);
}

/** The frames of a clip: what writes a clip writes all of it. */
const spanOf = ({ first, length }: Clip): readonly [number, number] => [first, first + length];

interface Laying {
  /** The frames that are the recipe's: keys of a hand there are in its way. */
  readonly span: readonly [first: number, last: number];
  /** Frames whose keys a hand has taken away. */
  readonly gone: readonly number[];
  readonly replace: boolean;
}

function layInto(curve: Curve | undefined, keys: readonly Key[], { span, gone, replace }: Laying) {
  const old = curve?.type === 'number' ? curve : null;
  const [first, last] = span;
  const within = (k: Key) => k.frame >= first - 1e-6 && k.frame <= last + 1e-6;
  const hands = old?.keys ?? [];
  const inTheWay = hands.filter(within);
  const stay = replace ? hands.filter((k) => !within(k)) : hands;
  const taken = (k: Key) => keyIndexAt(stay, k.frame) >= 0 || gone.some((f) => Math.abs(f - k.frame) < 1e-6);
  const all = [...stay, ...keys.filter((k) => !taken(k))].sort((a, b) => a.frame - b.frame);
  // Everything taken away by a hand, and nothing else there: one key is left, so that the curve is one.
  const made: NumberCurve = {
    type: 'number',
    keys: all.length > 0 ? all : [keys[0]],
    before: old?.before ?? 'hold',
    after: old?.after ?? 'hold',
  };
  return { curve: made, inTheWay };
}
