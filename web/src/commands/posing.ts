import {
  atRest,
  changeChannels,
  frameOf,
  type Hold,
  holdAt,
  holdMembers,
  isHeld,
  limbOfControl,
  mirrored,
  mirrorMotion,
  type PoseValues,
  partnersOf,
  poseAt,
  putPose,
  type Rig,
  rigAmong,
  type Shot,
  switchLimb,
} from '@varrup/core';
import { toast } from 'sonner';
import { useAutoKey } from '../view/auto-key.ts';
import { useHabits } from '../view/habits.ts';
import { useQuestion } from '../view/questions.ts';
import { select } from '../view/selection.ts';
import { useShown } from '../view/shown.ts';
import { stageRef } from '../view/stage-ref.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasSelection, hasShot, pickedNow, run, shotNow, withShot } from './now.ts';

/** Posing rigs: poses copied and mirrored, rest, plants, limbs, partners. */

/** The pose that was copied last, whichever shot it came from. */
let copied: { readonly rig: string; readonly values: PoseValues } | null = null;

interface Posing {
  readonly shot: Shot;
  /** The member that is the rig, and its definition. */
  readonly id: string;
  readonly rig: Rig;
  /** The picked controls; undefined where the rig as a whole is meant. */
  readonly only: ReadonlySet<string> | undefined;
}

/** The rig that is meant, and which of its controls: those picked, or all where the rig itself is picked. */
export function posing(): Posing | null {
  const shot = shotNow();
  const id = shot && rigAmong(shot, pickedNow());
  const member = id ? shot.members.get(id) : undefined;
  if (!shot || !id || member?.kind !== 'rig') return null;
  const own = pickedNow().filter((s) => shot.members.get(s)?.parent === id);
  const whole = own.length === 0 || pickedNow().includes(id);
  return { shot, id, rig: shot.rigs.at(member.shape).rig, only: whole ? undefined : new Set(own) };
}

const withPosing = (act: (p: Posing) => void) => () => {
  const p = posing();
  if (p) act(p);
  else toast('Pick a rig, or some of its controls, first.');
};

/** Whether it was said that a pose goes onto what is picked only: once is enough. */
let toldOfParts = false;

/** Puts a pose onto the rig that is meant, as a hand would. */
export function put(
  { id }: Pick<Posing, 'id'>,
  pose: PoseValues,
  name: string,
  only: ReadonlySet<string> | undefined,
  more: { share?: number; frame?: number; key?: boolean } = {},
): void {
  const { share = 1, frame = frameNow(), key = false } = more;
  run(putPose, { rig: id, pose, frame, share, only, name, key, autoKey: useAutoKey.getState().mode });
  const shot = shotNow();
  if (!shot || !only || toldOfParts || Object.keys(pose).length < 20) return;
  toldOfParts = true;
  toast(`${name} is put on what is picked only. With ${shot.members.at(id).name} picked it is put on the whole body.`);
}

export function paste(turned: boolean): void {
  const p = posing();
  if (!p) toast('Pick a rig, or some of its controls, first.');
  else if (!copied) toast('Copy a pose first.');
  else if (copied.rig !== p.rig.id)
    toast(`The copied pose is one of another rig than ${p.shot.members.at(p.id).name}.`);
  else
    put(
      p,
      turned ? mirrored(p.rig, copied.values) : copied.values,
      turned ? 'the mirrored pose' : 'the copied pose',
      p.only,
    );
}

/** Gives every picked member its rest, wholly or one group of channels. */
function rest(group: 'move' | 'turn' | 'size' | 'all'): void {
  const shot = shotNow();
  if (!shot) return;
  const p = posing();
  // A rig picked as a whole means its controls, and itself where only one group is asked for.
  const ids =
    p && !p.only && group === 'all'
      ? shot.members.values().flatMap((m) => (m.parent === p.id && m.kind === 'control' ? [m.id] : []))
      : pickedNow();
  const held = ids.filter((id) => isHeld(shot.members.at(id), frameNow()));
  const values = atRest(
    shot,
    ids.filter((id) => !held.includes(id)),
    group,
  );
  if (Object.keys(values).length > 0)
    run(changeChannels, { frame: frameNow(), values, autoKey: useAutoKey.getState().mode });
  if (held.length > 0)
    toast(`${held.length === 1 ? 'A planted control stays' : `${held.length} planted controls stay`} where it stands.`);
}

