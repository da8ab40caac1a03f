import {
  animatedPaths,
  type CarriedKeys,
  type CollisionAnswer,
  type Command,
  carryKeys,
  channelPath,
  closesOnItself,
  countKeys,
  cutKeys,
  insertFrames,
  type KeySelection,
  keysFrom,
  mirroredKeys,
  moveKeys,
  planRetiming,
  putDownKeys,
  type Retiming,
  type RetimingPlan,
  repeatKeys,
  retimeKeys,
  rippleKeys,
  runSpan,
  type Shot,
  setPlayRange,
  shownChannels,
  splitPath,
  staggerKeys,
} from '@varrup/core';
import { toast } from 'sonner';
import { useShot } from '../shot/shot-store.ts';
import { livingKeys } from '../timeline/pick-keys.ts';
import { tryOut } from '../trial/table.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { pickKeys, useSelection } from '../view/selection.ts';
import { useTiming } from '../view/timing.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasKeys, hasShot, keysNow, run, shotNow, withShot } from './now.ts';

/** Moving time about. Every operation is of the picked keys, or of all keys of what is picked where no keys are. */

/** The keys an operation on time means now. */
export function timingKeys(shot: Shot): KeySelection {
  // Picked keys that an undo has taken away are no longer meant.
  const living = livingKeys(shot, keysNow());
  if (countKeys(living) > 0) return living;
  return Object.fromEntries(timingPaths(shot).map((p) => [p, shot.curves.at(p).keys.map((k) => k.frame)]));
}

/** The channels whose time an operation means: of the picked channels, else of the picked members, else of everybody. */
export function timingPaths(shot: Shot): string[] {
  const { channels, picked: selection } = useSelection.getState();
  const picked = channels.filter((path) => shot.curves.has(path));
  if (picked.length > 0) return picked;
  return animatedPaths(shot, selection.length > 0 ? selection : shot.members.keys());
}

const keyWords = (n: number) => (n === 1 ? 'a key' : `${n} keys`);

/** What a plan does to other keys, in words; empty where it does nothing to them. */
export function planWords(plan: RetimingPlan): string {
  const parts: string[] = [];
  if (plan.outside) parts.push('no shot has frames that far out: nothing moves');
  else if (plan.stopped) parts.push('stops at the next key');
  if (plan.replaced > 0) parts.push(`replaces ${keyWords(plan.replaced)}`);
  if (plan.pushed > 0) parts.push(`pushes ${keyWords(plan.pushed)} along`);
  if (plan.between > 0) parts.push(`${keyWords(plan.between)} between frames, where the frame is taken`);
  return parts.join(', ');
}

/** The operation done last, to be done again with one press. */
let last: (() => void) | null = null;

/**
 * How a change of time is made: at once, as by its key, or shown first, as from the card.
 * @param about.after what is to be done once it is made
 */
type Making = <Args>(
  title: string,
  command: Command<Args>,
  args: Args,
  about: { readonly nothing?: string; readonly words?: string; after?(): void },
) => void;

const atOnce: Making = (_, command, args, { nothing, words, after }) => {
  const shot = shotNow();
  if (nothing && shot && command.apply(shot, args) === shot) {
    toast(nothing);
    return;
  }
  run(command, args);
  after?.();
  if (words) toast(words);
};

/** Shows a change of time before it is made. */
export const shownFirst: Making = (title, command, args, { nothing = 'No key would move.', words, after }) => {
  const remarks = words ? [`${words.charAt(0).toUpperCase()}${words.slice(1)}.`] : [];
  tryOut({ owner: 'retime', title, remarks, gone: (kept) => kept && after?.() }, command, args, nothing);
};

/** Makes a change of time of the shot as it is made: what is shown may be one already. */
function timed(make: Making, act: (shot: Shot, make: Making) => void): void {
  const by = (how: Making) => {
    const { committed } = useShot.getState();
    if (committed) act(committed, how);
  };
  last = () => by(atOnce);
  by(make);
}

