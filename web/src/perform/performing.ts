import { type ChannelValue, channelValue, type Performed, type PerformHow, putPerformed } from '@varrup/core';
import { create } from 'zustand';
import type { Preview } from '../shot/previews.ts';
import { useShot } from '../shot/shot-store.ts';
import type { Grab, Pointer } from '../stage/tools/tool.ts';
import { usePlayhead } from '../view/playhead.ts';

/** Performing: a control goes with the hand while the shot plays, and what the hand did becomes keys. */
export interface Perform extends PerformHow {
  /** A drag in the stage performs. */
  readonly armed: boolean;
}

const RADIANS = Math.PI / 180;

export const usePerform = create<Perform>(() => ({ armed: false, smooth: 2, metres: 0.004, radians: 0.4 * RADIANS }));

/**
 * A hand that performs, from pressing to letting go: the shot plays from the frame it took hold on, and goes back there afterwards, so that
 * one can go over it once more with another channel.
 * @param valuesAt what the channels are with the hand there
 */
export function performing(preview: Preview, valuesAt: (pointer: Pointer) => Record<string, ChannelValue>): Grab {
  const playhead = usePlayhead.getState();
  const from = Math.round(playhead.frame);
  const lists = new Map<string, { frame: number; value: ChannelValue }[]>();
  const { smooth, metres, radians } = usePerform.getState();
  const how = { smooth, metres, radians };
  let pointer: Pointer | null = null;
  let last = from;

  const record = (frame: number) => {
    const { committed } = useShot.getState();
    if (!pointer || !committed) return;
    for (const [path, value] of Object.entries(valuesAt(pointer))) {
      const list = lists.get(path) ?? [];
      // Whatever the hand takes along later has stood as it was until then.
      if (list.length === 0 && frame > from) {
        const was = channelValue(committed, path, from);
        if (was !== undefined) list.push({ frame: from, value: was }, { frame: Math.max(from, last), value: was });
      }
      const before = list.at(-1);
      if (before && frame <= before.frame) list[list.length - 1] = { frame: before.frame, value };
      else list.push({ frame, value });
      lists.set(path, list);
    }
    last = frame;
    const performed: Record<string, Performed> = Object.fromEntries(lists);
    if (lists.size > 0) preview.show(putPerformed, { performed, how });
  };

  const end = usePlayhead.subscribe((now, old) => {
    if (now.frame === old.frame) return;
    // At the end of what plays the performance ends, and does not go over its own beginning.
    if (now.frame < last || !now.playing) done();
    else record(now.frame);
  });
  let isDone = false;
  const done = () => {
    if (isDone) return;
    isDone = true;
    end();
    usePlayhead.getState().stop();
    usePlayhead.getState().go(from);
    if (lists.size > 0) preview.keep();
    else preview.drop();
  };
  const performsAlone = !playhead.playing;
  if (performsAlone) playhead.play(() => useShot.getState().shot);

  return {
    move(next) {
      pointer = next;
      return undefined;
    },
    release: done,
    cancel() {
      isDone = true;
      end();
      usePlayhead.getState().stop();
      usePlayhead.getState().go(from);
      preview.drop();
    },
  };
}