/** Plants the picked controls where they stand, or lets go those that are planted. */
function plant(): void {
  const shot = shotNow();
  if (!shot) return;
  const frame = Math.round(frameNow());
  const ids = pickedNow().filter((id) => shot.members.get(id)?.kind === 'control');
  if (ids.length === 0) {
    toast('Pick a hand or a foot to plant.');
    return;
  }
  const planted = ids.every((id) => holdAt(shot.members.at(id), frame)?.by.is === 'stage');
  run(holdMembers, { ids, by: { is: planted ? 'own' : 'stage' }, frame });
}

/** Gives the picked members somebody to carry them from this frame on. */
export function carry(by: Exclude<Hold['by'], { is: 'stage' }> | { is: 'stage' }): void {
  const ids = pickedNow().filter((id) => !(by.is === 'member' && by.member === id));
  if (ids.length > 0) run(holdMembers, { ids, by, frame: Math.round(frameNow()) });
}

function switchLimbs(): void {
  const shot = shotNow();
  if (!shot) return;
  const frame = Math.round(frameNow() * 1000) / 1000;
  const now = frameOf(shot, frame);
  const limbs = new Map(
    pickedNow().flatMap((id) => {
      const found = limbOfControl(shot, id, now);
      return found ? [[`${found.ref.rig} ${found.ref.limb}`, found] as const] : [];
    }),
  );
  if (limbs.size === 0) toast('Pick a control of an arm or a leg.');
  for (const { ref, limb } of limbs.values()) {
    const dials = shot.members
      .values()
      .find((m) => m.kind === 'control' && m.parent === ref.rig && m.shape.control === limb.dials);
    const reaching = dials ? (now.value(dials.id, 'reach') ?? 1) > 0.5 : true;
    run(switchLimb, { ...ref, to: reaching ? 'joints' : 'reach', frame, words: limb.name });
    // What was picked may have nothing to do any more: the one that works now is picked.
    const next = reaching ? limb.joints[0] : limb.dials;
    const control = shot.members
      .values()
      .find((m) => m.kind === 'control' && m.parent === ref.rig && m.shape.control === next);
    if (control) select([control.id]);
  }
}

const isPosing = () => posing() !== null;