const retimingWords: Record<Retiming['kind'], string> = {
  move: 'Move keys',
  scale: 'Scale time',
  reverse: 'Reverse',
  whole: 'Put stray keys on whole frames',
  onto: 'Bring onto beats',
};

/** Retimes what is meant, says what that does to other keys, and keeps the same keys picked. */
export function retime(retiming: Retiming, how: Making = atOnce): void {
  timed(how, (shot, make) => {
    const keys = timingKeys(shot);
    const { collision } = useTiming.getState();
    const plan = planRetiming(shot, keys, retiming, collision);
    const picked = hasKeys();
    const after = () => picked && pickKeys(plan.keys);
    make(
      retimingWords[retiming.kind],
      retimeKeys,
      { keys, how: retiming, collision, plan },
      { words: planWords(plan), after },
    );
  });
}

export const scaleBy = (factor: number, about: number, whole = true, make: Making = atOnce): void =>
  retime({ kind: 'scale', about, factor, whole }, make);

/** Moves everything from this frame on. */
export function ripple(by: number, how: Making = atOnce): void {
  timed(how, (shot, make) => {
    const { collision } = useTiming.getState();
    const args = { paths: timingPaths(shot), from: frameNow(), by, collision };
    const plan = planRetiming(shot, keysFrom(shot, args.paths, args.from), { kind: 'move', by }, collision);
    make('Move all from here on', rippleKeys, args, { words: planWords(plan) });
  });
}

/** Puts frames in after this one, or takes some out. */
export function insert(count: number, how: Making = atOnce): void {
  timed(how, (shot, make) => {
    const args = { paths: timingPaths(shot), after: Math.floor(frameNow()), count };
    const nothing =
      count > 0 ? 'No key comes after this frame.' : 'The next key is on the next frame: there is none to take out.';
    make(count > 0 ? 'Put a frame in' : 'Take a frame out', insertFrames, args, { nothing });
  });
}

/** Repeats the run of keys so many times. */
export function repeat(times: number, gap: number, travel: boolean, how: Making = atOnce): void {
  timed(how, (shot, make) => {
    const { collision } = useTiming.getState();
    const args = { keys: timingKeys(shot), times, gap, travel, collision };
    const nothing = 'Other keys stand in the way: choose to push or to replace them.';
    make(`Repeat ${times} times`, repeatKeys, args, { nothing });
  });
}

/** How far apart copies of a run stand by themselves: end on beginning where they agree, else a frame. */
export const usualGap = (shot: Shot): number => (closesOnItself(shot, timingKeys(shot)) ? 0 : 1);

/** Each member's keys a step later than those of the member before it. */
export function stagger(step: number, how: Making = atOnce): void {
  timed(how, (shot, make) => {
    const groups = new Map<string, Record<string, readonly number[]>>();
    for (const [path, frames] of Object.entries(timingKeys(shot))) {
      const { member } = splitPath(path);
      groups.set(member, { ...groups.get(member), [path]: frames });
    }
    const { collision } = useTiming.getState();
    const args = { groups: [...groups.values()], step, collision };
    make(`Offset by ${step}`, staggerKeys, args, { after: () => pickKeys({}) });
  });
}

// Copies of keys

let carried: CarriedKeys = {};

function copy(): void {
  const shot = shotNow();
  if (!shot) return;
  carried = carryKeys(shot, keysNow());
  toast(
    `${keyWords(countKeys(keysNow()))} copied. Ctrl+V sets them down at the current frame, Ctrl+Alt+V with sides changed.`,
  );
}

/**
 * Sets copied keys down at this frame: on the channels they came from, or on the same channels of those who are picked, where
 * they came from one member alone.
 */
