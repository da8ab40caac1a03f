import { countKeys, type Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useView } from '../view/view-store.ts';

/** What commands act on: the shot, the view and the frame as they are when the command is given. */

export const shotNow = () => useShot.getState().shot;
export const view = () => useView.getState();
export const frameNow = () => usePlayhead.getState().frame;
export const run: ReturnType<typeof useShot.getState>['run'] = (command, args) => useShot.getState().run(command, args);
export const hasShot = () => shotNow() !== null;
export const hasSelection = () => view().selection.length > 0;
export const hasKeys = () => countKeys(view().keys) > 0;

export const withShot = (act: (shot: Shot) => void) => () => {
  const shot = shotNow();
  if (shot) act(shot);
};
export const unlocked = (ids: readonly string[]) => ids.filter((id) => !shotNow()?.members.get(id)?.locked);
