import type { Quality } from './quality.ts';

/** How often it is asked whether a picture is done, in milliseconds. */
const ASK_EVERY = 4;

/**
 * Measures how long pictures take. When one is done is asked of a fence now and then: to wait for a pixel of it would hold
 * everything else up.
 */
export class Judge {
  readonly #gl: WebGL2RenderingContext;
  readonly #quality: Quality;
  readonly #changed: () => void;
  #asking = 0;

  /** @param changed called when the quality has changed */
  constructor(gl: WebGL2RenderingContext, quality: Quality, changed: () => void) {
    this.#gl = gl;
    this.#quality = quality;
    this.#changed = changed;
  }

  /** Measures the picture whose drawing was begun at a time, if one should be and none is measured. */
  measure(begun: number): void {
    if (this.#asking || !this.#quality.wants()) return;
    const gl = this.#gl;
    const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    if (!fence) return;
    gl.flush();
    this.#asking = window.setInterval(() => {
      if (gl.clientWaitSync(fence, 0, 0) === gl.TIMEOUT_EXPIRED) return;
      this.end();
      gl.deleteSync(fence);
      if (this.#quality.took(performance.now() - begun)) this.#changed();
    }, ASK_EVERY);
  }

  end(): void {
    window.clearInterval(this.#asking);
    this.#asking = 0;
  }
}