function paste(shot: Shot, carried: CarriedKeys): void {
  const from = new Set(Object.keys(carried).map((p) => splitPath(p).member));
  const { picked: selection } = useSelection.getState();
  const others = from.size === 1 && selection.length > 0 ? selection : [];
  const target =
    others.length === 0
      ? Object.entries(carried).filter(([p]) => shot.members.has(splitPath(p).member))
      : others.flatMap((id) =>
          Object.entries(carried).flatMap(([path, keys]) => {
            const { channel } = splitPath(path);
            const has = shownChannels(shot.members.at(id), shot.rigs).some((c) => c.id === channel);
            return has ? [[channelPath(id, channel), keys] as const] : [];
          }),
        );
  const put = Object.fromEntries(target);
  if (Object.keys(put).length === 0) {
    toast('Nobody picked has these channels.');
    return;
  }
  const frame = Math.round(frameNow());
  run(putDownKeys, { carried: put, frame });
  pickKeys(Object.fromEntries(Object.entries(put).map(([p, k]) => [p, k.map((key) => key.frame + frame)])));
}

/** Moves the picked keys by whole frames. */
function nudge(by: number): void {
  timed(atOnce, (shot, make) => {
    const { keys } = useSelection.getState();
    const { collision } = useTiming.getState();
    const plan = planRetiming(shot, keys, { kind: 'move', by }, collision);
    const after = () => pickKeys(plan.keys);
    make('Move keys', moveKeys, { keys, by, collision, plan }, { words: planWords(plan), after });
  });
}

export const collisionWords: Record<CollisionAnswer, string> = {
  stop: 'stop before keys in the way',
  push: 'push keys in the way along',
  replace: 'replace keys that are landed on',
};

export const retiming: AppCommand[] = [
  ...([-1, 1] as const).map(
    (by): AppCommand => ({
      id: by < 0 ? 'keys.earlier' : 'keys.later',
      label: `Move the picked keys a frame ${by < 0 ? 'earlier' : 'later'}`,
      group: 'Time',
      shortcut: by < 0 ? 'Alt+←' : 'Alt+→',
      run: () => nudge(by),
      enabled: hasKeys,
    }),
  ),
  ...([-1, 1] as const).map(
    (by): AppCommand => ({
      id: by < 0 ? 'time.rippleBack' : 'time.rippleOn',
      label: `Everything from here on, a frame ${by < 0 ? 'earlier' : 'later'}`,
      group: 'Time',
      shortcut: by < 0 ? 'Ctrl+Alt+←' : 'Ctrl+Alt+→',
      run: () => ripple(by),
      enabled: hasShot,
    }),
  ),
  { id: 'time.insert', label: 'Put a frame in after this one', group: 'Time', shortcut: 'I', run: () => insert(1) },
  { id: 'time.takeOut', label: 'Take the next frame out', group: 'Time', shortcut: 'Shift+I', run: () => insert(-1) },
  { id: 'time.again', label: 'Do the last change of time again', group: 'Time', shortcut: 'Y', run: () => last?.() },
  {
    id: 'time.twice',
    label: 'Twice as fast, about the current frame',
    group: 'Time',
    shortcut: 'Alt+Shift+→',
    run: () => scaleBy(0.5, frameNow()),
  },
  {
    id: 'time.half',
    label: 'Half as fast, about the current frame',
    group: 'Time',
    shortcut: 'Alt+Shift+←',
    run: () => scaleBy(2, frameNow()),
  },
  { id: 'time.reverse', label: 'Reverse', group: 'Time', shortcut: 'Shift+R', run: () => retime({ kind: 'reverse' }) },
  {
    id: 'time.whole',
    label: 'Put stray keys on whole frames',
    group: 'Time',
    shortcut: 'W',
    run: () => retime({ kind: 'whole' }),
  },
  {
    id: 'time.retime',
    label: 'Retime in numbers…',
    group: 'Time',
    shortcut: 'R',
    run: () => useQuestion.getState().ask('retime'),
  },
  {
    id: 'time.playKeys',
    label: 'Play only from the first key to the last',
    group: 'Time',
    shortcut: 'Shift+P',
    run: withShot((shot) => {
      const span = runSpan(timingKeys(shot));
      if (!span || span.first === span.last) toast('There are no two keys to play between.');
      else run(setPlayRange, { play: { first: Math.floor(span.first), last: Math.ceil(span.last) } });
    }),
  },
  ...(['stop', 'push', 'replace'] as const).map(
    (collision): AppCommand => ({
      id: `collision.${collision}`,
      label: `Keys that move: ${collisionWords[collision]}`,
      group: 'Time',
      run: () => useTiming.setState({ collision }),
    }),
  ),
  {
    id: 'keys.cut',
    label: 'Cut the picked keys out and close the gap',
    group: 'Time',
    shortcut: 'Ctrl+Delete',
    run: withShot((shot) => {
      const { keys } = useSelection.getState();
      // All rows of those who lose keys close up together, or they would fall out of step.
      const members = new Set(Object.keys(keys).map((p) => splitPath(p).member));
      run(cutKeys, { keys, paths: animatedPaths(shot, [...members]) });
      pickKeys({});
    }),
    enabled: hasKeys,
  },
  { id: 'keys.copy', label: 'Copy the picked keys', group: 'Keys', shortcut: 'Ctrl+C', run: copy, enabled: hasKeys },
  {
    id: 'keys.paste',
    label: 'Set the copied keys down here',
    group: 'Keys',
    shortcut: 'Ctrl+V',
    run: withShot((shot) => paste(shot, carried)),
    enabled: () => Object.keys(carried).length > 0,
  },
  {
    id: 'keys.pasteMirrored',
    label: 'Set the copied keys down here with sides changed: left on the right',
    group: 'Keys',
    shortcut: 'Ctrl+Alt+V',
    run: withShot((shot) => paste(shot, mirroredKeys(shot, carried))),
    enabled: () => Object.keys(carried).length > 0,
  },
  ...flipping(),
];