export const posingCommands: AppCommand[] = [
  {
    id: 'pose.copy',
    label: 'Copy the pose of the rig, or of its picked controls',
    group: 'Poses',
    shortcut: 'Ctrl+Shift+C',
    run: withPosing(({ shot, id, rig, only }) => {
      copied = { rig: rig.id, values: poseAt(shot, id, frameNow(), only) };
      toast(
        `Copied ${only ? `the pose of ${only.size === 1 ? 'a control' : `${only.size} controls`}` : `the pose of ${shot.members.at(id).name}`}.`,
      );
    }),
    enabled: isPosing,
  },
  {
    id: 'pose.paste',
    label: 'Paste the pose',
    group: 'Poses',
    shortcut: 'Ctrl+Shift+V',
    run: () => paste(false),
    enabled: isPosing,
  },
  {
    id: 'pose.pasteMirrored',
    label: 'Paste the pose mirrored',
    group: 'Poses',
    shortcut: 'Ctrl+Shift+M',
    run: () => paste(true),
    enabled: isPosing,
  },
  {
    id: 'pose.mirror',
    label: 'Mirror the pose: left and right change places',
    group: 'Poses',
    shortcut: 'Shift+M',
    run: withPosing(({ shot, id, rig, only }) => {
      const both = only && new Set([...only, ...partnersOf(shot, [...only])]);
      put({ id }, mirrored(rig, poseAt(shot, id, frameNow(), both)), 'its mirror image', both);
    }),
    enabled: isPosing,
  },
  {
    id: 'pose.mirrorMotion',
    label: 'Mirror the motion of the frames that play',
    group: 'Poses',
    run: withPosing(({ shot, id, only }) => {
      run(mirrorMotion, { rig: id, only: only && [...only], from: shot.play.first, to: shot.play.last });
    }),
    enabled: isPosing,
  },
  {
    id: 'pose.keep',
    label: 'Keep the pose in the pose book…',
    group: 'Poses',
    shortcut: 'Alt+Shift+K',
    run: () => useQuestion.getState().ask('keep-pose'),
    enabled: isPosing,
  },
  {
    id: 'rest.all',
    label: 'Back to rest',
    group: 'Poses',
    shortcut: 'Shift+Backspace',
    run: () => rest('all'),
    enabled: hasSelection,
  },
  {
    id: 'rest.move',
    label: 'Back to rest: move',
    group: 'Poses',
    shortcut: 'Alt+Shift+1',
    run: () => rest('move'),
    enabled: hasSelection,
  },
  {
    id: 'rest.turn',
    label: 'Back to rest: turn',
    group: 'Poses',
    shortcut: 'Alt+Shift+2',
    run: () => rest('turn'),
    enabled: hasSelection,
  },
  {
    id: 'rest.size',
    label: 'Back to rest: size',
    group: 'Poses',
    shortcut: 'Alt+Shift+3',
    run: () => rest('size'),
    enabled: hasSelection,
  },
  {
    id: 'rig.partners',
    label: 'Pick the counterparts on the other side',
    group: 'Poses',
    shortcut: 'Shift+D',
    run: withShot((shot) => select(partnersOf(shot, pickedNow()))),
    enabled: hasSelection,
  },
  {
    id: 'rig.everything',
    label: 'Pick every control of the rig',
    group: 'Poses',
    shortcut: 'Ctrl+Shift+A',
    run: withPosing(({ shot, id }) => {
      select(shot.members.values().flatMap((m) => (m.parent === id && shot.rigs.controlOf(m) ? [m.id] : [])));
    }),
    enabled: isPosing,
  },
  {
    id: 'limb.switch',
    label: 'An arm or leg: reach, or joint by joint',
    group: 'Poses',
    shortcut: 'Shift+Q',
    run: switchLimbs,
    enabled: hasSelection,
  },
  {
    id: 'rig.plant',
    label: 'Plant where it stands, or let go',
    group: 'Poses',
    shortcut: 'Shift+T',
    run: plant,
    enabled: hasSelection,
  },
  {
    id: 'cast.hold',
    label: 'Carried by somebody from this frame on…',
    group: 'Cast',
    shortcut: 'Alt+Shift+P',
    run: () => useQuestion.getState().ask('hold'),
    enabled: hasSelection,
  },
  {
    id: 'cast.rig',
    label: 'Bring in: a rig of the library…',
    group: 'Cast',
    shortcut: 'Alt+Shift+R',
    run: () => useQuestion.getState().ask('rig'),
    enabled: hasShot,
  },
  {
    id: 'view.fullPicture',
    label: 'Full picture where drawing is slow, from the next opening on',
    group: 'View',
    run: () => {
      const { fullPicture, set } = useHabits.getState();
      set({ fullPicture: !fullPicture });
      toast(
        fullPicture
          ? 'The stage begins with its draft picture where drawing is slow.'
          : 'The stage begins with its full picture.',
      );
    },
  },
  {
    id: 'view.sketch',
    label: 'Sketch picture: few points and no small pictures, for a slow machine',
    group: 'View',
    run: () => useHabits.getState().set({ sketch: !useHabits.getState().sketch }),
  },
  {
    id: 'view.prove',
    label: 'Hold the drawn rigs against the computed ones',
    group: 'View',
    run: () => {
      const found = stageRef.current?.prove();
      if (!found) toast('There is no rig in this shot.');
      else
        toast(
          `${found.vertices} vertices are drawn within ${(found.metres * 1000).toFixed(4)} mm of where they are computed.`,
        );
    },
    enabled: hasShot,
  },
  {
    id: 'view.controls',
    label: 'Controls of rigs',
    group: 'View',
    shortcut: 'Alt+Shift+H',
    run: () => useShown.setState((s) => ({ controls: !s.controls })),
  },
  {
    id: 'view.xray',
    label: 'See through rigs',
    group: 'View',
    shortcut: 'Alt+Shift+G',
    run: () => useShown.setState((s) => ({ xray: !s.xray })),
  },
  {
    id: 'view.balance',
    label: 'Balance of the rig',
    group: 'View',
    shortcut: 'Alt+Shift+B',
    run: () => useShown.setState((s) => ({ balance: !s.balance })),
  },
];
