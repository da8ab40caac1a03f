import type { Shot } from '@varrup/core';
import { create } from 'zustand';

/**
 * Where in time the desk is. While playing, `frame` changes at the shot's rate and nothing in React listens to it: the
 * stage, the readouts and the lines in the sheet follow through `subscribe`. `settled` is the frame React shows; it
 * stays behind while playing and catches up when the play head comes to rest.
 */
export interface Playhead {
  readonly frame: number;
  readonly settled: number;
  readonly playing: boolean;
  readonly speed: number;
  /** What happens at the end of the range. */
  readonly ending: 'loop' | 'once' | 'swing';
  /** In real time frames are left out where the machine is too slow; else every frame is shown, however long it takes. */
  readonly pace: 'real' | 'every';
  /** Frames left out in the last second. */
  readonly dropped: number;
  go(frame: number): void;
  set(change: Partial<Pick<Playhead, 'speed' | 'ending' | 'pace'>>): void;
  play(shot: () => Shot | null): void;
  stop(): void;
}

let request = 0;

export const usePlayhead = create<Playhead>((set, get) => ({
  frame: 1,
  settled: 1,
  playing: false,
  speed: 1,
  ending: 'loop',
  pace: 'real',
  dropped: 0,
  go: (frame) => set(get().playing ? { frame } : { frame, settled: frame }),
  set: (change) => set(change),

  stop() {
    cancelAnimationFrame(request);
    const frame = Math.round(get().frame);
    set({ playing: false, frame, settled: frame, dropped: 0 });
  },

  play(shot) {
    cancelAnimationFrame(request);
    const clock = new Clock(get().frame);
    set({ playing: true, dropped: 0 });
    const tick = (now: number) => {
      const document = shot();
      if (!document || !get().playing) return;
      const next = clock.next(now, document, get());
      if (next.dropped !== get().dropped) set({ dropped: next.dropped });
      if (next.frame !== get().frame) set({ frame: next.frame });
      if (next.ended) get().stop();
      else request = requestAnimationFrame(tick);
    };
    request = requestAnimationFrame(tick);
  },
}));

/** Turns the time of the screen into frames. Keeps count from one start, so that nothing drifts. */
export class Clock {
  #start = Number.NaN;
  #origin: number;
  #shown: number;
  #speed = Number.NaN;
  #last: number;
  #drops: number[] = [];

  constructor(frame: number) {
    this.#origin = frame;
    this.#shown = 0;
    this.#last = frame;
  }

  next(
    now: number,
    { rate, play }: Pick<Shot, 'rate' | 'play'>,
    { speed, ending, pace }: Pick<Playhead, 'speed' | 'ending' | 'pace'>,
  ): { frame: number; dropped: number; ended: boolean } {
    const pacePerSecond = rate * speed;
    if (Number.isNaN(this.#start) || this.#speed !== pacePerSecond) {
      // A change of speed begins a new count from where we are.
      this.#origin = this.#last;
      this.#start = now;
      this.#shown = 0;
      this.#speed = pacePerSecond;
      if (this.#origin >= play.last && ending === 'once') this.#origin = play.first;
    }
    const due = Math.floor(((now - this.#start) * pacePerSecond) / 1000 + 1e-6);
    const step = due - this.#shown;
    if (step >= 1 && pace === 'every') {
      this.#shown += 1;
      // Whatever time the frame took beyond its share is let go.
      if (step > 1) this.#start += ((step - 1) * 1000) / pacePerSecond;
    } else if (step >= 1) {
      for (let i = 1; i < step; i++) this.#drops.push(now);
      this.#shown = due;
    }
    this.#drops = this.#drops.filter((at) => now - at < 1000);
    const at = place(this.#origin + this.#shown, play, ending);
    this.#last = at.frame;
    return { ...at, dropped: this.#drops.length };
  }
}

/** A count of frames, brought into the play range. */
function place(
  count: number,
  { first, last }: Shot['play'],
  ending: Playhead['ending'],
): { frame: number; ended: boolean } {
  const length = last - first + 1;
  const gone = count - first;
  if (gone < 0) return { frame: first, ended: false };
  if (ending === 'once') return { frame: Math.min(first + gone, last), ended: gone >= length - 1 };
  if (ending === 'loop' || length < 2) return { frame: first + (gone % length), ended: false };
  const round = gone % (2 * (length - 1));
  return { frame: first + (round < length ? round : 2 * (length - 1) - round), ended: false };
}
