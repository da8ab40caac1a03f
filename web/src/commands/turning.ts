import { findFlips, hasForm, isLocked, type Point, type Shot, topmost, turnTogether, unrollTurns } from '@varrup/core';
import { toast } from 'sonner';
import * as THREE from 'three';
import { handlePlace, middleOf } from '../stage/tools/handle-place.ts';
import { useHabits } from '../view/habits.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { type Axis, type TurnAbout, useTool } from '../view/tool.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasSelection, hasShot, pickedNow, run, shotNow, withShot } from './now.ts';

/** Turning many together, copies in rows and grids, flips. */

export const aboutWords: Record<TurnAbout, string> = {
  own: 'each about its own pivot',
  middle: 'about the middle of all',
  lead: "about the last one's pivot",
  stage: 'about the middle of the stage',
};

const axes: Record<Axis, Point> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** The axis of a turn in the world: the world's, the parent's or the leading member's own, as the handles are set. */
function axisNow(shot: Shot, axis: Axis): Point {
  const frame = live.now;
  const place = frame && handlePlace({ shot, frame, picked: pickedNow(), tool: useTool.getState() });
  if (!place) return axes[axis];
  const v = new THREE.Vector3(...axes[axis]).applyQuaternion(place.axes);
  return [v.x, v.y, v.z];
}

/** Turns what is picked from this frame on by an angle, keyed at both ends, and goes to where the turn ends. */
export function turnPicked(axis: Axis, degrees: number): void {
  const shot = shotNow();
  if (!shot) return;
  const frames = useHabits.getState().turnFrames;
  const from = Math.round(frameNow());
  const to = from + frames;
  const ids = topmost(shot, pickedNow()).filter((id) => !isLocked(shot, id));
  if (ids.length === 0) {
    toast('Pick something that is not locked first.');
    return;
  }
  const { about } = useTool.getState();
  const args = { axis: axisNow(shot, axis), angle: (degrees * Math.PI) / 180, from, to };
  const groups = about === 'own' ? ids.map((id) => [id]) : [ids];
  const frame = live.now;
  if (!frame) return;
  // Each about its own pivot is as many turns, and still one step to take back.
  run(turnGroups, { groups: groups.map((g) => ({ ids: g, pivot: middleOf(shot, frame, g, about) })), ...args });
  usePlayhead.getState().go(Math.min(to, shot.range.last));
}

interface Groups {
  readonly groups: readonly { readonly ids: readonly string[]; readonly pivot: Point }[];
  readonly axis: Point;
  readonly angle: number;
  readonly from: number;
  readonly to: number;
}

const turnGroups = {
  name: turnTogether.name,
  label: ({ groups, ...turn }: Groups, shot: Shot) =>
    turnTogether.label({ ids: groups.flatMap((g) => g.ids), pivot: [0, 0, 0], ...turn }, shot),
  apply: (shot: Shot, { groups, ...turn }: Groups) =>
    groups.reduce((next, group) => turnTogether.apply(next, { ...group, ...turn }), shot),
};

export const turning: AppCommand[] = [
  ...(['x', 'y', 'z'] as const).flatMap((axis) =>
    ([1, -1] as const).map(
      (sign): AppCommand => ({
        id: `turn.${axis}${sign > 0 ? '' : '.back'}`,
        label: `A quarter turn about ${axis}${sign > 0 ? '' : ', the other way'}, keyed`,
        group: 'Turning',
        shortcut: `${sign > 0 ? '' : 'Ctrl+'}Alt+Shift+${axis.toUpperCase()}`,
        run: () => turnPicked(axis, sign * 90),
        enabled: hasSelection,
      }),
    ),
  ),
  ...(Object.keys(aboutWords) as TurnAbout[]).map(
    (about): AppCommand => ({
      id: `about.${about}`,
      label: `Turn ${aboutWords[about]}`,
      group: 'Turning',
      run: () => useTool.setState({ about, tool: 'turn' }),
    }),
  ),
  {
    id: 'turn.unroll',
    label: 'Unroll flips of the turn',
    group: 'Turning',
    run: withShot((shot) => {
      const ids = pickedNow().length > 0 ? pickedNow() : shot.members.keys();
      const found = findFlips(shot, ids).length;
      if (found === 0) toast('No turn flips here.');
      else run(unrollTurns, { ids });
    }),
    enabled: hasShot,
  },
  {
    id: 'cast.rigOf',
    label: 'A rig of them, to shape softly and to build on…',
    group: 'Cast',
    run: () => useQuestion.getState().ask('rig-of'),
    enabled: () => {
      const shot = shotNow();
      // Forms, or groups that hold some: controls and cameras have nothing to build on.
      return pickedNow().some((id) => {
        const kind = shot?.members.get(id)?.kind;
        return kind === 'group' || kind === 'rig' || (kind !== undefined && hasForm(kind));
      });
    },
  },
  {
    id: 'cast.break',
    label: 'Break into pieces…',
    group: 'Cast',
    run: () => useQuestion.getState().ask('break'),
    enabled: () => {
      const shot = shotNow();
      const lead = pickedNow().at(-1);
      const member = lead === undefined ? undefined : shot?.members.get(lead);
      return member !== undefined && hasForm(member.kind) && member.kind !== 'plane';
    },
  },
  {
    id: 'cast.copies',
    label: 'Copies set out: in a row, a ring, strewn, along a way, over a surface, mirrored…',
    group: 'Cast',
    shortcut: 'Ctrl+Shift+D',
    run: () => useQuestion.getState().ask('copies'),
    enabled: hasSelection,
  },
];
