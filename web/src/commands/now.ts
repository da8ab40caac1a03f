import { countKeys, type Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';

/** What commands act on: the shot, the view and the frame as they are when the command is given. */

export const shotNow = () => useShot.getState().shot;
export const pickedNow = () => useSelection.getState().picked;
export const keysNow = () => useSelection.getState().keys;
export const channelsNow = () => useSelection.getState().channels;
export const frameNow = () => usePlayhead.getState().frame;
export const run: ReturnType<typeof useShot.getState>['run'] = (command, args) => useShot.getState().run(command, args);
export const hasShot = () => shotNow() !== null;
export const hasSelection = () => pickedNow().length > 0;
export const hasKeys = () => countKeys(keysNow()) > 0;

export const withShot = (act: (shot: Shot) => void) => () => {
  const shot = shotNow();
  if (shot) act(shot);
};
export const unlocked = (ids: readonly string[]) => ids.filter((id) => !shotNow()?.members.get(id)?.locked);
