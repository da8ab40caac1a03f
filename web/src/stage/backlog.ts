/** After so long, in milliseconds, it is drawn all the same: a driver may never say that it is through. */
const PATIENCE = 2_000;

/**
 * Whether the graphics card is still at a drawing. What is asked of it meanwhile would queue up, and the first thing that must wait for the
 * queue, such as a shader, would hold up the page for as long as all of it takes.
 */
export class Backlog {
  readonly #gl: WebGL2RenderingContext;
  #fence: WebGLSync | null = null;
  #since = 0;

  constructor(gl: WebGL2RenderingContext) {
    this.#gl = gl;
  }

  /** Everything has been asked for that belongs to a drawing. */
  note(now: number): void {
    if (this.#fence) this.#gl.deleteSync(this.#fence);
    this.#fence = this.#gl.fenceSync(this.#gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    this.#gl.flush();
    this.#since = now;
  }

  /** Whether it is at one still. @param now as `performance.now()` tells it */
  isAtWork(now: number): boolean {
    if (!this.#fence || now - this.#since > PATIENCE) return false;
    if (this.#gl.getSyncParameter(this.#fence, this.#gl.SYNC_STATUS) !== this.#gl.SIGNALED) return true;
    this.#gl.deleteSync(this.#fence);
    this.#fence = null;
    return false;
  }
}