/** Flipping, as with drawings held between the fingers: while a key is down, the key pose before or after shows. */
function flipping(): AppCommand[] {
  let home: number | null = null;
  let turning = 0;
  const away = (direction: -1 | 1) => {
    const shot = shotNow();
    if (!shot) return;
    const { playing, stop, go } = usePlayhead.getState();
    if (playing) stop();
    home ??= frameNow();
    const from = home;
    const frames = timingFrames(shot).sort((a, b) => a - b);
    const next = direction < 0 ? frames.findLast((f) => f < from - 1e-6) : frames.find((f) => f > from + 1e-6);
    go(next ?? from);
  };
  const back = () => {
    clearInterval(turning);
    turning = 0;
    if (home !== null) usePlayhead.getState().go(home);
    home = null;
  };
  const roll = () => {
    const order = [-1, 0, 1, 0] as const;
    let at = 0;
    const show = () => {
      const step = order[at++ % order.length];
      if (step === 0 && home !== null) usePlayhead.getState().go(home);
      else if (step !== 0) away(step);
    };
    show();
    turning = window.setInterval(show, FLIP_MS);
  };
  return [
    {
      id: 'flip.back',
      label: 'Flip to the key before, while held',
      group: 'Time',
      shortcut: 'PageUp',
      run: () => away(-1),
      release: back,
    },
    {
      id: 'flip.on',
      label: 'Flip to the next key, while held',
      group: 'Time',
      shortcut: 'PageDown',
      run: () => away(1),
      release: back,
    },
    {
      id: 'flip.roll',
      label: 'Flip before, this, next, while held',
      group: 'Time',
      shortcut: 'F',
      run: roll,
      release: back,
    },
  ];
}

/** How long each pose shows while flipping: as long as a hand turns drawings. */
const FLIP_MS = 170;

/** The frames with keys that flipping goes to. */
const timingFrames = (shot: Shot): number[] => [
  ...new Set(timingPaths(shot).flatMap((p) => shot.curves.at(p).keys.map((k) => k.frame))),
];
