import type { Curve, Extension, PlainKind } from '../../curve/key.ts';
import { keyIndexAt, withHandle, withHandleKind, withJoined, withoutKeys } from '../../curve/reshape.ts';
import { withoutLoose } from '../../document/loose.ts';
import type { Shot } from '../../document/shot.ts';
import { channelWords, countWords } from '../../document/words.ts';
import { defineCommand } from '../edit.ts';
import { type CollisionAnswer, type KeySelection, planRetiming, type RetimingPlan, withRetiming } from '../retiming.ts';
import { refuseOutside } from './value-range.ts';

export const countKeys = (keys: KeySelection): number => Object.values(keys).reduce((n, f) => n + f.length, 0);

/** Replaces the curves of a selection by what `change` makes of them; null takes the curve away. */
export function eachCurve(
  shot: Shot,
  keys: KeySelection,
  change: (curve: Curve, frames: readonly number[], path: string) => Curve | null,
): Shot {
  const curves = shot.curves.edit();
  let changed = false;
  for (const [path, frames] of Object.entries(keys)) {
    const curve = curves.get(path);
    if (!curve || frames.length === 0) continue;
    const next = change(curve, frames, path);
    if (next === curve) continue;
    changed = true;
    if (next) curves.set(path, next);
    else curves.delete(path);
  }
  return changed ? { ...shot, curves: curves.done() } : shot;
}

/** Moves keys in time and value, or a copy of them. */
export const moveKeys = defineCommand<{
  keys: KeySelection;
  by: number;
  rise?: number;
  copy?: boolean;
  collision?: CollisionAnswer;
  /** The plan of this very move, where it has been made already. */
  plan?: RetimingPlan;
}>({
  name: 'key.move',
  label: ({ keys, copy }) => `${copy ? 'copy' : 'move'} ${countWords(countKeys(keys), 'key')}`,
  apply(shot, { keys, by, rise = 0, copy = false, collision = 'replace', plan }) {
    if (by === 0 && (copy || rise === 0)) return shot;
    const own = plan?.shot === shot ? plan : planRetiming(shot, keys, { kind: 'move', by }, collision, copy);
    return withRetiming(shot, own, rise, copy);
  },
});

/**
 * Takes keys away. A channel that loses its last key keeps the value it had there, as a constant, so that nothing jumps
 * back to where it was before it was ever animated.
 */
export const removeKeys = defineCommand<{ keys: KeySelection }>({
  name: 'key.remove',
  label: ({ keys }) => `delete ${countWords(countKeys(keys), 'key')}`,
  apply(shot, { keys }) {
    const next = eachCurve(shot, keys, withoutKeys);
    return Object.keys(keys).reduce(
      (s, path) => (s.curves.has(path) ? s : keepingLastValue(s, path, shot.curves.get(path))),
      next,
    );
  },
});

/** Takes whole curves away; each channel keeps its first key's value. */
export const removeCurves = defineCommand<{ paths: readonly string[] }>({
  name: 'curve.remove',
  label: ({ paths }, shot) => `delete the keys of ${channelWords(shot, paths)}`,
  apply: (shot, { paths }) =>
    removeKeys.apply(shot, {
      keys: Object.fromEntries(paths.map((p) => [p, (shot.curves.get(p)?.keys ?? []).map((k) => k.frame)])),
    }),
});

function keepingLastValue(shot: Shot, path: string, curve: Curve | undefined): Shot {
  if (!curve) return shot;
  const dot = path.indexOf('.');
  const member = shot.members.at(path.slice(0, dot));
  const kept =
    curve.type === 'number'
      ? { ...member, values: { ...member.values, [path.slice(dot + 1)]: curve.keys[0].value } }
      : { ...member, orientation: curve.keys[0].value };
  return { ...shot, members: shot.members.with(member.id, kept), loose: withoutLoose(shot.loose, path) };
}

/** Sets the kind of the picked keys' handles. */
export const setHandleKind = defineCommand<{ keys: KeySelection; side: 'in' | 'out' | 'both'; kind: PlainKind }>({
  name: 'key.shape',
  label: ({ keys, kind }) => `make ${countWords(countKeys(keys), 'key')} ${kind}`,
  apply: (shot, { keys, side, kind }) =>
    eachCurve(shot, keys, (curve, frames) => frames.reduce((c, f) => withHandleKind(c, f, side, kind), curve)),
});

/** Puts the end of one handle where the hand has dragged it. */
export const dragHandle = defineCommand<{
  path: string;
  frame: number;
  side: 'in' | 'out';
  frames: number;
  rise: number;
}>({
  name: 'key.handle',
  label: ({ path, frame }, shot) => `drag a handle of ${channelWords(shot, [path])} at ${frame}`,
  apply: (shot, { path, frame, side, frames, rise }) =>
    eachCurve(shot, { [path]: [frame] }, (curve) =>
      curve.type === 'number' ? withHandle(curve, frame, side, frames, rise) : curve,
    ),
});

/** Breaks or joins the handles of the picked keys. */
export const joinHandles = defineCommand<{ keys: KeySelection; joined: boolean }>({
  name: 'key.join',
  label: ({ keys, joined }) => `${joined ? 'join' : 'break'} the handles of ${countWords(countKeys(keys), 'key')}`,
  apply: (shot, { keys, joined }) =>
    eachCurve(shot, keys, (curve, frames) =>
      curve.type === 'number' ? frames.reduce((c, f) => withJoined(c, f, joined), curve) : curve,
    ),
});

/** Gives the picked keys one exact value. */
export const setKeyValue = defineCommand<{ keys: KeySelection; value: number }>({
  name: 'key.value',
  label: ({ keys, value }) => `set ${countWords(countKeys(keys), 'key')} to ${Number(value.toFixed(4))}`,
  apply: (shot, { keys, value }) =>
    eachCurve(shot, keys, (curve, frames, path) => {
      if (curve.type !== 'number') return curve;
      refuseOutside(shot, path, value);
      const at = new Set(frames.map((f) => keyIndexAt(curve.keys, f)));
      return { ...curve, keys: curve.keys.map((k, i) => (at.has(i) ? { ...k, value } : k)) };
    }),
});

/** Marks the picked keys as keys or as breakdowns. */
export const setKeyRole = defineCommand<{ keys: KeySelection; role: 'key' | 'breakdown' }>({
  name: 'key.role',
  label: ({ keys, role }) => `mark ${countWords(countKeys(keys), 'key')} as ${role}`,
  apply: (shot, { keys, role }) =>
    eachCurve(shot, keys, (curve, frames) => {
      const at = new Set(frames.map((f) => keyIndexAt(curve.keys, f)));
      const list = curve.keys as readonly { role: 'key' | 'breakdown' }[];
      return { ...curve, keys: list.map((k, i) => (at.has(i) ? { ...k, role } : k)) } as Curve;
    }),
});

/** Says what curves do before their first or after their last key. */
export const setExtension = defineCommand<{
  paths: readonly string[];
  side: 'before' | 'after';
  extension: Extension;
}>({
  name: 'curve.extend',
  label: ({ paths, side, extension }, shot) => `${extension} ${side} the keys of ${channelWords(shot, paths)}`,
  apply: (shot, { paths, side, extension }) =>
    eachCurve(shot, Object.fromEntries(paths.map((p) => [p, [0]])), (curve) => ({ ...curve, [side]: extension })),
});
