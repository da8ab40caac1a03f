import { type Shot, splitPath } from '@varrup/core';
import { create } from 'zustand';
import { useShot } from '../shot/shot-store.ts';
import { pickChannels, select, useSelection } from '../view/selection.ts';

/** The menu of what is under the hand: keys, channels, or members of the cast. It acts on what is picked, so what it is opened on is picked first. */
export type Meant = 'keys' | 'channels' | 'members';

interface Here {
  readonly open: { readonly meant: Meant; readonly title: string; readonly x: number; readonly y: number } | null;
  close(): void;
}

export const useHere = create<Here>((set) => ({ open: null, close: () => set({ open: null }) }));

interface Place {
  readonly clientX: number;
  readonly clientY: number;
}

/** Opens the menu of keys, channels or members at a place of the window. Somebody else's menu is not the browser's. */
export function openHere(meant: Meant, { clientX: x, clientY: y }: Place): void {
  const { shot } = useShot.getState();
  if (shot) useHere.setState({ open: { meant, title: titleOf(shot, meant), x, y } });
}

function titleOf(shot: Shot, meant: Meant): string {
  const { keys, channels, picked: selection } = useSelection.getState();
  if (meant === 'keys') {
    const count = Object.values(keys).reduce((n, frames) => n + frames.length, 0);
    return count === 1 ? 'a key' : `${count} keys`;
  }
  if (meant === 'channels') {
    const [path] = channels;
    if (channels.length !== 1 || !path) return `${channels.length} channels`;
    const { member, channel } = splitPath(path);
    return `${channel.replaceAll('.', ' ')} of ${shot.members.get(member)?.name}`;
  }
  const [id] = selection;
  return selection.length === 1 && id ? (shot.members.get(id)?.name ?? '') : `${selection.length} picked`;
}

/** Picks members as a press does, but what is picked already stays, and opens their menu. */
export function membersHere(ids: readonly string[], place: Place): void {
  const { picked: selection } = useSelection.getState();
  if (ids.length > 0 && !ids.every((id) => selection.includes(id))) select(ids);
  openHere('members', place);
}

/** The same for a channel. */
export function channelHere(path: string, place: Place): void {
  const { channels, picked: selection } = useSelection.getState();
  const { member } = splitPath(path);
  if (!selection.includes(member)) select([member]);
  if (!channels.includes(path)) pickChannels([path]);
  openHere('channels', place);
}

/** The menu of what has the focus, or else of what is picked: keys before channels before members. */
export function menuOfPicked(): void {
  const focused = document.activeElement;
  const box = focused?.getBoundingClientRect();
  const place = box
    ? { clientX: box.left + Math.min(box.width / 2, 60), clientY: box.top + Math.min(box.height, 24) }
    : { clientX: innerWidth / 2, clientY: innerHeight / 2 };
  const own = focused?.closest('[data-here]');
  if (own) {
    own.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, ...place }));
    return;
  }
  const { keys, channels, picked: selection } = useSelection.getState();
  const stage = document.querySelector('[data-testid=sheet], [data-testid=curves], [data-testid=stage]');
  const { left, top, width } = (stage ?? document.body).getBoundingClientRect();
  const there = focused === document.body ? { clientX: left + width / 2, clientY: top + 30 } : place;
  if (Object.keys(keys).length > 0) openHere('keys', there);
  else if (channels.length > 0) openHere('channels', there);
  else if (selection.length > 0) openHere('members', there);
}
