import {
  addClip,
  type Clip,
  clipAtWork,
  clipsOf,
  footfallOf,
  holdFeet,
  labelPoses,
  lagOf,
  lengthFor,
  newClip,
  poseLabels,
  resizeClip,
  type SeenFootfall,
  type Shot,
  setHalves,
  setTravel,
  shiftInCycle,
  takeUpClip,
} from '@varrup/core';
import { toast } from 'sonner';
import { useShot } from '../shot/shot-store.ts';
import { type OnTable, tryOut } from '../trial/table.ts';
import { useHabits } from '../view/habits.ts';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useTiming } from '../view/timing.ts';
import type { AppCommand } from './command.ts';
import { pickedNow, run, shotNow, withShot } from './now.ts';
import { rigMeant } from './rig-meant.ts';

/** Clips of the picked rig: cycles made, made longer, mirrored, shifted; in place or over the stage. */

const clipNow = (): { shot: Shot; clip: Clip } | null => {
  const shot = shotNow();
  const rig = shot && rigMeant(shot, pickedNow());
  const clip = rig ? clipAtWork(shot, rig) : null;
  return shot && clip ? { shot, clip } : null;
};

const withClip = (act: (now: { shot: Shot; clip: Clip }) => void) => () => {
  const now = clipNow();
  if (now) act(now);
  else toast('Pick a rig that has a clip first.');
};

const hasRig = () => {
  const shot = shotNow();
  return shot !== null && rigMeant(shot, pickedNow()) !== null;
};
const hasClip = () => clipNow() !== null;

/** Makes a clip of a rig that begins where playing begins. Keys the rig has without a clip become its own. */
export function makeClip(shot: Shot, rig: string): void {
  run(addClip, { clip: newClip(shot, rig, { name: clipsOf(shot, rig).length === 0 ? 'Walk' : 'Clip' }) });
  usePlaces.setState({ side: 'clips' });
}

/** Shows the feet held to the ground in the frames they touch it, with the travel they measure; or says what is missing for that. */
export function holdFeetAsSeen({ clip: { id } }: { clip: Clip }): void {
  // Of the shot as it is made: what is shown may hold them already.
  const { committed } = useShot.getState();
  const clip = committed?.clips.get(id);
  if (!committed || !clip) return;
  const seen = footfallOf(committed, clip);
  if (typeof seen === 'string') toast(seen);
  else showHeld(clip, seen, true);
}

/** Less of a difference than this between what a clip travels and what its feet measure is none, metres. */
const SAME_TRAVEL = 5e-4;

function showHeld(clip: Clip, seen: SeenFootfall, asMeasured: boolean): void {
  const { stances, travel } = seen;
  const own = clip.travel;
  const differs = Math.abs(own) > SAME_TRAVEL && Math.abs(own - travel) > SAME_TRAVEL;
  const trial: OnTable = {
    owner: `feet ${clip.id}`,
    title: `Hold the feet of ${clip.name} to the ground`,
    remarks: [
      `${Object.keys(stances).length} feet stand, and the clip travels ${(asMeasured ? travel : own).toFixed(3)} m a cycle${asMeasured ? ', as far as they go' : ', as it says'}.`,
    ],
    ...(differs
      ? {
          choice: {
            legend: 'How far the clip travels',
            options: [true, false].map((measured) => ({
              word: measured ? `${travel.toFixed(3)} m, as the feet go` : `${own.toFixed(3)} m, as the clip says`,
              picked: measured === asMeasured,
              choose: () => showHeld(clip, seen, measured),
            })),
          },
        }
      : {}),
  };
  const args = { id: clip.id, stances, travel: asMeasured ? travel : own };
  tryOut(trial, holdFeet, args, 'The feet are held to the ground as they are.');
}

/** Moves the picked controls round the cycle. */
function shiftPicked(frames: number): void {
  withClip(({ shot, clip }) => {
    const ids = pickedNow().filter((id) => shot.members.get(id)?.kind === 'control');
    if (ids.length === 0) toast('Pick the controls that are to come later or earlier.');
    else run(shiftInCycle, { id: clip.id, by: Object.fromEntries(ids.map((id) => [id, frames])) });
  })();
}

/** Each of the picked controls so many frames later than the one picked before it. */
export function lagPicked(frames: number): void {
  withClip(({ shot, clip }) => {
    const chain = pickedNow().filter((id) => shot.members.get(id)?.kind === 'control');
    if (chain.length < 2) toast('Pick the controls of a chain, from its root to its tip.');
    else run(shiftInCycle, { id: clip.id, by: lagOf(chain, frames) });
  })();
}

