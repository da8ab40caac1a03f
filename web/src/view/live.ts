import { type Frame, Program, posedAt, type Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from './playhead.ts';

/**
 * The one program and frame that everything on the desk draws from. A change of the shot or of the time asks for a new
 * evaluation at the next screen refresh; however many changes there are, there is one.
 */
export type Listener = (frame: Frame, shot: Shot) => void;

class Live {
  #program: Program | null = null;
  #frame: Frame | null = null;
  #shot: Shot | null = null;
  /** What stands in for curves in what was last evaluated. */
  #seen: Shot['over'];
  /** The numbers of another time than now. */
  #sampled: Frame | null = null;
  #request = 0;
  readonly #listeners = new Set<Listener>();

  constructor() {
    useShot.subscribe((state, old) => {
      if (state.shot !== old.shot) this.ask();
    });
    usePlayhead.subscribe((state, old) => {
      if (state.frame !== old.frame || state.playing !== old.playing) this.ask();
    });
  }

  /** The numbers of now. Null before a shot is open. */
  get now(): Frame | null {
    this.#evaluate();
    return this.#frame;
  }

  /**
   * The numbers of another time than now, as the curves have them; overwritten by the next call. Null before a shot is open.
   * What is drawn of other frames (arcs, ghosts, footprints) asks for them here, so that the shot is compiled once.
   */
  sample(time: number): Frame | null {
    const { shot } = useShot.getState();
    this.#evaluate();
    const program = this.#program;
    if (!shot || !program) return null;
    program.update(shot);
    if (this.#sampled?.layout !== program.layout) this.#sampled = program.createFrame();
    program.evaluate(time, this.#sampled);
    return this.#sampled;
  }

  /** Calls back after every evaluation. Returns what ends that. */
  listen(listener: Listener): () => void {
    this.#listeners.add(listener);
    this.ask();
    return () => this.#listeners.delete(listener);
  }

  /** Whether there is something new that nobody has been told of yet. */
  get isAsked(): boolean {
    return this.#request !== 0;
  }

  /** Evaluates and tells everybody at the next refresh. */
  ask(): void {
    if (this.#request !== 0) return;
    this.#request = requestAnimationFrame(() => {
      this.#request = 0;
      this.#evaluate();
      if (!this.#frame || !this.#shot) return;
      for (const listener of this.#listeners) listener(this.#frame, this.#shot);
    });
  }

  #evaluate(): void {
    const { shot } = useShot.getState();
    const { frame: time, playing } = usePlayhead.getState();
    if (!shot) {
      this.#program = null;
      this.#frame = null;
      this.#sampled = null;
      this.#shot = null;
      return;
    }
    // What is loose is seen on its own frame, and while it plays nowhere.
    const seen = playing ? shot : posedAt(shot, time);
    if (shot === this.#shot && this.#frame?.at === time && this.#seen === seen.over) return;
    this.#seen = seen.over;
    this.#program ??= new Program(seen);
    this.#program.update(seen);
    if (this.#frame?.layout !== this.#program.layout) this.#frame = this.#program.createFrame();
    this.#program.evaluate(time, this.#frame);
    this.#shot = shot;
  }
}

export const live = new Live();