/** Lets play just one round of the clip. */
export function playRound({ first, length }: Clip): void {
  const shot = shotNow();
  if (!shot) return;
  usePlayhead.getState().go(first);
  useTiming.setState({ span: { first: first - length * 0.06, last: first + length * 1.06 } });
}

export const clipCommands: AppCommand[] = [
  {
    id: 'clip.new',
    label: 'New clip of the rig',
    group: 'Clips',
    shortcut: 'Alt+Shift+N',
    run: withShot((shot) => {
      const rig = rigMeant(shot, pickedNow());
      if (rig) makeClip(shot, rig);
    }),
    enabled: hasRig,
  },
  {
    id: 'clip.next',
    label: 'Take up the next clip of the rig',
    group: 'Clips',
    shortcut: 'Alt+Shift+T',
    run: withClip(({ shot, clip }) => {
      const all = clipsOf(shot, clip.rig);
      const next = all[(all.findIndex((c) => c.id === clip.id) + 1) % all.length];
      if (next.kept) run(takeUpClip, { id: next.id });
    }),
    enabled: hasClip,
  },
  {
    id: 'clip.travelling',
    label: 'In place, or over the stage',
    group: 'Clips',
    shortcut: 'Alt+Shift+W',
    run: withClip(({ clip }) => run(setTravel, { id: clip.id, change: { travelling: !clip.travelling } })),
    enabled: hasClip,
  },
  {
    id: 'clip.mirror',
    label: 'Mirror the first half of the cycle onto the second, from now on',
    group: 'Clips',
    run: withClip(({ clip }) => run(setHalves, { id: clip.id, halves: 'mirrored', leads: 'first' })),
    enabled: hasClip,
  },
  {
    id: 'clip.free',
    label: 'Let the halves of the cycle go: each is for itself',
    group: 'Clips',
    run: withClip(({ clip }) => run(setHalves, { id: clip.id, halves: 'free', leads: 'first' })),
    enabled: hasClip,
  },
  {
    id: 'clip.holdFeet',
    label: 'Hold the feet to the ground while they are down',
    group: 'Clips',
    run: withClip(holdFeetAsSeen),
    enabled: hasClip,
  },
  {
    id: 'clip.label',
    label: 'Label the four poses of both steps',
    group: 'Clips',
    run: withClip(({ clip }) => run(labelPoses, { id: clip.id, labels: poseLabels(clip.length) })),
    enabled: hasClip,
  },
  {
    id: 'clip.faster',
    label: 'The cycle twice as fast',
    group: 'Clips',
    run: withClip(({ clip }) => run(resizeClip, { id: clip.id, length: lengthFor(clip, clip.length / 2) })),
    enabled: hasClip,
  },
  {
    id: 'clip.slower',
    label: 'The cycle half as fast',
    group: 'Clips',
    run: withClip(({ clip }) => run(resizeClip, { id: clip.id, length: lengthFor(clip, clip.length * 2) })),
    enabled: hasClip,
  },
  {
    id: 'clip.later',
    label: 'The picked controls a frame later in the cycle',
    group: 'Clips',
    shortcut: 'Alt+Shift+↓',
    run: () => shiftPicked(1),
    enabled: hasClip,
  },
  {
    id: 'clip.earlier',
    label: 'The picked controls a frame earlier in the cycle',
    group: 'Clips',
    shortcut: 'Alt+Shift+↑',
    run: () => shiftPicked(-1),
    enabled: hasClip,
  },
  {
    id: 'clip.lag',
    label: 'Lag: each picked control two frames later than the one before it',
    group: 'Clips',
    shortcut: 'Alt+Shift+L',
    run: () => lagPicked(2),
    enabled: hasClip,
  },
  {
    id: 'view.footprints',
    label: 'Footprints on the floor',
    group: 'View',
    shortcut: 'Alt+Shift+F',
    run: () => {
      const { footprints, set } = useHabits.getState();
      set({ footprints: !footprints });
    },
  },
  {
    id: 'view.bodyArcs',
    label: 'Arcs of hips, head, wrists and ankles',
    group: 'View',
    shortcut: 'Alt+Shift+O',
    run: () => {
      const { bodyArcs, set } = useHabits.getState();
      set({ bodyArcs: !bodyArcs });
    },
  },
];
